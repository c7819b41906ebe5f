import { View } from '@tamagui/core';
import { useEffect, useState } from 'react';
import { Pressable } from 'react-native';
import { say } from '@yare/words/pages/frame';
import { useRun } from '../data/live';
import { measure } from '../ui/palette';
import { ProofShape } from '../ui/shapes';
import { drawnWhenChanged } from '../ui/drawnWhenChanged';
import { Second, Strong } from '../ui/text';

/** Does something whenever a run of a machine is over, whoever's it was. */
export function useAfterRun(tag: string, over: () => void): void {
  const run = useRun(tag);
  const ended = run?.phase === 'ended' ? run.run : null;
  useEffect(() => {
    if (ended !== null) over();
    // what is done is the same each time; only another run asks for it anew
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [ended]);
}

/** Whether somebody said that it may turn. That counts for one run: after it somebody may stand at the shaft, so it is asked anew. */
export function useClear(tag: string): [boolean, (clear: boolean) => void] {
  const [clear, setClear] = useState(false);
  useAfterRun(tag, () => setClear(false));
  return [clear, setClear];
}

/** The deliberate word before anything at a shaft may move. */
export const MayTurn = drawnWhenChanged(function MayTurn({
  sentence,
  text = say.nobodyIsAtTheShaft,
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
          <Strong>{clear ? say.confirmed : text}</Strong>
          <Second color="$ink">{say.touchTo({ sentence, clear })}</Second>
        </View>
      </View>
    </Pressable>
  );
});
