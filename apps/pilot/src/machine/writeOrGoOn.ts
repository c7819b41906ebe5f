import type { MachineModel, StagePath } from '@yare/commissioning';
import { say } from '@yare/words/pages/frame';
import type { Act } from '../ui/bar';
import { go } from '../ui/go';
import { goOn } from './goOn';

/** What comes after a stage whose settings were changed: Write while draft and drive differ, else the next stage. */
export function writeOrGoOn({ machine: { tag }, differing }: Pick<MachineModel, 'machine' | 'differing'>, stage: StagePath): Act {
  const count = differing.length;
  if (count === 0) return goOn(tag, stage);
  return {
    text: say.goToWriteChange({ count }),
    main: true,
    hotkey: 'w',
    onPress: () => go(`/m/${tag}/write`),
    testID: 'go-write',
  };
}
