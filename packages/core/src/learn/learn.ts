import { StartMode } from '../drive';
import { ratedTorque } from '../plate';
import { totalInertia, type MachineSpec } from '../machine';
import { applyLearned, figureOf, isMeasured, usualSpread, type Learnable, type Learned } from './learned';
import { fitted, spreadOf } from './fit';
import { replay, type DriveRecord } from './replay';
import { nth, present } from '../present';

/** What recordings of this machine can tell. */
function learnableOf(spec: MachineSpec, records: readonly DriveRecord[]): Learnable[] {
  const seesProcess = records.some((r) => r.process);
  const motor: Learnable[] = [
    'inertia',
    'magnetising',
    'leakage',
    'statorResistance',
    'rotorResistance',
    'rotationalLoss',
    'supply',
    'capacitance',
    'inverterDrop',
  ];
  const { kind } = spec.load;
  if (kind === 'torque') return [...motor, 'loadTorque', 'friction'];
  if (kind === 'hoist') return [...motor, 'loadTorque'];
  if (kind === 'conveyor') return [...motor, 'friction', 'loadTorque'];
  const process: Learnable[] = seesProcess ? ['processHead', 'processDemand'] : [];
  if (kind === 'fan') return [...motor, 'loadTorque', ...process];
  return [
    ...motor,
    'loadTorque',
    'friction',
    'noFlowPower',
    'runOutPower',
    'waterLag',
    ...process,
    ...(seesProcess ? (['processCompliance'] as const) : []),
  ];
}

export interface LearnOptions {
  /** W, rpm: of the motor the drive was told, whose torque is its 100 % */
  ratedPower: number;
  ratedSpeed: number;
  /** s, how the drive smooths what it reports */
  readOutLag: number;
  /** Pa of the process sensor's range */
  processRange?: number;
  /** s, of the drive's filter on its feedback */
  processLag?: number;
  /** A and V one count of the drive's words is worth, at least */
  currentStep: number;
  voltageStep: number;
}

export type LearnResult =
  | {
      ok: true;
      learned: Learned;
      /** kg·m² of all that turns, with one standard deviation; measured when the run narrowed it */
      inertia: { measured: boolean; value: number; spread: number };
      /** root mean square of what is left over, each in its own unit: A, V, % of rated torque, Pa */
      left: { current: number; busVoltage: number; torque: number; process: number };
    }
  | { ok: false; sentence: string };

/** A fall of the output to nothing from above this is no ramp: a trip or a coast, after which a drive sees nothing more, Hz. */
const abrupt = 3;

/** s in which a drive that catches spinning loads has looked its range through. */
const longestSearch = 3;

/** Where a run begins: the first output, or after a drive has looked for a spinning shaft from the top down, the lowest it came to. */
function beginningOf(record: DriveRecord, catches: boolean): number {
  const n = record.time.length;
  let first = 0;
  while (first < n && record.frequency[first] === 0) first++;
  if (!catches) return first;
  let lowest = first;
  for (let i = first; i < n && nth(record.time, i) < nth(record.time, first) + longestSearch; i++)
    if (Math.abs(nth(record.frequency, i)) < Math.abs(nth(record.frequency, lowest))) lowest = i;
  return lowest;
}

/** Leaves out what stands still at both ends, and what comes after the output was cut. */
function usable(record: DriveRecord, catches: boolean): DriveRecord {
  const n = record.time.length;
  const first = beginningOf(record, catches);
  let last = n - 1;
  while (last > first && record.frequency[last] === 0) last--;
  for (let i = first + 1; i < last; i++) if (record.frequency[i] === 0 && Math.abs(nth(record.frequency, i - 1)) > abrupt) last = i - 1;
  const cut = Math.abs(nth(record.frequency, last)) > abrupt;
  // a second of rest before the start gives the bus at rest, half a second after it the end of the stop
  const from = nth(record.time, Math.max(0, first - 1)) - (first > 0 && record.frequency[first - 1] === 0 ? 1 : 0);
  const to = cut ? nth(record.time, last) : nth(record.time, Math.min(n - 1, last + 1)) + 0.5;
  const keep: number[] = [];
  for (let i = 0; i < n; i++) {
    const t = nth(record.time, i);
    if (t >= from && t <= to) keep.push(i);
  }
  const pick = (a: ArrayLike<number>) => Float64Array.from(keep, (i) => nth(a, i));
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
/** Usual spreads from its estimate that no machine of that plate lies away. */
const furthest = 5;
/** The shaft turned against its field's sign: what the estimate says of the torque has the other sign than what was reported. Null when it did not. */
function otherWay(estimate: MachineSpec, record: DriveRecord, lag: number): string | null {
  const seen = replay(estimate, record, lag);
  let together = 0;
  let size = 0;
  for (let i = 0; i < record.time.length; i++) {
    together += nth(seen.torque, i) * nth(record.torque, i);
    size += Math.abs(nth(seen.torque, i) * nth(record.torque, i));
  }
  return together < -0.2 * size
    ? 'The torque of this run has the wrong sign for its frequency: the shaft turned the other way. Put the direction right, then record another run.'
    : null;
}

/** Why what was fitted is not to be believed; null when it may be. */
function disbelieve(
  names: readonly Learnable[],
  p: readonly number[],
  left: { current: number; torque: number },
  ratedCurrent: number,
): string | null {
  if (names.some((name, i) => Math.abs(nth(p, i)) >= Math.min(noMachine, furthest * usualSpread[name])))
    return 'To fit this recording the model would need values no machine has. Check the plate, what is driven and the direction, then record another run.';
  if (left.current > mostLeft.current * ratedCurrent || left.torque > 100 * mostLeft.torque)
    return `Model and recording stay ${left.current.toFixed(1)} A and ${left.torque.toFixed(0)} % torque apart: nothing is learned from this run. Check the plate and what is driven.`;
  return null;
}

/** Share of rated frequency below which fields and currents lag behind the steady state, and what a sample there counts. */
const slowest = 0.12;
const slowWorth = 0.15;
/** Log by which the resistance a drive takes for its motor's may be off. */
const readingSpread = 1;
/** s by which a transmitter tells its process late, and the log it may be off (common practice). */
const usualLateness = 0.2;
const latenessSpread = 1;
/** Log by which one run lies off another of the same machine: mains of its own, taps and dampers as they stood, the load of the day (common practice). */
const ofTheDay: Partial<Record<Learnable, number>> = { supply: 0.015, processDemand: 0.2, loadTorque: 0.1, friction: 0.1 };

/** What each of several runs has of its own. */
function ownOf(names: readonly Learnable[], kind: MachineSpec['load']['kind']): Learnable[] {
  const load: Learnable = names.includes('processDemand') ? 'processDemand' : kind === 'conveyor' ? 'friction' : 'loadTorque';
  return ['supply', load];
}
/** A multiplier, from its log; nothing is further off than this. */
const timesOf = (log: number): number => Math.exp(Math.max(-2, Math.min(2, log)));

/** What each sample of current and torque counts. */
const worthOf = (record: DriveRecord, below: number): Float64Array =>
  Float64Array.from({ length: record.time.length }, (_, i) => (Math.abs(nth(record.frequency, i)) < below ? slowWorth : 1));

/** Why a record is not good enough to learn from; null when it is. */
function refuse(spec: MachineSpec, r: DriveRecord): string | null {
  let top = 0;
  for (let i = 0; i < r.frequency.length; i++) top = Math.max(top, Math.abs(nth(r.frequency, i)));
  const wanted = 0.4 * spec.drive.motorFrequency;
  if (r.time.length < 40) return 'The recording is too short. Run up, hold a few seconds and let go.';
  if (top < wanted) return `The run went to ${top.toFixed(1)} Hz only. Learning needs a run up to at least ${wanted.toFixed(0)} Hz.`;
  return null;
}

/**
 * Torque that the drive calls 100 %, N·m of the true shaft. A drive works torque out of power over the speed of its field, which it knows by the
 * poles it was told: told of twice the poles, it takes half the torque for the whole.
 */
function toldTorque(estimate: MachineSpec, o: LearnOptions): number {
  const poles = 2 * Math.max(1, Math.floor((60 * estimate.drive.motorFrequency) / o.ratedSpeed));
  return (ratedTorque(o.ratedPower, o.ratedSpeed) * estimate.circuit.poles) / poles;
}

const learnedFrom = (estimate: MachineSpec, names: readonly Learnable[], p: ArrayLike<number>): Learned =>
  Object.fromEntries(names.map((name, i) => [name, { times: timesOf(nth(p, i)), spread: 0, of: figureOf(estimate, name) }]));

/** Neighbouring samples err together, so a record counts for fewer than it has. */
const weight = Math.sqrt(1 / 30);

/** What a model with values of its own leaves over of the records, in standard deviations: every channel of every run, then the priors. */
function compare(estimate: MachineSpec, records: readonly DriveRecord[], o: LearnOptions, names: readonly Learnable[]) {
  const rated = toldTorque(estimate, o);
  // what one sample is worth: a count of the word, and what the model leaves out
  const sigma = {
    current: Math.hypot(o.currentStep / 3, 0.01 * estimate.drive.motorCurrent),
    busVoltage: Math.hypot(o.voltageStep / 3, 2),
    torque: 3,
    process: o.processRange ? 0.006 * o.processRange : 1,
  };
  type Channel = keyof typeof sigma;
  let samples = 0;
  const stretches = records.flatMap((record, run) =>
    (Object.keys(sigma) as Channel[]).flatMap((channel) => {
      const told = record[channel];
      if (!told) return [];
      samples += told.length;
      return [{ run, channel, told, from: samples - told.length }];
    }),
  );
  const worths = records.map((record) => worthOf(record, slowest * estimate.drive.motorFrequency));
  const sensed = records.some((r) => r.process);
  // after the names comes what the drive itself takes its motor's copper for: it stands in its torque and in nothing else
  const reading = names.length;
  const toldCopper = estimate.drive.statorResistance || estimate.circuit.r1;
  // and how late the transmitter is, beside the filter that is known
  const late = reading + 1;
  const own = records.length > 1 ? ownOf(names, estimate.load.kind) : [];
  const firstOwn = sensed ? late + 1 : late;
  const nuisances = firstOwn - reading + records.length * own.length;
  const onTheDay = (spec: MachineSpec, run: number, p: ArrayLike<number>): MachineSpec =>
    applyLearned(spec, Object.fromEntries(own.map((name, i) => [name, { times: timesOf(nth(p, firstOwn + run * own.length + i)), spread: 0 }])));
  const residuals = (p: ArrayLike<number>): Float64Array => {
    const spec = applyLearned(estimate, learnedFrom(estimate, names, p));
    const copper = toldCopper * timesOf(nth(p, reading));
    const processLag = (o.processLag ?? 0) + (sensed ? usualLateness * timesOf(nth(p, late)) : 0);
    const seen = records.map((record, run) => replay(onTheDay(spec, run, p), record, o.readOutLag, copper, processLag));
    const r = new Float64Array(samples + names.length + nuisances);
    for (const { run, channel, told, from } of stretches) {
      const made = nth(seen, run)[channel];
      const unit = channel === 'torque' ? 100 / rated : 1;
      const worth = channel === 'current' || channel === 'torque' ? worths[run] : undefined;
      for (let i = 0; i < told.length; i++)
        r[from + i] = ((worth ? nth(worth, i) : 1) * weight * (unit * nth(made, i) - nth(told, i))) / sigma[channel];
    }
    names.forEach((name, i) => (r[samples + i] = nth(p, i) / usualSpread[name]));
    r[samples + reading] = nth(p, reading) / readingSpread;
    if (sensed) r[samples + late] = nth(p, late) / latenessSpread;
    for (let i = firstOwn; i < r.length - samples; i++) r[samples + i] = nth(p, i) / present(ofTheDay[nth(own, (i - firstOwn) % own.length)]);
    return r;
  };
  /** Root mean square of each channel at the end of a fit, each in its own unit, and by how much that widens every value. */
  const leftOver = (end: Float64Array) => {
    const rms = (channel: Channel) => {
      const of = stretches.filter((s) => s.channel === channel);
      const n = of.reduce((sum, { told }) => sum + told.length, 0);
      const sum = of.reduce((all, { told, from }) => end.subarray(from, from + told.length).reduce((part, x) => part + x * x, all), 0);
      return n === 0 ? 0 : (Math.sqrt(sum / n) / weight) * sigma[channel];
    };
    return {
      left: { current: rms('current'), busVoltage: rms('busVoltage'), torque: rms('torque'), process: rms('process') },
      // what the model cannot say counts against every value: left-overs larger than a sample's worth widen them all
      wider: Math.sqrt(Math.max(1, end.reduce((sum, r) => sum + r * r, 0) / (weight * weight * samples))),
    };
  };
  const ends = records.map((_, run) => stretches.reduce((end, s) => (s.run === run ? s.from + s.told.length : end), 0));
  return { residuals, nuisances, ends, leftOver };
}

/**
 * What a recorded run tells about a machine: total inertia, friction and load torque, and the electrical values as far as the record shows
 * them. The model is driven along the reported frequency and its values are moved until current, bus, torque and process fit (output-error
 * method: Ljung, *System Identification*, ch. 7), by Levenberg–Marquardt, with the usual tolerances as prior. The spread comes from the
 * Jacobian at the end.
 */
export function learnFromRecord(estimate: MachineSpec, full: DriveRecord, o: LearnOptions): LearnResult {
  return learnFromRecords(estimate, [full], o);
}

/** As {@link learnFromRecord}, from several runs of one machine together: one set of values has to fit them all. */
export function learnFromRecords(estimate: MachineSpec, all: readonly DriveRecord[], o: LearnOptions): LearnResult {
  const records = all.map((full) => usable(full, estimate.drive.startMode === StartMode.catchSpinning));
  for (const record of records) {
    const sentence = refuse(estimate, record) ?? otherWay(estimate, record, o.readOutLag);
    if (sentence) return { ok: false, sentence };
  }
  const names = learnableOf(estimate, records);
  const compared = compare(estimate, records, o, names);
  const { residuals } = compared;
  const p = fitted(residuals, beginnings(names, compared.nuisances));
  if (!p)
    return { ok: false, sentence: 'The recording and the model do not come together. Check the plate and what is driven, then record another run.' };
  const spread = spreadOf(residuals, p, compared.ends);
  const { left, wider } = compared.leftOver(residuals(p));
  const disbelieved = disbelieve(names, p, left, estimate.drive.motorCurrent);
  if (disbelieved) return { ok: false, sentence: disbelieved };
  const learned = learnedFrom(estimate, names, p);
  names.forEach((name, i) => (present(learned[name]).spread = Math.min(usualSpread[name], nth(spread, i) * wider)));
  const { inertia } = learned;
  const measured = names.filter((name) => learned[name] && isMeasured(name, learned[name]));
  if (!inertia || measured.length === 0)
    return { ok: false, sentence: 'This run tells too little of the machine. Run up and down on the ramp, then learn from that.' };
  return {
    ok: true,
    learned,
    inertia: {
      measured: isMeasured('inertia', inertia),
      value: totalInertia(applyLearned(estimate, learned)),
      spread: estimate.inertia * inertia.times * inertia.spread,
    },
    left,
  };
}

/** How far taps or dampers may be shut: a log, from where the fit begins too, since what it is downhill to from open taps is another pump. */
const shutTaps = -0.75;

/** Where a fit begins: at the estimate, or with its taps shut. */
function beginnings(names: readonly Learnable[], nuisances: number): number[][] {
  const estimate = new Array<number>(names.length + nuisances).fill(0);
  const demand = names.indexOf('processDemand');
  return demand < 0 ? [estimate] : [estimate, estimate.with(demand, shutTaps)];
}
