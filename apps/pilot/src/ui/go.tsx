import { View } from '@tamagui/core';
import { router, usePathname } from 'expo-router';
import { useEffect } from 'react';
import { create } from 'zustand';
import { afterPaint } from './afterPaint';

const useGoing = create<{ to: string | null }>(() => ({ to: null }));

/** Goes to another page. The touch is answered at once, by the line at the head of the screen; the page follows when it is drawn. */
export function go(path: string): void {
  if (useGoing.getState().to === path) return;
  useGoing.setState({ to: path });
  afterPaint(() => router.navigate(path as '/'));
  // the page it is on already never arrives
  setTimeout(() => useGoing.setState((s) => (s.to === path ? { to: null } : s)), 3000);
}

/** Whether the page that stands is being left for another that is not drawn yet. */
export function leaving(): boolean {
  const { to } = useGoing.getState();
  return to !== null && to !== window.location.pathname;
}

/** A line at the head of the screen while a page is on its way. */
export function GoingLine() {
  const to = useGoing((s) => s.to);
  const here = usePathname();
  useEffect(() => {
    useGoing.setState({ to: null });
  }, [here]);
  if (to === null) return null;
  return (
    <View
      position="absolute"
      top={0}
      left={0}
      right={0}
      height={4}
      backgroundColor="$plum"
      zIndex={10}
      role="progressbar"
      aria-label="Opening the page"
    />
  );
}
