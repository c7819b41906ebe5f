import { View } from '@tamagui/core';
import { router, usePathname } from 'expo-router';
import { useEffect } from 'react';
import { say } from '@yare/words/pages/ui';
import { afterPaint } from './afterPaint';
import { arrived, useGoing } from './going';

/** Goes to another page. The touch is answered at once, by the line at the head of the screen; the page follows when it is drawn. */
export function go(path: string): void {
  if (useGoing.getState().to === path) return;
  useGoing.setState({ to: path });
  afterPaint(() => router.navigate(path as '/'));
  // the page it is on already never arrives
  setTimeout(() => useGoing.setState((s) => (s.to === path ? { to: null } : s)), 3000);
}

/** A line at the head of the screen while a page is on its way. */
export function GoingLine() {
  const to = useGoing((s) => s.to);
  const here = usePathname();
  useEffect(() => {
    arrived(here);
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
      aria-label={say.openingThePage}
    />
  );
}
