import { View } from '@tamagui/core';
import { measure } from './palette';
import { Body, Mono } from './text';

/** What the keys of a page do. */
export function KeyList({ rows }: { rows: ReadonlyArray<readonly [key: string, text: string]> }) {
  return (
    <View backgroundColor="$hand" borderBottomWidth={1} borderColor="$rule2" paddingVertical={8} paddingLeft={measure.margin + 10} testID="key-list">
      {rows.map(([key, text]) => (
        <View key={`${key} ${text}`} flexDirection="row" gap={12} paddingVertical={3}>
          <Mono width={80} fontFamily="$monoBold">
            {key}
          </Mono>
          <Body>{text}</Body>
        </View>
      ))}
    </View>
  );
}
