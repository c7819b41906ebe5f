import { useEffect, useMemo, useState } from 'react';
import { readingOf, sensorOf, stepBand, type MachineModel } from '@yare/commissioning';
import type { RecordingData, RunGuide } from '@yare/contract';
import { slopeAt } from '@yare/commissioning/steady';
import { clampReference, formatFigure, type ProcessSensor } from '@yare/core';
import { noiseOf, stepSizeFor, type SteadyPoint } from '@yare/core/loop';
import { say } from '@yare/words/pages/process';
import { live } from '../../data/live';
import { takeRecording, usePoints } from '../../data/loop';
import { useMayRun } from '../../data/mayRun';
import { useRecording } from '../../data/recordings';
import { HoldButton } from '../../machine/HoldButton';
import { MayTurn, useClear } from '../../machine/MayTurn';
import { takeChanges } from '../../machine/takeChanges';
import { RunFindings, RunsByWhatIsInDrive } from '../../machine/RunFindings';
import type { Entry } from '../../ui/entryStore';
import { EntryRow } from '../../ui/EntryRow';
import { Finding, Note } from '../../ui/sheet';

/** Share of the maximum frequency a test begins at, and by which it steps, as proposed. */
const usual = { at: 0.7, step: 0.1 };
/** s of a filter that hardly shows in a step test. */
const mostFilter = 0.3;
/** Hz within which the output stands at what was asked. */
const reached = 0.5;

/** s of rest before the step that go with it: for so long the feedback had to stand, or a level was watched. */
const rest = { step: 7, level: 10 };

/**
 * What a step test's recording says as a table: some rest at its first speed, the step, and all until it left the last speed.
 * @param speeds Hz one after another: where it began, where it stepped to, and where it went back to if it did
 */
export function stepCsv({ data, time }: RecordingData, speeds: readonly number[]): string | null {
  const { outputFrequency = [], feedback = [] } = data;
  const near = (hertz: number) => (f: number) => Math.abs(f - hertz) < reached;
  const backward = [...speeds].reverse();
  // from the end back, because a drive that looks for a turning shaft passes every speed before
  let left = outputFrequency.length;
  const ends = backward.map((hertz) => (left = outputFrequency.findLastIndex((f, i) => i < left && near(hertz)(f))));
  const [last = -1] = ends;
  if (ends.some((i) => i < 0) || speeds.length < 2) return null;
  const begin = (time[left] ?? 0) - (speeds.length > 2 ? rest.level : rest.step);
  const arrives = outputFrequency.findLastIndex((f, i) => i < left && !near(speeds[0] ?? 0)(f)) + 1;
  const first = Math.max(
    arrives,
    time.findIndex((t) => t >= begin),
  );
  const lines = [say.timeSOutputHzFeedback];
  for (let i = first; i <= last; i++)
    lines.push(`${(time[i] ?? 0).toFixed(3)};${(outputFrequency[i] ?? 0).toFixed(2)};${(feedback[i] ?? 0).toFixed(2)}`);
  return lines.join('\n');
}

export interface StepRunState {
  open: boolean;
  setOpen: (open: boolean) => void;
  entries: Entry[];
  frequency: number;
  step: number;
  /** it is proposed larger than usual, because the feedback is noisy */
  larger: boolean;
  /** what the server leads the run through: of a level there and back past its balance */
  guide: RunGuide;
  clear: boolean;
  setClear: (clear: boolean) => void;
  /** the drive does not go where it is asked to */
  outside: boolean;
  /** why it cannot be begun */
  blocked: string | null;
  turning: boolean;
}

/** Recordings that were taken in: a page that is opened again does not take in what was put aside since. */
const takenIn = new Set<number>();

/** Samples of a feedback at rest that tell its noise. */
const leastSeen = 60;

/** Share of the maximum frequency a test steps by: the usual, and more where the noise that the link shows asks for it. */
function proposedStep(tag: string, points: readonly SteadyPoint[], at: number): number {
  const trend = live.trends.get(tag);
  if (!trend || trend.feedback.length < leastSeen) return usual.step;
  const gain = slopeAt(points, 100 * at) ?? 1;
  return Math.max(usual.step, (stepSizeFor(noiseOf(trend.feedback).sigma, gain, 100 * (1 - at)) ?? 0) / 100);
}

/** What the run just ended recorded, taken in as this machine's step test. */
function useTakeIn(tag: string, speeds: readonly number[], filter: number): void {
  const { run } = useMayRun(tag);
  const ended = run?.phase === 'ended' && run.mine && run.guide !== null && run.guide.guide.kind !== 'speeds' ? run.recordingId : null;
  const { data } = useRecording(ended);
  useEffect(() => {
    if (ended === null || takenIn.has(ended) || !data?.meta.complete || run?.guide?.state === 'settling') return;
    takenIn.add(ended);
    const text = stepCsv(data, run?.guide?.state === 'stepped' ? speeds.slice(0, 2) : speeds);
    if (text) takeRecording(tag, { name: say.recording({ ended }), taken: ended, text, choice: null, filter });
    // once for each recording: what is typed afterwards belongs to the next
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [ended, data]);
}

/** A step test on the machine itself: the hand holds, the server steps once the feedback stands, and the recording is taken in. */
export function useStepRun(model: MachineModel): StepRunState {
  const { tag } = model.machine;
  const [open, setOpen] = useState(false);
  const drive = useMemo(() => model.held?.parameters() ?? null, [model.held]);
  const top = (model.held ?? model.drafted).roleValue('maximumFrequency');
  const [frequency, setFrequency] = useState<number | null>(null);
  const [step, setStep] = useState<number | null>(null);
  const [clear, setClear] = useClear(tag);
  const { mine, turning, blocked: why } = useMayRun(tag);
  const points = usePoints(tag);
  const at = frequency ?? Math.round(usual.at * top);
  // as proposed when the test was opened: it does not move under the hand
  const [proposed, setProposed] = useState(usual.step);
  const by = step ?? Math.round(proposed * top);
  const level = sensorOf(model.machine.driven)?.measures === 'level';
  const guide = useMemo((): RunGuide => ({ kind: level ? 'there and back' : 'step', by }), [level, by]);
  const speeds = useMemo(() => (level ? [at, at + by, at - by] : [at, at + by]), [level, at, by]);
  useTakeIn(tag, speeds, model.held?.role('analogueFilter') ?? 0);
  const held = (f: number) => (drive ? clampReference(drive, f) : f);
  const outside = speeds.some((f) => f * at <= 0 || Math.abs(held(f) - f) > 0.05);
  const entry = (id: string, label: string, value: number, min: number, max: number, onSet: (v: number | null) => void): Entry => ({
    ...{ id: `${tag} step ${id}`, label, value, unit: say.hz, decimals: 1, min, max },
    onSet,
  });
  return {
    setOpen: (to) => {
      if (to) setProposed(proposedStep(tag, points, at / top));
      setOpen(to);
    },
    larger: step === null && proposed > usual.step,
    ...{ open, frequency: at, step: by, guide, clear, setClear, outside, turning: turning && mine },
    entries: [entry('speed', say.speedBeforeTheStep, at, 1, 100, setFrequency), entry('step', say.step, by, -30, 30, setStep)],
    blocked: why ?? (outside ? say.theDriveDoesNotGo : Math.abs(by) < 0.02 * top ? say.theStepIsTooSmall : clear ? null : say.firstConfirmThatItMay),
  };
}

/** What to do now, while it is held. */
function Guide({ model, s }: { model: MachineModel; s: StepRunState }) {
  const { run } = useMayRun(model.machine.tag);
  if (!s.turning || !run?.guide || run.guide.guide.kind === 'speeds') return null;
  if (run.phase === 'stopping' && run.guide.state !== 'settling') return <Finding severity="good" sentence={say.itSlowsDownTheRecording} />;
  if (run.phase !== 'running') return null;
  const level = run.guide.guide.kind === 'there and back';
  const to = formatFigure(s.frequency + s.step, 1);
  const said = {
    settling: say.keepHoldingItRunsAt({ frequency: s.frequency, level }),
    stepped: say.keepHoldingItHasStepped({ to, level }),
    back: say.keepHoldingItHasStepped2({ frequency: s.frequency - s.step }),
    stands: say.theLevelIsBackHold({ level }),
  }[run.guide.state];
  return <Finding severity={run.guide.state === 'stands' ? 'good' : 'act'} sentence={said} />;
}

/** Speed, step and the word that it may turn. */
export function StepRunRows({ model, sensor, s }: { model: MachineModel; sensor: ProcessSensor; s: StepRunState }) {
  const { tag, name } = model.machine;
  const { run } = useMayRun(tag);
  const [speed, step] = s.entries;
  const signal = model.drafted.roleValue('analogueSignal');
  const filter = model.held?.role('analogueFilter') ?? 0;
  const end = (share: number) => {
    const r = readingOf(sensor, signal, share);
    return `${formatFigure(r.figure, r.decimals)} ${r.unit}`;
  };
  if (s.turning) return <Guide model={model} s={s} />;
  return (
    <>
      {run?.guide && run.guide.guide.kind !== 'speeds' && <RunFindings run={run} />}
      {run?.guide?.state === 'settling' && run.guide.guide.kind !== 'speeds' && run.phase === 'ended' && (
        <Finding severity="warning" sentence={say.itWasLetGoBefore} />
      )}
      {speed && <EntryRow entry={speed} second={say.whereItUsuallyWorks} mark="C" testID="step-speed" />}
      {step && <EntryRow entry={step} second={s.larger ? say.largerThanUsualTheFeedback : say.minusIsSlower} mark="C" testID="step-by" />}
      {s.outside && <Finding severity="warning" sentence={say.theDriveDoesNotGo2({ frequency: s.frequency, frequency2: s.frequency + s.step })} />}
      <Note>
        {sensor.measures === 'level'
          ? say.aLevelStandsOnlyWhile({ end: end(stepBand.low), end2: end(stepBand.high) })
          : say.nothingElseMayChangeMeanwhile2({ end: end(stepBand.low), end2: end(stepBand.high) })}
      </Note>
      {filter > mostFilter && (
        <Finding
          severity="warning"
          sentence={say.aFilterOfSIs({ filter })}
          act={say.takeItOutInThe}
          onAct={() => takeChanges(model, model.drafted.change('analogueFilter', 0, 'chosen'))}
        />
      )}
      <MayTurn
        sentence={say.willTurnAtHzWhile({
          tag,
          name,
          frequency: s.frequency,
          frequency2: s.frequency + s.step,
          kind: s.guide.kind,
          frequency3: s.frequency - s.step,
        })}
        clear={s.clear}
        onClear={s.setClear}
      />
      <RunsByWhatIsInDrive model={model} />
    </>
  );
}

export const stepFoot = (tag: string, s: StepRunState) =>
  s.open ? <HoldButton tag={tag} frequency={s.frequency} guide={s.guide} blocked={s.blocked} turning={s.turning} /> : undefined;
