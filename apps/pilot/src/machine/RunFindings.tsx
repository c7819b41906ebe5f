import type { MachineModel } from '@yare/commissioning';
import { formatFigure, StartMode } from '@yare/core';
import { say } from '@yare/words/pages/frame';
import type { useMayRun } from '../data/mayRun';
import { go } from '../ui/go';
import { Finding, Note, SectionHead } from '../ui/sheet';
import { useWide } from '../ui/theme';
import { shownSeconds, TrendChart } from './TrendChart';

type Run = ReturnType<typeof useMayRun>['run'];

/** Why a run was refused, or what stopped it if it was not this hand. */
export function RunFindings({ run }: { run: Run }) {
  if (!run) return null;
  const stopped = run.mine && (run.phase === 'stopping' || run.phase === 'ended') && run.tune === null;
  return (
    <>
      {run.phase === 'refused' && <Finding severity="error" sentence={run.sentence ?? say.refused} />}
      {stopped && run.sentence && <Finding severity="warning" sentence={say.itWasStopped({ sentence: run.sentence })} />}
    </>
  );
}

/** Said before a run: the drive turns by what it holds, not by the draft, and may look for a motor that turns before it starts from rest. */
export function RunsByWhatIsInDrive({ model }: { model: MachineModel }) {
  return (
    <>
      <LooksFirst model={model} />
      <DraftNotWritten model={model} />
    </>
  );
}

function LooksFirst({ model: { held } }: { model: MachineModel }) {
  if (held?.role('startMode') !== StartMode.catchSpinning) return null;
  const top = formatFigure(held.parameters().maximumFrequency, 0);
  return <Note>{say.itFirstLooksWhetherThe({ top })}</Note>;
}

function DraftNotWritten({ model }: { model: MachineModel }) {
  const count = model.differing.length;
  if (count === 0) return null;
  return (
    <Finding severity="warning" sentence={say.itRunsByWhatIs({ count })} act={say.goToWrite} onAct={() => go(`/m/${model.machine.tag}/write`)} />
  );
}

/** The live trend under the rows of a phone; a wide screen has it beside them. */
export function LiveBelow({ model }: { model: MachineModel }) {
  if (useWide()) return null;
  return (
    <>
      <SectionHead right={say.lastS({ shownSeconds })}>{say.live}</SectionHead>
      <TrendChart tag={model.machine.tag} model={model} />
    </>
  );
}
