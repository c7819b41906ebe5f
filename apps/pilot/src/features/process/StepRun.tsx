import { useEffect, useMemo, useState } from 'react';
import { readingOf, stepBand, type MachineModel } from '@yare/commissioning';
import type { RecordingData } from '@yare/contract';
import { clampReference, formatFigure, type ProcessSensor } from '@yare/core';
import { takeRecording } from '../../data/loop';
import { useMayRun } from '../../data/mayRun';
import { useRecording } from '../../data/recordings';
import { HoldButton } from '../../machine/HoldButton';
import { MayTurn, useClear } from '../../machine/MayTurn';
import { RunFindings, RunsByWhatIsInDrive } from '../../machine/RunFindings';
import type { Entry } from '../../ui/entryStore';
import { EntryRow } from '../../ui/EntryRow';
import { Finding, Note } from '../../ui/sheet';

/** Share of the maximum frequency a test begins at, and by which it steps, as proposed. */
const usual = { at: 0.7, step: 0.1 };
/** Hz within which the output stands at what was asked. */
const reached = 0.5;

/** s of rest before the step that go with it: for so long the feedback had to stand. */
const rest = 7;

/** What a step test's recording says as a table: some rest at its first speed, the step, and all until it left the second. */
export function stepCsv({ data, time }: RecordingData, from: number, to: number): string | null {
  const { outputFrequency = [], feedback = [] } = data;
  const at = (hertz: number) => (f: number) => Math.abs(f - hertz) < reached;
  const last = outputFrequency.findLastIndex(at(to));
  const arrived = outputFrequency.findIndex((f, i) => at(to)(f) && i <= last);
  const left = outputFrequency.findLastIndex((f, i) => i < arrived && at(from)(f));
  if (arrived < 0 || left < 0) return null;
  const begin = (time[left] ?? 0) - rest;
  const first = Math.max(
    outputFrequency.findIndex(at(from)),
    time.findIndex((t) => t >= begin),
  );
  const lines = ['Time (s);Output (Hz);Feedback (%)'];
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
  clear: boolean;
  setClear: (clear: boolean) => void;
  /** the drive does not go where it is asked to */
  outside: boolean;
  /** why it cannot be begun */
  blocked: string | null;
  turning: boolean;
}

/** A step test on the machine itself: the hand holds, the server steps once the feedback stands, and the recording is taken in. */
export function useStepRun(model: MachineModel): StepRunState {
  const { tag } = model.machine;
  const [open, setOpen] = useState(false);
  const drive = useMemo(() => model.held?.parameters() ?? null, [model.held]);
  const top = drive?.maximumFrequency ?? 50;
  const [frequency, setFrequency] = useState<number | null>(null);
  const [step, setStep] = useState<number | null>(null);
  const [clear, setClear] = useClear(tag);
  const { mine, turning, run, blocked: why } = useMayRun(tag);
  const at = frequency ?? Math.round(usual.at * top);
  const by = step ?? Math.round(usual.step * top);
  const ended = run?.phase === 'ended' && run.mine && run.step !== null ? run.recordingId : null;
  const { data } = useRecording(ended);
  useEffect(() => {
    if (ended === null || !data?.meta.complete || run?.step?.state === 'settling') return;
    const text = stepCsv(data, at, at + by);
    if (text) takeRecording(tag, { name: `Recording ${ended}`, taken: ended, text, choice: null });
    // once for each recording: what is typed afterwards belongs to the next
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [ended, data]);
  const held = (f: number) => (drive ? clampReference(drive, f) : f);
  const outside = (at + by) * at <= 0 || Math.abs(held(at) - at) > 0.05 || Math.abs(held(at + by) - (at + by)) > 0.05;
  const entry = (id: string, label: string, value: number, min: number, max: number, onSet: (v: number | null) => void): Entry => ({
    ...{ id: `${tag} step ${id}`, label, value, unit: 'Hz', decimals: 1, min, max },
    onSet,
  });
  return {
    ...{ open, setOpen, frequency: at, step: by, clear, setClear, outside, turning: turning && mine },
    entries: [entry('speed', 'Speed before the step', at, 1, 100, setFrequency), entry('step', 'Step', by, -30, 30, setStep)],
    blocked:
      why ??
      (outside
        ? 'The drive does not go that far: see its limits'
        : Math.abs(by) < 0.02 * top
          ? 'The step is too small'
          : clear
            ? null
            : 'First confirm that it may turn'),
  };
}

/** What to do now, while it is held. */
function Guide({ model, s }: { model: MachineModel; s: StepRunState }) {
  const { run } = useMayRun(model.machine.tag);
  if (!s.turning || !run?.step || run.phase !== 'running') return null;
  const said = {
    settling: `Keep holding. It runs at ${formatFigure(s.frequency, 1)} Hz and waits until the feedback stands.`,
    stepped: `Keep holding. It has stepped to ${formatFigure(s.frequency + s.step, 1)} Hz: wait until the feedback stands again.`,
    stands: 'The feedback stands. Hold on a little longer if you like, then let go: the recording is taken in by itself.',
  }[run.step.state];
  return <Finding severity={run.step.state === 'stands' ? 'good' : 'act'} sentence={said} />;
}

/** Speed, step and the word that it may turn. */
export function StepRunRows({ model, sensor, s }: { model: MachineModel; sensor: ProcessSensor; s: StepRunState }) {
  const { tag, name } = model.machine;
  const { run } = useMayRun(tag);
  const [speed, step] = s.entries;
  const signal = model.drafted.role('analogueSignal') ?? 0;
  const end = (share: number) => {
    const r = readingOf(sensor, signal, share);
    return `${formatFigure(r.figure, r.decimals)} ${r.unit}`;
  };
  return (
    <>
      <Guide model={model} s={s} />
      {run?.step && <RunFindings run={run} />}
      {run?.step?.state === 'settling' && run.phase === 'ended' && (
        <Finding
          severity="warning"
          sentence="It was let go before the step: nothing can be told from it. Hold until it says that the feedback stands."
        />
      )}
      {speed && <EntryRow entry={speed} second="where it usually works" mark="C" testID="step-speed" />}
      {step && <EntryRow entry={step} second="minus is slower" mark="C" testID="step-by" />}
      {s.outside && (
        <Finding
          severity="warning"
          sentence={`The drive does not go from ${formatFigure(s.frequency, 1)} to ${formatFigure(s.frequency + s.step, 1)} Hz: its lowest or highest speed stands between.`}
        />
      )}
      <Note>
        {sensor.measures === 'level'
          ? 'A level stands only while as much flows in as is pumped out: begin at that speed.'
          : `Nothing else may change meanwhile: no tap, no second machine. It stops by itself below ${end(stepBand.low)} and above ${end(stepBand.high)}.`}
      </Note>
      <MayTurn
        sentence={`${tag} ${name} will turn at ${formatFigure(s.frequency, 1)} Hz while you hold, and step by itself to ${formatFigure(s.frequency + s.step, 1)} Hz.`}
        clear={s.clear}
        onClear={s.setClear}
      />
      {!s.turning && <RunsByWhatIsInDrive model={model} />}
    </>
  );
}

export const stepFoot = (tag: string, s: StepRunState) =>
  s.open ? <HoldButton tag={tag} frequency={s.frequency} step={s.step} blocked={s.blocked} turning={s.turning} /> : undefined;
