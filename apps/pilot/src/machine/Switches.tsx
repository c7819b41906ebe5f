import { View } from '@tamagui/core';
import { Mono } from '../ui/text';

/** Contacts as they stand: closed filled, open empty, the first one left. */
export const Switches = ({ closed }: { closed: readonly boolean[] }) => (
  <View paddingRight={12} role="img" aria-label={closed.map((c) => (c ? 'closed' : 'open')).join(', ')}>
    <Mono fontSize={20} letterSpacing={2}>
      {closed.map((c) => (c ? '●' : '○')).join('')}
    </Mono>
  </View>
);
