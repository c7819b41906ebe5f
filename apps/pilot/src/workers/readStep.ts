import { guessChoice, loopRecordOf, readRecordingCsv, type RecordingChoice } from '@yare/commissioning/recordingCsv';
import { gainsOver } from '@yare/commissioning/steady';
import { heldFigure, type HeldAs, type MachineSpec, type ProcessSensor } from '@yare/core';
import {
  filtered,
  holdsLittleDrawn,
  marginsOf,
  lateOf,
  predict,
  proposePid,
  questionsFor,
  restingModel,
  steadyPointsOf,
  stepModel,
  stepTest,
  swingingOf,
  thinned,
  type LoopPlan,
  type LoopRecord,
  type Margins,
  type PidGains,
  type ProcessModel,
  type Predicted,
  type Proposal,
  type RuleId,
  type SteadyPoint,
  type StepTest,
  type Swinging,
} from '@yare/core/loop';

export interface TuningAsked {
  /** a recording as a file has it, and which of its columns is what; null as guessed */
  text: string;
  choice: RecordingChoice | null;
  /** Hz that are 100 %, the sensor, and how its input is wired */
  of: { top: number; sensor: ProcessSensor; signal: number };
  /** how the drive holds its values; null where it has no such setting */
  held: Record<'gain' | 'integralTime' | 'derivativeTime', HeldAs | null>;
  /** what the drive multiplies its feedback with: its gain acts on that */
  straight: number;
  /** steady points over the range, as far as they were noted */
  points: SteadyPoint[];
  /** s, of the drive's own filter that stays in while it runs and was not in while the step was recorded */
  filter: number;
  /** what is in the draft now, to be compared; its gain on the feedback as it comes */
  now: PidGains;
  /** % of output a second of the drive's ramp */
  ramp: number;
  /** the machine by its plate and what it drives, and its loop; null where that is not known */
  machine: { spec: MachineSpec; plan: Omit<LoopPlan, 'question'> } | null;
}

export interface Line {
  time: Float64Array;
  values: Float64Array;
}

/** What was found in a file, and what its step told. */
export interface Read {
  columns: Array<{ name: string; time: boolean }>;
  choice: RecordingChoice | null;
  rows: number;
  skipped: number;
  /** a figure of the file that may be thousands or thousandths; null where the file tells */
  doubtful: string | null;
  /** why it cannot be used */
  trouble: string | null;
  tuned: Tuned | null;
  /** speeds at which the feedback stood, where the recording has several */
  steady: SteadyPoint[];
}

export interface Tuned {
  test: StepTest;
  /** the record thinned to what a screen shows, and what the fitted process makes of it; % */
  output: Line;
  feedback: Line;
  fit: Line | null;
  proposals: Proposal[];
  recommended: RuleId | null;
  /** what the draft's values would do to 1 % of disturbance; null without a process */
  now: Predicted | null;
  /** how far the draft's values are from swinging */
  margins: Margins | null;
  /** a loop that swings in the recording, where it is no step test */
  swinging: Swinging | null;
}

const shown = 400;

/** What the fitted process makes of the output as recorded. */
function fittedLine(test: Extract<StepTest, { ok: true }>, output: Line): Line {
  const { time, values } = output;
  const [begin = 0, end = 1] = [time[0], time[time.length - 1]];
  const { model } = test.best;
  const dt = Math.max(1e-3, (end - begin) / 4000);
  const state = restingModel(model, dt);
  const out = { time: new Float64Array(shown), values: new Float64Array(shown) };
  const rest = values[0] ?? 0;
  let at = 0;
  let y = 0;
  for (let i = 0, k = 0; i < shown; i++) {
    const t = begin + (i / (shown - 1)) * (end - begin);
    for (; begin + k * dt <= t; k++) {
      while (at + 1 < time.length && (time[at + 1] ?? Infinity) <= begin + k * dt) at++;
      y = stepModel(state, model, (values[at] ?? rest) - rest, dt);
    }
    out.time[i] = t;
    out.values[i] = test.baseline + y;
  }
  return out;
}

/** Values as the drive holds them. */
const roundedBy =
  ({ held, straight }: Pick<TuningAsked, 'held' | 'straight'>) =>
  (g: PidGains): PidGains => ({
    gain: held.gain ? heldFigure(held.gain, g.gain / straight) * straight : g.gain,
    integralTime: held.integralTime ? heldFigure(held.integralTime, g.integralTime) : g.integralTime,
    derivativeTime: held.derivativeTime ? heldFigure(held.derivativeTime, g.derivativeTime) : 0,
  });

/** Whether values hold the machine's own loop where little is drawn, with what was measured of how late its feedback comes. */
function holdsAtLeast({ machine, filter, straight }: TuningAsked, measured: ProcessModel): ((g: PidGains) => boolean) | undefined {
  if (!machine || measured.kind !== 'settling' || !questionsFor(machine.spec.load, machine.plan.sensor).includes('little drawn')) return undefined;
  const { spec, plan } = machine;
  const late = { ...plan, process: { ...plan.process, filter }, measured: lateOf(measured) };
  return (g) => holdsLittleDrawn(spec, late, { ...g, gain: g.gain / straight });
}

function tune(record: LoopRecord, asked: TuningAsked): Tuned {
  const { points, filter, now } = asked;
  const test = stepTest(record);
  const thin = thinned(record, shown);
  const line = (values: readonly number[]): Line => ({ time: Float64Array.from(thin.time), values: Float64Array.from(values) });
  const output = line(thin.output);
  const feedback = line(thin.feedback);
  if (!test.ok)
    return {
      test,
      output,
      feedback,
      fit: null,
      proposals: [],
      recommended: null,
      now: null,
      margins: null,
      swinging: swingingOf(record, now, asked.ramp),
    };
  const level = test.best.model.kind === 'integrating';
  const holds = holdsAtLeast(asked, test.likely);
  const { proposals, recommended } = proposePid(test.likely, {
    ...(holds && { holds }),
    ramp: asked.ramp,
    ...{ round: roundedBy(asked), filter, derivative: asked.held.derivativeTime !== null, bothSides: test.back !== null },
    grain: Math.max(test.step, 2 * test.noise),
    ...(!level && { plausible: test.best.plausible }),
    gains: gainsOver(points, ((test.back ?? test.from) + test.to) / 2),
  });
  const best = proposals.find((p) => p.rule === recommended);
  const lasts = best ? (best.disturbance.time.at(-1) ?? 60) : 60;
  const process = filtered(test.likely, filter);
  return {
    ...{ test, output, feedback, proposals, recommended },
    fit: fittedLine(test, output),
    now: predict(process, now, { setpoint: 0, disturbance: 1, longest: lasts }),
    margins: marginsOf(process, now),
    swinging: null,
  };
}

/** A file read, its step test and its controller. */
export function readStep(asked: TuningAsked): Read {
  const table = readRecordingCsv(asked.text, asked.choice?.comma);
  if (!table.ok) return { columns: [], choice: null, rows: 0, skipped: 0, doubtful: null, trouble: table.sentence, tuned: null, steady: [] };
  const choice = asked.choice ?? guessChoice(table.columns);
  const found = {
    columns: table.columns.map(({ name, time }) => ({ name, time })),
    choice,
    rows: table.rows,
    skipped: table.skipped,
    doubtful: table.doubtful,
  };
  const read = loopRecordOf(table.columns, choice, asked.of);
  if (!read.ok) return { ...found, trouble: read.sentence, tuned: null, steady: [] };
  return { ...found, trouble: null, tuned: tune(read.record, asked), steady: steadyPointsOf(read.record) };
}
