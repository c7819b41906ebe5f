import { View } from '@tamagui/core';
import { Pressable } from 'react-native';
import { measure } from '../ui/palette';
import { ProofShape } from '../ui/shapes';
import { drawnWhenChanged } from '../ui/drawnWhenChanged';
import { Second, Strong } from '../ui/text';

/** The deliberate word before anything at a shaft may move. */
export const MayTurn = drawnWhenChanged(function MayTurn({
  sentence,
  text = 'Nobody is at the shaft and it may turn',
  clear,
  onClear,
}: {
  sentence: string;
  text?: string;
  clear: boolean;
  onClear: (clear: boolean) => void;
}) {
  return (
    <Pressable role="checkbox" aria-checked={clear} onPress={() => onClear(!clear)} testID="clear">
      <View flexDirection="row" minHeight={64} borderBottomWidth={1} borderColor="$rule" backgroundColor={clear ? '$greenGround' : '$blueGround'}>
        <View width={measure.margin} alignItems="center" justifyContent="center" borderRightWidth={1} borderColor="$plum">
          <ProofShape proof={clear ? 'proved' : 'act'} />
        </View>
        <View flex={1} justifyContent="center" paddingHorizontal={10} paddingVertical={8}>
          <Strong>{clear ? 'Confirmed' : text}</Strong>
          <Second color="$ink">
            {sentence} Touch to {clear ? 'take this back' : 'confirm'}.
          </Second>
        </View>
      </View>
    </Pressable>
  );
});
