import { useEffect } from 'react';
import { QueryClientProvider } from '@tanstack/react-query';
import { useFonts } from 'expo-font';
import { Slot, type ErrorBoundaryProps } from 'expo-router';
import Head from 'expo-router/head';
import { SafeAreaProvider } from 'react-native-safe-area-context';
import { AtkinsonHyperlegibleMono_400Regular } from '@expo-google-fonts/atkinson-hyperlegible-mono/400Regular';
import { AtkinsonHyperlegibleMono_700Bold } from '@expo-google-fonts/atkinson-hyperlegible-mono/700Bold';
import { AtkinsonHyperlegibleNext_400Regular } from '@expo-google-fonts/atkinson-hyperlegible-next/400Regular';
import { AtkinsonHyperlegibleNext_700Bold } from '@expo-google-fonts/atkinson-hyperlegible-next/700Bold';
import { say } from '@yare/words/pages/plant';
import { queryClient } from '../src/data/client';
import { useDevice } from '../src/data/device';
import { PairGate } from '../src/features/pair/PairGate';
import { AskName } from '../src/features/people/AskName';
import { beDeafToSecondTouches } from '../src/ui/deafness';
import { GoingLine } from '../src/ui/go';
import { prefetchPages } from '../src/ui/prefetch';
import { ThemeProvider } from '../src/ui/theme';
import { Waiting } from '../src/ui/Waiting';

/** A page that could not be fetched or drawn: what went wrong, and the way out. */
export function ErrorBoundary({ error, retry }: ErrorBoundaryProps) {
  // what the bundler throws when a part of the page does not come
  const away = error.name === 'AsyncRequireError';
  const sentence = away ? say.thisPageWasNotFetched : say.thisPageCouldNotBeDrawn({ message: error.message });
  return <Waiting error={sentence} onRetry={() => void retry()} />;
}

export default function Layout() {
  // figures drawn before the fonts are there only change their shape, so the page does not wait
  useFonts({
    AtkinsonHyperlegibleNext_400Regular,
    AtkinsonHyperlegibleNext_700Bold,
    AtkinsonHyperlegibleMono_400Regular,
    AtkinsonHyperlegibleMono_700Bold,
  });
  useEffect(prefetchPages, []);
  useEffect(() => beDeafToSecondTouches(document), []);
  const chosen = useDevice((d) => d.theme);
  return (
    <QueryClientProvider client={queryClient}>
      <SafeAreaProvider>
        <ThemeProvider chosen={chosen}>
          <Head>
            <title>{say.yarePilot}</title>
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
