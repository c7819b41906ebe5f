import type { MachineModel, Stage, Standing } from '@yare/commissioning';
import { leftOpen } from '@yare/words/stages';
import { say } from '@yare/words/pages/machine';
import { useLeaveWork, usePlan } from '../../data/proofs';
import { Finding } from '../../ui/sheet';
import { when } from '../../ui/when';
import { Refusal } from '../../ui/Answer';

/** Leaving before everything is proved: allowed, told with what stays open, and seen by whoever comes next. */
export function LeavingWork({
  model,
  open,
  asked,
  onDone,
}: {
  model: MachineModel;
  open: ReadonlyArray<Standing & { stage: Stage }>;
  asked: boolean;
  onDone: () => void;
}) {
  const { tag } = model.machine;
  const { data } = usePlan(tag);
  const leave = useLeaveWork(tag);
  const left = data?.left;
  return (
    <>
      <Refusal of={leave.error} />
      {asked && open.length === 0 && <Finding severity="good" sentence={say.everyStageIsProvedNothing} />}
      {asked && open.length > 0 && (
        <Finding
          severity="warning"
          sentence={say.leavingTheWorkNowLeaves({ open: open.map((o) => `${o.stage.name} (${o.text})`).join('; ') })}
          act={say.leaveItSo}
          onAct={() =>
            leave.mutate(
              open.map((o) => o.stage.path),
              { onSuccess: onDone },
            )
          }
        />
      )}
      {left && !asked && (
        <Finding
          severity="warning"
          sentence={say.leftWithUnproved({ author: left.author, when: when(left.at), leftOpen: leftOpen(left) })}
          act={say.theWorkGoesOn}
          onAct={() => leave.mutate('goes on')}
        />
      )}
    </>
  );
}
