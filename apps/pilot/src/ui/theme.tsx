import { TamaguiProvider, useMedia } from '@tamagui/core';
import { createContext, useContext, useEffect, useMemo, type ReactNode } from 'react';
import { useColorScheme } from 'react-native';
import { config } from './tamagui.config';
import { day, night, type Palette } from './palette';

const PaletteContext = createContext<Palette>(day);

/** The colours in force, for svg and for what Tamagui does not draw. */
export const usePalette = (): Palette => useContext(PaletteContext);

/** True from 1000 px: three columns; below, one. */
export const useWide = (): boolean => useMedia().wide;

/** Day or night as the device says, unless the person chose. */
export function ThemeProvider({ children, chosen = 'device' }: { children: ReactNode; chosen?: 'device' | 'day' | 'night' }) {
  const scheme = useColorScheme();
  const name = chosen === 'device' ? (scheme === 'dark' ? 'night' : 'day') : chosen;
  const palette = useMemo(() => (name === 'night' ? night : day), [name]);
  useEffect(() => {
    document.body.style.backgroundColor = palette.paper;
    document.documentElement.style.colorScheme = name === 'night' ? 'dark' : 'light';
  }, [palette, name]);
  return (
    <TamaguiProvider config={config} defaultTheme={name === 'night' ? 'dark' : 'light'} key={name}>
      <PaletteContext.Provider value={palette}>{children}</PaletteContext.Provider>
    </TamaguiProvider>
  );
}
