import type { MachineModel, StagePath } from '@yare/commissioning';
import { say } from '@yare/words/pages/frame';
import { go } from '../ui/go';
import { Finding } from '../ui/sheet';
import { MachineFrame } from './MachineFrame';

/** What is on record of one machine, asked for under another's tag: nothing of it is judged by the wrong machine. */
export function BelongsElsewhere({
  model,
  stage,
  what,
  tag,
  path,
}: {
  model: MachineModel;
  stage: StagePath;
  what: string;
  tag: string;
  path: string;
}) {
  return (
    <MachineFrame
      model={model}
      stage={stage}
      title={what}
      acts={[{ text: say.goTo({ tag }), main: true, hotkey: 'g', onPress: () => go(path), testID: 'belongs-to' }]}
      evidenceTitle=""
      evidence={null}
    >
      <Finding severity="warning" sentence={say.belongsToNotToNothing({ what, tag, tag2: model.machine.tag })} />
    </MachineFrame>
  );
}
