import { View } from '@tamagui/core';
import { useEffect, useRef, type ReactNode } from 'react';
import { afterPaint } from './afterPaint';
import { Finding } from './sheet';

/**
 * What an act answers, wherever on the page it stands: brought into view when it comes, so that it is not answered off screen.
 * @param of what is answered: another brings it into view again, though it may say the same
 */
export function Answer({ of, children }: { of?: unknown; children: ReactNode }) {
  const node = useRef<HTMLElement | null>(null);
  useEffect(() => afterPaint(() => node.current?.scrollIntoView({ block: 'nearest' })), [of]);
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

/** The sentence of an act that was refused or failed; nothing while none was. */
export function Refusal({ of: error }: { of: Error | null | undefined }) {
  if (!error) return null;
  return (
    <Answer of={error}>
      <Finding severity="error" sentence={error.message} />
    </Answer>
  );
}
