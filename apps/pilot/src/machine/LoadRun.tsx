import { useEffect, useMemo, useRef, useState } from 'react';
import { keptPump, type MachineModel } from '@yare/commissioning';
import type { RunGuide } from '@yare/contract';
import { clampReference, holdingFrequency } from '@yare/core';
import { say } from '@yare/words/pages/frame';
import { noteFound, type LoadPoint } from '../data/days';
import { useLive } from '../data/live';
import { useMayRun } from '../data/mayRun';
import { HoldButton } from './HoldButton';
import { MayTurn, useClear } from './MayTurn';
import { RunFindings, RunsByWhatIsInDrive } from './RunFindings';
import { SpeedsGuide } from './SpeedsGuide';
import { Note } from '../ui/sheet';

export type LoadRunKind = 'shut' | 'usual';

export interface LoadRunState {
  open: LoadRunKind | null;
  setOpen: (kind: LoadRunKind | null) => void;
  speeds: readonly number[];
  guide: RunGuide;
  clear: boolean;
  setClear: (clear: boolean) => void;
  blocked: string | null;
  turning: boolean;
}

/** Hz between the speeds against a shut valve, how many, and the share of maximum frequency the last is where no pressure is kept. */
const shut = { apart: 1.5, count: 5, top: 0.9 };

/** Speeds of a run: against the shut valve up to a little over the set pressure, with the usual load at thirds of the highest. */
function speedsOf(model: MachineModel, kind: LoadRunKind): number[] {
  const settings = model.held ?? model.drafted;
  const { maximumFrequency: top } = settings.parameters();
  if (kind === 'usual') return [1 / 3, 2 / 3, 1].map((x) => Number((x * top).toFixed(2)));
  const kept = keptPump({ settings, plate: model.plate, supply: model.machine.supply, driven: model.machine.driven });
  const last = kept?.sensor.measures === 'pressure' ? Math.min(top, holdingFrequency(kept.spec, kept.pump, 1.05 * kept.pressure)) : shut.top * top;
  return Array.from({ length: shut.count }, (_, i) => Number((last - shut.apart * (shut.count - 1 - i)).toFixed(1)));
}

/** A run through a few speeds that notes feedback and torque at each: the hand holds, the server goes on once the feedback stands. */
export function useLoadRun(model: MachineModel): LoadRunState {
  const { tag } = model.machine;
  const [open, setOpen] = useState<LoadRunKind | null>(null);
  const [clear, setClear] = useClear(tag);
  const { mine, turning, blocked: why, run } = useMayRun(tag);
  const live = useLive([tag])(tag);
  const torque = live?.link === 'up' ? Math.abs(live.torque) : null;
  const last = useRef<number | null>(null);
  const noted = useRef<{ run: number; points: LoadPoint[] }>({ run: -1, points: [] });
  const speeds = useMemo(() => speedsOf(model, open ?? 'usual'), [model, open]);
  const guide = useMemo((): RunGuide => ({ kind: 'speeds', speeds: [...speeds] }), [speeds]);
  const seen = open !== null && run?.mine && run.guide?.guide.kind === 'speeds' ? run.guide.points : null;
  const count = seen?.length ?? 0;
  useEffect(() => {
    if (open === null || !seen || !run || count === 0) return;
    if (noted.current.run !== run.run) noted.current = { run: run.run ?? 0, points: [] };
    const { points } = noted.current;
    const point = seen[count - 1];
    if (!point || points.length >= count) return;
    points.push({ frequency: point.frequency, feedback: point.feedback, torque: last.current ?? torque ?? 0 });
    if (points.length === speeds.length) noteFound(tag, open === 'shut' ? { shut: points } : { usual: points });
    // once for each point that comes
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [count]);
  // what it took while it stood there: the sample before the point came
  useEffect(() => {
    last.current = torque;
  }, [torque]);
  // through, and let go: the bar is the page's own again
  const over = run?.mine === true && run.phase === 'ended' && run.run === noted.current.run && noted.current.points.length === speeds.length;
  useEffect(() => {
    if (over) setOpen(null);
  }, [over]);
  const drive = model.held?.parameters() ?? null;
  const outside = drive !== null && speeds.some((f) => Math.abs(clampReference(drive, f) - f) > 0.05);
  return {
    ...{ open, setOpen, speeds, guide, clear, setClear, turning: turning && mine },
    blocked: why ?? (outside ? say.theDriveDoesNotGo : clear ? null : say.firstConfirmThatItMay),
  };
}

/** What to do before it turns, and while it does. */
export function LoadRunRows({ model, s }: { model: MachineModel; s: LoadRunState }) {
  const { tag, name } = model.machine;
  const { run } = useMayRun(tag);
  if (s.turning && run?.phase === 'running') return <SpeedsGuide guide={run.guide} speeds={s.speeds} />;
  return (
    <>
      {run && <RunFindings run={run} />}
      <Note>{s.open === 'shut' ? say.letThePressureOutOf : say.everythingAsItUsuallyRuns}</Note>
      <MayTurn
        sentence={say.willTurnWhileYouHold({ tag, name, speeds: s.speeds[0] ?? 0, max: Math.max(...s.speeds) })}
        clear={s.clear}
        onClear={s.setClear}
      />
      <RunsByWhatIsInDrive model={model} />
    </>
  );
}

export const loadRunFoot = (tag: string, s: LoadRunState) =>
  s.open !== null ? <HoldButton tag={tag} frequency={s.speeds[0] ?? 0} guide={s.guide} blocked={s.blocked} turning={s.turning} /> : undefined;
