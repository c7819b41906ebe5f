import { View } from '@tamagui/core';
import { Pressable } from 'react-native';
import { Second, Strong } from './text';
import { drawnWhenChanged } from './drawnWhenChanged';
import { usePalette } from './theme';

export interface Segment<T extends string | number> {
  value: T;
  text: string;
  second?: string;
  /** cannot be chosen now; `second` says why */
  disabled?: boolean;
  testID?: string;
}

function SegmentsDrawn<T extends string | number>({
  label,
  options,
  value,
  onChoose,
  disabled = false,
}: {
  label: string;
  options: readonly Segment<T>[];
  value: T | null;
  onChoose: (value: T) => void;
  disabled?: boolean;
}) {
  const palette = usePalette();
  return (
    <View
      flexDirection="row"
      role="radiogroup"
      aria-label={label}
      backgroundColor="$sheet"
      borderBottomWidth={1}
      borderTopWidth={1}
      borderColor="$rule2"
    >
      {options.map((o) => {
        const here = o.value === value;
        const off = disabled || o.disabled === true;
        return (
          <Pressable
            key={o.value}
            role="radio"
            aria-checked={here}
            testID={o.testID}
            disabled={off}
            aria-disabled={off}
            onPress={() => onChoose(o.value)}
            style={{
              flex: 1,
              minHeight: 52,
              paddingVertical: 4,
              alignItems: 'center',
              justifyContent: 'center',
              borderRightWidth: 1,
              borderColor: palette.rule,
              backgroundColor: here ? palette.plumFill : palette.sheet,
            }}
          >
            <Strong fontSize={15} lineHeight={18} textAlign="center" color={here ? '$onPlum' : o.disabled ? '$soft' : '$plum'}>
              {o.text}
            </Strong>
            {o.second !== undefined && <Second color={here ? '$onPlum' : '$soft'}>{o.second}</Second>}
          </Pressable>
        );
      })}
    </View>
  );
}

/** A few choices side by side, one of them in force. */
export const Segments = drawnWhenChanged(SegmentsDrawn as never) as unknown as typeof SegmentsDrawn;
