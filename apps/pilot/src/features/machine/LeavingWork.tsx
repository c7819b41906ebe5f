import type { MachineModel, Stage, Standing } from '@yare/commissioning';
import { leftOpen } from '@yare/words/stages';
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
      {asked && open.length === 0 && <Finding severity="good" sentence="Every stage is proved. Nothing is left open." />}
      {asked && open.length > 0 && (
        <Finding
          severity="warning"
          sentence={`Leaving the work now leaves unproved: ${open.map((o) => `${o.stage.name} (${o.text})`).join('; ')}. The next person sees it on the Plant page.`}
          act="Leave it so"
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
          sentence={`${left.author} left ${when(left.at)} with unproved: ${leftOpen(left)}.`}
          act="The work goes on"
          onAct={() => leave.mutate('goes on')}
        />
      )}
    </>
  );
}
