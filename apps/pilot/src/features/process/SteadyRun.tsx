import { useEffect, useMemo, useState } from 'react';
import type { MachineModel } from '@yare/commissioning';
import { sortedPoints } from '@yare/commissioning/steady';
import type { RunGuide } from '@yare/contract';
import { clampReference } from '@yare/core';
import { say } from '@yare/words/pages/process';
import { notePoints, usePoints } from '../../data/loop';
import { useMayRun } from '../../data/mayRun';
import { HoldButton } from '../../machine/HoldButton';
import { MayTurn, useClear } from '../../machine/MayTurn';
import { RunFindings, RunsByWhatIsInDrive } from '../../machine/RunFindings';
import { SpeedsGuide } from '../../machine/SpeedsGuide';
import { Segments } from '../../ui/Segments';
import type { Entry } from '../../ui/entryStore';
import { EntryRow } from '../../ui/EntryRow';
import { Note } from '../../ui/sheet';

/** Shares of the maximum frequency a run through the speeds goes from and to, and how many it stops at, as proposed. */
const usual = { from: 0.5, count: 6 };

export interface SteadyRunState {
  open: boolean;
  setOpen: (open: boolean) => void;
  entries: Entry[];
  speeds: readonly number[];
  guide: RunGuide;
  both: boolean;
  setBoth: (both: boolean) => void;
  clear: boolean;
  setClear: (clear: boolean) => void;
  blocked: string | null;
  turning: boolean;
}

/** Points of which run were noted last: a page that is opened again does not note what was left out since. */
const noted = new Map<string, string>();

/** Where the feedback stood at each speed of the run that goes on or has just ended, noted among the steady points. */
function useNotes(tag: string, top: number): void {
  const { run } = useMayRun(tag);
  const points = usePoints(tag);
  const seen = run?.mine && run.guide?.guide.kind === 'speeds' ? run.guide.points : null;
  useEffect(() => {
    const key = `${run?.run ?? 0} ${seen?.length ?? 0}`;
    if (!seen || seen.length === 0 || noted.get(tag) === key) return;
    noted.set(tag, key);
    const found = seen.map(({ frequency, feedback }, i) => {
      const before = seen[i - 1];
      return { output: (100 * frequency) / top, feedback, way: !before || frequency > before.frequency ? (1 as const) : (-1 as const) };
    });
    notePoints(tag, sortedPoints([...points, ...found]));
    // once for each point that comes: what is left out afterwards stays out
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [seen?.length]);
}

/** A run through chosen speeds: the hand holds, the server goes on once the feedback stands, every speed is noted. */
export function useSteadyRun(model: MachineModel): SteadyRunState {
  const { tag } = model.machine;
  const [open, setOpen] = useState(false);
  const drive = useMemo(() => model.held?.parameters() ?? null, [model.held]);
  const top = (model.held ?? model.drafted).roleValue('maximumFrequency');
  const [ends, setEnds] = useState<{ from: number | null; to: number | null; count: number | null }>({ from: null, to: null, count: null });
  const [both, setBoth] = useState(false);
  const [clear, setClear] = useClear(tag);
  const { mine, turning, blocked: why } = useMayRun(tag);
  useNotes(tag, top);
  const from = ends.from ?? Math.round(Math.max(usual.from * top, drive?.minimumFrequency ?? 0));
  const to = ends.to ?? top;
  const count = ends.count ?? usual.count;
  const speeds = useMemo(() => {
    const up = Array.from({ length: count }, (_, i) => Number((from + ((to - from) * i) / (count - 1)).toFixed(2)));
    return both ? [...up, ...up.slice(0, -1).reverse()] : up;
  }, [from, to, count, both]);
  const guide = useMemo((): RunGuide => ({ kind: 'speeds', speeds: [...speeds] }), [speeds]);
  const outside = drive !== null && speeds.some((f) => Math.abs(clampReference(drive, f) - f) > 0.05);
  const entry = (key: keyof typeof ends, label: string, value: number, min: number, max: number): Entry => ({
    ...{ id: `${tag} steady ${key}`, label, value, min, max },
    ...(key === 'count' ? { unit: '', decimals: 0, whole: true } : { unit: say.hz, decimals: 1 }),
    onSet: (v) => setEnds({ ...ends, [key]: v }),
  });
  return {
    ...{ open, setOpen, speeds, guide, both, setBoth, clear, setClear, turning: turning && mine },
    entries: [entry('from', say.lowestSpeed, from, 1, 100), entry('to', say.highestSpeed, to, 1, 100), entry('count', say.speeds, count, 3, 12)],
    blocked: why ?? (to - from < 0.1 * top ? say.theSpeedsLieTooNear : outside ? say.theDriveDoesNotGo : clear ? null : say.firstConfirmThatItMay),
  };
}

/** What to do now, while it is held. */
function Guide({ tag, s }: { tag: string; s: SteadyRunState }) {
  const { run } = useMayRun(tag);
  const { guide } = run ?? {};
  if (!guide || guide.guide.kind !== 'speeds') return null;
  if (s.turning && run?.phase === 'running') return <SpeedsGuide guide={guide} speeds={s.speeds} />;
  return run ? <RunFindings run={run} /> : null;
}

/** From where to where, at how many speeds, and the word that it may turn. */
export function SteadyRunRows({ model, s }: { model: MachineModel; s: SteadyRunState }) {
  const { tag, name } = model.machine;
  const [from, to, count] = s.entries;
  // while it is held there is nothing to set, and what to do stands over what comes of it
  if (s.turning) return <Guide tag={tag} s={s} />;
  return (
    <>
      <Guide tag={tag} s={s} />
      {from && <EntryRow entry={from} second={say.theLeastItWorksAt} mark="C" testID="steady-from" />}
      {to && <EntryRow entry={to} mark="C" testID="steady-to" />}
      {count && <EntryRow entry={count} least={0} second={say.notedOneAfterAnother} mark="C" testID="steady-count" />}
      <Segments
        label={say.way}
        value={s.both ? 'both' : 'up'}
        options={[
          { value: 'up', text: say.upOnly },
          { value: 'both', text: say.upAndDown, testID: 'steady-both' },
        ]}
        onChoose={(value) => s.setBoth(value === 'both')}
      />
      <Note>{say.nothingElseMayChangeMeanwhile}</Note>
      <MayTurn
        sentence={say.willTurnWhileYouHold({ tag, name, speeds: s.speeds[0] ?? 0, max: Math.max(...s.speeds) })}
        clear={s.clear}
        onClear={s.setClear}
      />
      <RunsByWhatIsInDrive model={model} />
    </>
  );
}

export const steadyFoot = (tag: string, s: SteadyRunState) =>
  s.open ? <HoldButton tag={tag} frequency={s.speeds[0] ?? 0} guide={s.guide} blocked={s.blocked} turning={s.turning} /> : undefined;
