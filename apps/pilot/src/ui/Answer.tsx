import { View } from '@tamagui/core';
import { useEffect, useRef, type ReactNode } from 'react';
import { afterPaint } from './afterPaint';
import { Finding } from './sheet';

/** What an act answers, wherever on the page it stands: brought into view when it comes, so that it is not answered off screen. */
export function Answer({ children }: { children: ReactNode }) {
  const node = useRef<HTMLElement | null>(null);
  useEffect(() => afterPaint(() => node.current?.scrollIntoView({ block: 'nearest' })), []);
  return (
    <View
      ref={(n: unknown) => {
        node.current = n as HTMLElement | null;
      }}
    >
      {children}
    </View>
  );
}

const seen = new WeakMap<Error, number>();
let count = 0;
/** Tells one refusal from the next, though both say the same. */
function numberOf(error: Error): number {
  const known = seen.get(error) ?? ++count;
  seen.set(error, known);
  return known;
}

/** The sentence of an act that was refused or failed; nothing while none was. */
export function Refusal({ of: error }: { of: Error | null | undefined }) {
  if (!error) return null;
  return (
    <Answer key={numberOf(error)}>
      <Finding severity="error" sentence={error.message} />
    </Answer>
  );
}
