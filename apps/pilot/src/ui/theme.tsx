import { TamaguiProvider, useMedia } from '@tamagui/core';
import { createContext, useContext, useEffect, useMemo, type ReactNode } from 'react';
import { useColorScheme } from 'react-native';
import { useDevice } from '../data/device';
import { config } from './tamagui.config';
import { day, night, type Look } from './look';

const LookContext = createContext<Look>(day);

/** The colours in force, for svg and for what Tamagui does not draw. */
export const useLook = (): Look => useContext(LookContext);

/** True from 1000 px: three columns; below, one. */
export const useWide = (): boolean => useMedia().wide;

/** Day or night as the device says, unless the person chose. */
export function LookProvider({ children }: { children: ReactNode }) {
  const chosen = useDevice((d) => d.theme);
  const scheme = useColorScheme();
  const name = chosen === 'device' ? (scheme === 'dark' ? 'night' : 'day') : chosen;
  const look = useMemo(() => (name === 'night' ? night : day), [name]);
  useEffect(() => {
    document.body.style.backgroundColor = look.paper;
    document.documentElement.style.colorScheme = name === 'night' ? 'dark' : 'light';
  }, [look, name]);
  return (
    <TamaguiProvider config={config} defaultTheme={name === 'night' ? 'dark' : 'light'} key={name}>
      <LookContext.Provider value={look}>{children}</LookContext.Provider>
    </TamaguiProvider>
  );
}
