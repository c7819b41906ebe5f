import { levenbergMarquardt } from 'ml-levenberg-marquardt';
import { inverse, Matrix } from 'ml-matrix';
import { ratedTorque } from '../plate';
import type { MachineSpec } from '../machine';
import { applyLearned, isMeasured, usualSpread, type Learnable, type Learned } from './learned';
import { replay, type DriveRecord } from './replay';

/** What a recording of this machine can tell. */
function learnableOf(spec: MachineSpec, record: DriveRecord): Learnable[] {
  const motor: Learnable[] = ['inertia', 'magnetising', 'leakage', 'statorResistance', 'rotorResistance', 'rotationalLoss', 'supply', 'capacitance'];
  const { kind } = spec.load;
  if (kind === 'torque') return [...motor, 'loadTorque', 'friction'];
  if (kind === 'conveyor') return [...motor, 'friction', 'loadTorque'];
  if (!record.process) return [...motor, 'loadTorque'];
  return kind === 'pump'
    ? [...motor, 'loadTorque', 'processHead', 'processDemand', 'processCompliance']
    : [...motor, 'loadTorque', 'processHead', 'processDemand'];
}

export interface LearnOptions {
  /** W, rpm: of the motor the drive was told, whose torque is its 100 % */
  ratedPower: number;
  ratedSpeed: number;
  /** s, how the drive smooths what it reports */
  readOutLag: number;
  /** Pa of the process sensor's range */
  processRange?: number;
  /** A and V one count of the drive's words is worth, at least */
  currentStep: number;
  voltageStep: number;
}

export type LearnResult =
  | {
      ok: true;
      learned: Learned;
      /** kg·m² with one standard deviation */
      inertia: { value: number; spread: number };
      /** root mean square of what is left over, each in its own unit: A, V, % of rated torque, Pa */
      left: { current: number; busVoltage: number; torque: number; process: number };
    }
  | { ok: false; sentence: string };

/** A fall of the output to nothing from above this is no ramp: a trip or a coast, after which a drive sees nothing more, Hz. */
const abrupt = 3;

/** Leaves out what stands still at both ends, and what comes after the output was cut. */
function usable(record: DriveRecord): DriveRecord {
  const n = record.time.length;
  let first = 0;
  while (first < n && record.frequency[first] === 0) first++;
  let last = n - 1;
  while (last > first && record.frequency[last] === 0) last--;
  for (let i = first + 1; i < last; i++) if (record.frequency[i] === 0 && Math.abs(record.frequency[i - 1]!) > abrupt) last = i - 1;
  const cut = Math.abs(record.frequency[last]!) > abrupt;
  // a second of rest before the start gives the bus at rest, half a second after it the end of the stop
  const from = record.time[Math.max(0, first - 1)]! - 1;
  const to = cut ? record.time[last]! : record.time[Math.min(n - 1, last + 1)]! + 0.5;
  const keep: number[] = [];
  for (let i = 0; i < n; i++) {
    const t = record.time[i]!;
    if (t >= from && t <= to) keep.push(i);
  }
  const pick = (a: ArrayLike<number>) => Float64Array.from(keep, (i) => a[i]!);
  return {
    time: pick(record.time),
    frequency: pick(record.frequency),
    current: pick(record.current),
    busVoltage: pick(record.busVoltage),
    torque: pick(record.torque),
    ...(record.process && { process: pick(record.process) }),
  };
}

/** Left over of current and torque, as shares of rated, from which on the model is of another machine; and log of a multiplier no machine has. */
const mostLeft = { current: 0.12, torque: 0.2 };
const noMachine = 1.9;
/** The shaft turned against its field's sign: what the estimate says of the torque has the other sign than what was reported. */
function turnedTheOtherWay(estimate: MachineSpec, record: DriveRecord, lag: number): boolean {
  const seen = replay(estimate, record, lag);
  let together = 0;
  let size = 0;
  for (let i = 0; i < record.time.length; i++) {
    together += seen.torque[i]! * record.torque[i]!;
    size += Math.abs(seen.torque[i]! * record.torque[i]!);
  }
  return together < -0.2 * size;
}

/** Why what was fitted is not to be believed; null when it may be. */
function disbelieve(p: readonly number[], left: { current: number; torque: number }, ratedCurrent: number): string | null {
  if (p.some((x) => Math.abs(x) >= noMachine))
    return 'To fit this recording the model would need values no machine has. Check the plate, what is driven and the direction, then record another run.';
  if (left.current > mostLeft.current * ratedCurrent || left.torque > 100 * mostLeft.torque)
    return `Model and recording stay ${left.current.toFixed(1)} A and ${left.torque.toFixed(0)} % torque apart: nothing is learned from this run. Check the plate and what is driven.`;
  return null;
}

/** Why a record is not good enough to learn from; null when it is. */
function refuse(spec: MachineSpec, r: DriveRecord): string | null {
  let top = 0;
  for (let i = 0; i < r.frequency.length; i++) top = Math.max(top, Math.abs(r.frequency[i]!));
  const wanted = 0.4 * spec.drive.motorFrequency;
  if (r.time.length < 40) return 'The recording is too short. Run up, hold a few seconds and let go.';
  if (top < wanted) return `The run went to ${top.toFixed(1)} Hz only. Learning needs a run up to at least ${wanted.toFixed(0)} Hz.`;
  return null;
}

/**
 * What a recorded run tells about a machine: total inertia, friction and load torque, and the electrical values as far as the record shows
 * them. The model is driven along the reported frequency and its values are moved until current, bus, torque and process fit (output-error
 * method: Ljung, *System Identification*, ch. 7), by Levenberg–Marquardt, with the usual tolerances as prior. The spread comes from the
 * Jacobian at the end.
 */
export function learnFromRecord(estimate: MachineSpec, full: DriveRecord, o: LearnOptions): LearnResult {
  const record = usable(full);
  const sentence = refuse(estimate, record);
  if (sentence) return { ok: false, sentence };
  if (turnedTheOtherWay(estimate, record, o.readOutLag))
    return {
      ok: false,
      sentence:
        'The torque of this run has the wrong sign for its frequency: the shaft turned the other way. Put the direction right, then record another run.',
    };
  const names = learnableOf(estimate, record);
  const n = record.time.length;
  const rated = ratedTorque(o.ratedPower, o.ratedSpeed);
  const ratedCurrent = estimate.drive.motorCurrent;
  // what one sample is worth: a count of the word, and what the model leaves out
  const sigma = {
    current: Math.hypot(o.currentStep / 3, 0.01 * ratedCurrent),
    bus: Math.hypot(o.voltageStep / 3, 2),
    torque: 4,
    process: o.processRange ? 0.006 * o.processRange : 1,
  };
  // neighbouring samples err together, so a record counts for fewer than it has
  const weight = Math.sqrt(1 / 8);
  const learnedFrom = (p: ArrayLike<number>): Learned =>
    Object.fromEntries(names.map((name, i) => [name, { times: Math.exp(Math.max(-2, Math.min(2, p[i]!))), spread: 0 }]));
  const channels = record.process ? 4 : 3;
  const total = n * channels + names.length;
  const residuals = (p: ArrayLike<number>): Float64Array => {
    const seen = replay(applyLearned(estimate, learnedFrom(p)), record, o.readOutLag);
    const r = new Float64Array(total);
    for (let i = 0; i < n; i++) {
      r[i] = (weight * (seen.current[i]! - record.current[i]!)) / sigma.current;
      r[n + i] = (weight * (seen.busVoltage[i]! - record.busVoltage[i]!)) / sigma.bus;
      r[2 * n + i] = (weight * ((100 * seen.torque[i]!) / rated - record.torque[i]!)) / sigma.torque;
      if (record.process) r[3 * n + i] = (weight * (seen.pressure[i]! - record.process[i]!)) / sigma.process;
    }
    names.forEach((name, i) => (r[n * channels + i] = p[i]! / usualSpread[name]));
    return r;
  };
  const index = Array.from({ length: total }, (_, i) => i);
  let fit;
  try {
    fit = levenbergMarquardt(
      { x: index, y: new Array<number>(total).fill(0) },
      (p: number[]) => {
        const r = residuals(p);
        return (i: number) => r[i]!;
      },
      {
        initialValues: names.map(() => 0),
        damping: 0.1,
        gradientDifference: 0.004,
        maxIterations: 8,
        errorTolerance: 1e-9,
        improvementThreshold: 1e-3,
      },
    );
  } catch {
    return { ok: false, sentence: 'The recording and the model do not come together. Check the plate and what is driven, then record another run.' };
  }
  const p = fit.parameterValues;
  const spread = spreadOf(residuals, p);
  const end = residuals(p);
  const rms = (from: number, scale: number) => {
    let sum = 0;
    for (let i = from; i < from + n; i++) sum += (end[i]! / weight) ** 2;
    return Math.sqrt(sum / n) * scale;
  };
  const left = {
    current: rms(0, sigma.current),
    busVoltage: rms(n, sigma.bus),
    torque: rms(2 * n, sigma.torque),
    process: record.process ? rms(3 * n, sigma.process) : 0,
  };
  const disbelieved = disbelieve(p, left, ratedCurrent);
  if (disbelieved) return { ok: false, sentence: disbelieved };
  // what the model cannot say counts against every value: left-overs larger than a sample's worth widen them all
  const wider = Math.sqrt(Math.max(1, end.reduce((sum, r) => sum + r * r, 0) / (weight * weight * n * channels)));
  const learned = learnedFrom(p);
  names.forEach((name, i) => (learned[name]!.spread = Math.min(usualSpread[name], spread[i]! * wider)));
  const { inertia } = learned;
  if (!inertia || !isMeasured('inertia', inertia))
    return { ok: false, sentence: 'This run tells too little of the inertia. Run up and down on the ramp, then learn from that.' };
  return {
    ok: true,
    learned,
    inertia: { value: estimate.inertia * inertia.times, spread: estimate.inertia * inertia.times * inertia.spread },
    left,
  };
}

/** One standard deviation of each parameter, √diag((JᵀJ)⁻¹), the residuals being in standard deviations already. */
function spreadOf(residuals: (p: ArrayLike<number>) => Float64Array, p: number[]): number[] {
  const d = 0.004;
  const base = residuals(p);
  const columns = p.map((_, k) => {
    const moved = residuals(p.map((v, i) => (i === k ? v + d : v)));
    return moved.map((v, i) => (v - base[i]!) / d);
  });
  const normal = new Matrix(p.length, p.length);
  for (let a = 0; a < p.length; a++) {
    for (let b = a; b < p.length; b++) {
      let sum = 0;
      for (let i = 0; i < base.length; i++) sum += columns[a]![i]! * columns[b]![i]!;
      normal.set(a, b, sum);
      normal.set(b, a, sum);
    }
  }
  const covariance = inverse(normal);
  return p.map((_, k) => Math.sqrt(Math.max(0, covariance.get(k, k))));
}
