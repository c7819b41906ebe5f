import { QueryClientProvider } from '@tanstack/react-query';
import { useFonts } from 'expo-font';
import { Slot } from 'expo-router';
import Head from 'expo-router/head';
import { SafeAreaProvider } from 'react-native-safe-area-context';
import { AtkinsonHyperlegibleMono_400Regular } from '@expo-google-fonts/atkinson-hyperlegible-mono/400Regular';
import { AtkinsonHyperlegibleMono_700Bold } from '@expo-google-fonts/atkinson-hyperlegible-mono/700Bold';
import { AtkinsonHyperlegibleNext_400Regular } from '@expo-google-fonts/atkinson-hyperlegible-next/400Regular';
import { AtkinsonHyperlegibleNext_700Bold } from '@expo-google-fonts/atkinson-hyperlegible-next/700Bold';
import { queryClient } from '../src/data/client';
import { useDevice } from '../src/data/device';
import { PairGate } from '../src/features/pair/PairGate';
import { AskName } from '../src/features/people/AskName';
import { GoingLine } from '../src/ui/go';
import { ThemeProvider } from '../src/ui/theme';

export default function Layout() {
  // figures drawn before the fonts are there only change their shape, so the page does not wait
  useFonts({
    AtkinsonHyperlegibleNext_400Regular,
    AtkinsonHyperlegibleNext_700Bold,
    AtkinsonHyperlegibleMono_400Regular,
    AtkinsonHyperlegibleMono_700Bold,
  });
  const chosen = useDevice((d) => d.theme);
  return (
    <QueryClientProvider client={queryClient}>
      <SafeAreaProvider>
        <ThemeProvider chosen={chosen}>
          <Head>
            <title>Yare Pilot</title>
          </Head>
          <GoingLine />
          <PairGate>
            <AskName>
              <Slot />
            </AskName>
          </PairGate>
        </ThemeProvider>
      </SafeAreaProvider>
    </QueryClientProvider>
  );
}
