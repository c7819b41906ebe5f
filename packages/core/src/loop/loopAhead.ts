import { rawOf, smoothed } from '../controls/feedback';
import { bumpless } from '../controls/pid';
import { quietSetpoint, restingProcess, seenBy, setpointOf, stepProcess, withinLimits, type ProcessSettings } from '../controls/process';
import { ControlWord, LiveZeroAction, type TripCause } from '../drive';
import { fanOperatingPoint, pumpOperatingPoint, type Load } from '../load';
import type { ProcessModel } from './model';
import type { PidGains } from './pidRules';
import { createMachine, ledRight, stepMachine, type Machine, type MachineSpec } from '../machine';

/** Questions put to a loop on the model of its own machine. */
export const loopQuestions = ['set point', 'demand', 'filter', 'little drawn', 'shut valve', 'sensor lost'] as const;
export type LoopQuestion = (typeof loopQuestions)[number];

/** A sensor as a loop needs it: what it sees of the process, in SI at 0 and at 100 %. */
export interface LoopSensor {
  measures: 'pressure' | 'level' | 'flow';
  low: number;
  high: number;
}

export interface LoopPlan {
  question: LoopQuestion;
  process: ProcessSettings;
  sensor: LoopSensor;
  /** s that feedback was measured to come late, and to lag, where that is known */
  measured?: { deadTime: number; lag: number };
  /** s without flow after which the drive's guard trips; null where none does */
  dryFor?: number | null;
  /** s from the start to the end; 120 unless asked otherwise */
  lasts?: number;
  /** s */
  dt?: number;
}

export interface LoopAhead {
  series: {
    /** s */
    time: Float64Array;
    /** % of the sensor's range: what is held, and what is truly there, before anything is made of it */
    setpoint: Float64Array;
    feedback: Float64Array;
    /** Hz */
    output: Float64Array;
    /** A */
    current: Float64Array;
  };
  summary: {
    /** s at which what was asked about happens, and at which it is taken back; null where it stays */
    at: number;
    back: number | null;
    /** s after the last of both until the feedback stays near the set point; null when it does not */
    settled: number | null;
    /** % of the range, extremes from the event on */
    highest: number;
    lowest: number;
    /** Hz in the end */
    output: number;
    /** swings back and forth in the end, or its check valve does */
    swings: boolean;
    /** A */
    peakCurrent: number;
    /** s at which it fell asleep; null where it did not, or where that was not asked about */
    asleep: number | null;
    trip: { cause: TripCause; time: number } | null;
  };
}

/** Questions a machine can be asked: a fan has a filter, a level no valve that is shut. */
export const questionsFor = (load: Load, { measures }: LoopSensor): readonly LoopQuestion[] =>
  loopQuestions.filter((q) => {
    if (load.kind !== 'pump' && load.kind !== 'fan') return false;
    // a level that nothing is known to fill never moves
    if (measures === 'level' && (load.kind === 'fan' || load.sumpArea <= 0)) return false;
    if (q === 'little drawn') return load.kind === 'pump' && measures === 'pressure';
    return q === 'filter' ? load.kind === 'fan' : q === 'shut valve' ? measures !== 'level' : true;
  });

/** s of rest shown before, s the drive's terminals are read in, and s the transmitter lags (common practice: a tenth). */
const before = 5;
const scan = 0.01;
const transmitterLag = 0.1;
/** % of the range that a set point is moved by; shares of demand and inflow, and times of a clean filter. */
export const asked = { setpoint: 10, demand: 1.4, least: 0.6, inflow: 1.25, clogged: 3 } as const;
/** Share of its best flow that a pump gives at least while it runs (common practice: it is not held below a tenth to a quarter of it). */
export const leastDrawn = 0.1;
/** % of the range within which it stands, and that two turns of a swing differ by. */
const stands = 1;
/** % of the range that counts as rest, s at least and at most spent to come to it. */
const rest = { within: 0.05, least: 2, longest: 12 } as const;
const samples = 600;
/** Share of maximum frequency from which a pump without flow is one that turns for nothing. */
const turns = 0.3;
/** Share of a pump's best flow under which nothing flows. */
const noFlowBelow = 0.005;

/** % of the range the process stands at. */
function rawFeedback(m: Machine, { measures, low, high }: LoopSensor): number {
  const { pressure, level, flow } = m.loadState;
  const value = measures === 'pressure' ? pressure : measures === 'level' ? level : flow;
  return (100 * (value - low)) / (high - low);
}

/** Hz at which the machine stands at its set point: by halving, on its steady curve. */
function steadyOutput(m: Machine, { measures, low, high }: LoopSensor, raw: number): number {
  const { load, circuit, drive } = m.spec;
  if (load.kind !== 'pump' && load.kind !== 'fan') return drive.maximumFrequency;
  const reached = (hertz: number): number => {
    const speed = (hertz / circuit.ratedFrequency) * circuit.ratedSpeed;
    const at = load.kind === 'pump' ? pumpOperatingPoint(load, speed) : fanOperatingPoint(load, speed);
    return measures === 'pressure' ? at.pressure : at.flow;
  };
  const wanted = measures === 'level' ? (load.kind === 'pump' ? load.inflow : 0) : low + (raw / 100) * (high - low);
  let [a, b] = [drive.minimumFrequency, drive.maximumFrequency];
  for (let i = 0; i < 40; i++) {
    const middle = (a + b) / 2;
    if (reached(middle) < wanted) a = middle;
    else b = middle;
  }
  return (a + b) / 2;
}

/** Puts the machine where it would stand in its loop, so that nothing but what is asked about moves it. */
function standAt(m: Machine, sensor: LoopSensor, raw: number, hertz: number): void {
  const { circuit, drive, load } = m.spec;
  const way = drive.phaseOrder === m.conditions.phasesSwapped ? 1 : -1;
  m.ramp = hertz;
  m.speed = way * (hertz / circuit.ratedFrequency) * circuit.ratedSpeed;
  if (sensor.measures === 'level') m.loadState.level = sensor.low + (raw / 100) * (sensor.high - sensor.low);
  const speed = Math.abs(m.speed);
  if (load.kind === 'pump') m.loadState.pressure = pumpOperatingPoint(load, speed).pressure;
  if (load.kind === 'fan') m.loadState.pressure = fanOperatingPoint(load, speed).pressure;
}

/** Lets happen what is asked about, or takes it back, on the look-ahead's own copy of the machine. */
function happen(m: Machine, question: LoopQuestion, sound: Load, isBack: boolean): void {
  const { load } = m.spec;
  if (question === 'little drawn' && load.kind === 'pump') {
    const drawn = leastDrawn * load.bestFlow * (Math.abs(m.speed) / load.ratedSpeed);
    load.demandOpening = Math.min(1, load.demandOpening, drawn / (load.demand * Math.sqrt(Math.max(1, m.loadState.pressure))));
    return;
  }
  if (load.kind === 'pump' && sound.kind === 'pump') {
    if (question === 'demand' && sound.sumpArea > 0) load.inflow = sound.inflow * (isBack ? 1 : asked.inflow);
    else if (question === 'demand') load.demandOpening = isBack ? sound.demandOpening : Math.min(1, sound.demandOpening * asked.demand);
    else if (question === 'shut valve') load.demandOpening = 0;
  } else if (load.kind === 'fan' && sound.kind === 'fan') {
    if (question === 'demand') load.damper = isBack ? sound.damper : sound.damper * asked.least;
    else if (question === 'filter') load.clogging = isBack ? sound.clogging : sound.clogging * asked.clogged;
    else if (question === 'shut valve') load.damper = 0;
  }
}

/** The control word and the reference of one scan: what a drive does with its loop, and with a signal that is lost. */
function scanLoop(m: Machine, process: ProcessSettings, state: ReturnType<typeof restingProcess>, raw: number, isLost: boolean) {
  const { maximumFrequency, liveZeroLoss } = m.spec.drive;
  const runs = ControlWord.enableOperation;
  if (isLost) {
    m.conditions.liveZeroLost = 1;
    if (liveZeroLoss === LiveZeroAction.stop) return { word: ControlWord.switchOn, reference: 0 };
    if (liveZeroLoss !== LiveZeroAction.ignore) return { word: runs, reference: m.goal };
  }
  const reference = stepProcess(state, process, quietSetpoint, raw, Math.abs(m.ramp), maximumFrequency, scan);
  return { word: state.sleep.asleep ? ControlWord.switchOn : runs, reference };
}

/** % of the range a lost 4 to 20 mA signal reads as: 0 mA. */
const noSignal = -25;

/**
 * The closed loop on the model of its own machine: ramps, limits and protections of the drive, motor, load and process, the drive's own controller. It
 * begins where the loop stands, or at rest where a start against a shut valve is asked about. Pure; the spec is not changed.
 */
export function loopAhead(spec: MachineSpec, plan: LoopPlan): LoopAhead {
  const { question, sensor, lasts = 120, dt = 0.005 } = plan;
  const process = { ...withinLimits(plan.process, spec.drive), setpoint: { ...plan.process.setpoint } };
  // nobody waits for a loop that falls asleep meanwhile; with everything shut that is what it is to do
  if (question !== 'shut valve') process.sleep = { ...process.sleep, frequency: 0 };
  const m = createMachine({ ...spec, supply: { ...spec.supply }, load: { ...spec.load } }, ledRight(spec));
  for (const word of [ControlWord.shutdown, ControlWord.switchOn, ControlWord.enableOperation]) stepMachine(m, word, 0, dt);
  const state = restingProcess();
  const wanted = setpointOf(process.setpoint, quietSetpoint);
  const raw = process.straight ? rawOf(process.straight, wanted) : wanted;
  const starts = question === 'shut valve';
  const first = starts ? 0 : steadyOutput(m, sensor, raw);
  if (starts) happen(m, question, spec.load, false);
  else {
    standAt(m, sensor, raw, first);
    state.active = true;
    [state.setpoint, state.wanted] = [wanted, wanted];
    bumpless(state.loop, process.pid, wanted, seenBy(process, rawFeedback(m, sensor)), (100 * first) / spec.drive.maximumFrequency);
  }
  let sensed = rawFeedback(m, sensor);
  let filtered = sensed;
  let command: { word: number; reference: number } = { word: ControlWord.enableOperation, reference: first };
  const perScan = Math.max(1, Math.round(scan / dt));
  const { deadTime, lag } = plan.measured ?? { deadTime: 0, lag: transmitterLag };
  const past = new Float64Array(Math.max(1, Math.round(deadTime / scan))).fill(sensed);
  let oldest = 0;
  const stepScan = (isLost = false) => {
    for (let k = 0; k < perScan; k++) stepMachine(m, command.word, command.reference, dt);
    const there = rawFeedback(m, sensor);
    sensed = smoothed(sensed, deadTime > 0 ? (past[oldest] ?? NaN) : there, lag, scan);
    past[oldest] = there;
    oldest = (oldest + 1) % past.length;
    filtered = smoothed(filtered, isLost ? noSignal : sensed, process.filter, scan);
    command = scanLoop(m, process, state, filtered, isLost);
  };
  for (let t = 0; !starts && t < rest.longest; t += scan) {
    const was = sensed;
    stepScan();
    if (t > rest.least && Math.abs(sensed - was) < rest.within * scan && Math.abs(seenBy(process, filtered) - state.setpoint) < stands / 2) break;
  }
  return watch({ m, spec, plan, process, wanted, lasts, state, stepScan, feedback: () => filtered });
}

/** How late a feedback comes, as it was measured: what a machine's own vessel does not explain. */
export const lateOf = ({ deadTime, lags }: ProcessModel): NonNullable<LoopPlan['measured']> => ({ deadTime, lag: Math.max(transmitterLag, lags[1]) });

/** Times the gain with which it has to hold where little is drawn: a curve is hardly known there (common practice: a gain margin of two to three). */
const unknownCurve = 3;
/** s looked at, and within which it has to have come to rest. */
const littleFor = { lasts: 45, rests: 20 };

/** Whether gains as measured outside hold a machine's own loop where little is drawn: a pump's curve is flat there, and its check valve shuts. */
export function holdsLittleDrawn(spec: MachineSpec, plan: Omit<LoopPlan, 'question' | 'lasts'>, g: PidGains): boolean {
  const pid = { ...plan.process.pid, proportionalGain: unknownCurve * g.gain, integralTime: g.integralTime, derivativeTime: g.derivativeTime };
  const process: ProcessSettings = { ...plan.process, pid };
  const { swings, settled } = loopAhead(spec, { ...plan, process, question: 'little drawn', lasts: littleFor.lasts }).summary;
  return !swings && settled !== null && settled <= littleFor.rests;
}

interface Watched {
  m: Machine;
  spec: MachineSpec;
  plan: LoopPlan;
  process: ProcessSettings;
  wanted: number;
  lasts: number;
  state: ReturnType<typeof restingProcess>;
  stepScan: (isLost?: boolean) => void;
  feedback: () => number;
}

/** What comes of it, once it stands. */
function watch({ m, spec, plan, process, wanted, lasts, state, stepScan, feedback }: Watched): LoopAhead {
  const { question } = plan;
  const at = question === 'shut valve' ? 0 : before;
  const back = question === 'demand' || question === 'filter' || question === 'set point' ? at + (lasts - at) / 2 : null;
  const n = Math.round(lasts / scan);
  const every = Math.max(1, Math.floor(n / samples));
  const channel = () => new Float64Array(Math.ceil(n / every));
  const series = { time: channel(), setpoint: channel(), feedback: channel(), output: channel(), current: channel() };
  const errors = new Float64Array(n);
  const flows = new Uint8Array(n);
  const summary: LoopAhead['summary'] = {
    ...{ at, back, settled: null, highest: -Infinity, lowest: Infinity, output: 0, swings: false, peakCurrent: 0, asleep: null, trip: null },
  };
  const none = spec.load.kind === 'pump' ? noFlowBelow * spec.load.bestFlow : -1;
  const dryFor = plan.dryFor ?? Infinity;
  let still = 0;
  const moved = wanted + asked.setpoint > process.setpoint.high ? -asked.setpoint : asked.setpoint;
  for (let i = 0; i < n; i++) {
    const t = i * scan;
    if (t >= at && t < at + scan) {
      if (question === 'set point') process.setpoint.stored = wanted + moved;
      else happen(m, question, spec.load, false);
    }
    if (back !== null && t >= back && t < back + scan) {
      if (question === 'set point') process.setpoint.stored = wanted;
      else happen(m, question, spec.load, true);
    }
    stepScan(question === 'sensor lost' && t >= at);
    errors[i] = seenBy(process, feedback()) - state.setpoint;
    const flowing = m.loadState.flow > none;
    flows[i] = flowing ? 1 : 0;
    const there = rawFeedback(m, plan.sensor);
    if (t >= at) {
      summary.highest = Math.max(summary.highest, there);
      summary.lowest = Math.min(summary.lowest, there);
      summary.peakCurrent = Math.max(summary.peakCurrent, m.motor.current);
    }
    if (state.sleep.asleep) summary.asleep ??= t;
    still = flowing || Math.abs(m.frequency) < turns * spec.drive.maximumFrequency ? 0 : still + scan;
    if (still > dryFor) summary.trip ??= { cause: 'noFlow', time: t };
    if (m.trip !== null) summary.trip ??= { cause: m.trip.cause, time: t };
    if (i % every !== 0) continue;
    const k = i / every;
    series.time[k] = t;
    series.setpoint[k] = process.straight ? rawOf(process.straight, state.setpoint) : state.setpoint;
    series.feedback[k] = there;
    series.output[k] = Math.abs(m.frequency);
    series.current[k] = m.motor.current;
  }
  summary.output = Math.abs(m.frequency);
  const since = back ?? at;
  let last = n;
  while (last > 0 && Math.abs(errors[last - 1] ?? NaN) <= stands) last--;
  summary.settled = last >= n ? null : Math.max(0, last * scan - since);
  const end = Math.floor(n * 0.6);
  summary.swings = summary.trip === null && (swingsIn(errors.subarray(end)) || (question === 'little drawn' && claps(flows.subarray(end))));
  return { series, summary };
}

/** Whether a check valve shuts and opens again and again. */
const claps = (flows: Uint8Array): boolean => flows.reduce((sum, f, i) => sum + (i > 0 && f > (flows[i - 1] ?? NaN) ? 1 : 0), 0) >= 3;

/** Whether an error goes through nothing again and again, by more than what counts as standing. */
function swingsIn(errors: Float64Array): boolean {
  let turns = 0;
  let side = 0;
  for (const e of errors) {
    if (Math.abs(e) < stands || Math.sign(e) === side) continue;
    if (side !== 0) turns++;
    side = Math.sign(e);
  }
  return turns >= 4;
}
