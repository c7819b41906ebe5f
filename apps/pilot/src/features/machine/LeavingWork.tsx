import type { MachineModel } from '../../data/machineModel';
import { usePlan, useProve } from '../../data/plan';
import type { Stage, Standing } from '../../data/stages';
import { Finding } from '../../ui/sheet';
import { when } from '../../ui/when';

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
  const prove = useProve(tag);
  const left = data?.proofs.find((p) => p.stage === 'plan' && p.item === 'left' && p.outcome === 'failed');
  const names = open.map((o) => o.stage.name).join(', ');
  const entry = { stage: 'plan', item: 'left', expected: 'every stage proved' };
  return (
    <>
      {prove.error && <Finding severity="error" sentence={prove.error.message} />}
      {asked && open.length === 0 && <Finding severity="good" sentence="Every stage is proved. Nothing is left open." />}
      {asked && open.length > 0 && (
        <Finding
          severity="warning"
          sentence={`Stopping here leaves unproved: ${open.map((o) => `${o.stage.name} (${o.words})`).join('; ')}. Whoever comes next sees it in the plant.`}
          act="Leave it so"
          onAct={() => prove.mutate({ ...entry, outcome: 'failed', measured: names.slice(0, 400) }, { onSuccess: onDone })}
        />
      )}
      {left && !asked && (
        <Finding
          severity="warning"
          sentence={`${left.author} left ${when(left.at)} with unproved: ${left.measured}.`}
          act="The work goes on"
          onAct={() => prove.mutate({ ...entry, outcome: 'taken back', measured: 'work goes on' })}
        />
      )}
    </>
  );
}
