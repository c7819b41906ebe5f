import { replay } from '../src/learn/replay';
import { present } from '../src/present';
import { learnFromRecord, learnFromRecords } from '../src/learn/learn';
import {
  applyLearned,
  isMeasured,
  createMachine,
  random,
  soundConditions,
  usualSpread,
  ratedTorque,
  stepMachine,
  tellsLittle,
  toldSpread,
  ControlWord,
  type Conditions,
  type Learnable,
  type Learned,
  type DriveRecord,
  type LearnOptions,
  type MachineSpec,
} from '../src';
import { machine } from './specs';

const options: LearnOptions = { ratedPower: 7500, ratedSpeed: 2925, readOutLag: 0.05, currentStep: 0.1, voltageStep: 1, processRange: 1e6 };

/** What a drive of this machine would report of a run up to a frequency and down again: every 50 ms, rounded, smoothed, with noise. */
function record(spec: MachineSpec, hertz = 45, seed = 1, conditions: Partial<Conditions> = {}): DriveRecord {
  const r = random(seed);
  const m = createMachine(spec, { ...soundConditions(), ...conditions });
  const out = {
    time: [] as number[],
    frequency: [] as number[],
    current: [] as number[],
    busVoltage: [] as number[],
    torque: [] as number[],
    process: [] as number[],
  };
  const rated = ratedTorque(7500, 2925);
  let current = 0;
  let torque = 0;
  const { accelerationTime, decelerationTime } = spec.drive;
  const up = 1 + accelerationTime + 4;
  const end = up + decelerationTime + 2;
  for (let i = 0; m.time < end; i++) {
    const word =
      m.time < 0.5 ? ControlWord.shutdown : m.time < 1 ? ControlWord.switchOn : m.time < up ? ControlWord.enableOperation : ControlWord.switchOn;
    stepMachine(m, word, hertz, 0.001);
    current += (m.motor.current - current) * (0.001 / 0.05);
    torque += (m.motor.torque - torque) * (0.001 / 0.05);
    if (i % 50 !== 0) continue;
    out.time.push(m.time);
    out.frequency.push(Math.round(m.frequency * 100) / 100);
    out.current.push(Math.round(current * 10) / 10);
    out.busVoltage.push(Math.round(m.bus.voltage));
    out.torque.push(Math.round((1000 * torque) / rated) / 10);
    out.process.push(m.loadState.pressure + 1500 * r.normal());
  }
  return out;
}

const estimate = machine({ accelerationTime: 3, decelerationTime: 6 });
const truth = applyLearned(estimate, {
  inertia: { times: 1.6, spread: 0 },
  loadTorque: { times: 1.12, spread: 0 },
  magnetising: { times: 0.93, spread: 0 },
  supply: { times: 1.012, spread: 0 },
  processHead: { times: 0.96, spread: 0 },
  processDemand: { times: 1.1, spread: 0 },
});

test('a replay along the reported frequency gives back what was reported', () => {
  const r = record(truth);
  const seen = replay(truth, r, 0.05);
  // where the output comes and goes a sample may fall on either side of it
  for (let i = 0; i < r.time.length; i++) {
    if (present(r.frequency[i]) < 5) continue;
    expect(Math.abs(present(seen.current[i]) - present(r.current[i]))).toBeLessThan(0.8);
    expect(Math.abs(present(seen.busVoltage[i]) - present(r.busVoltage[i]))).toBeLessThan(12);
  }
});

// one learning takes a second or two: what several tests look at is learned once
const first = learnFromRecord(estimate, record(truth, 45, 1), options);

test('a recorded run-up and run-down tell inertia, load and what else they can, within the spread they claim', () => {
  const result = first;
  if (!result.ok) throw new Error(result.sentence);
  const l = result.learned;
  const near = (name: keyof typeof l, times: number) => {
    const { times: got, spread } = present(l[name]);
    expect([name, Math.abs(got / times - 1) < Math.max(0.02, 3 * spread)]).toEqual([name, true]);
  };
  near('inertia', 1.6);
  near('loadTorque', 1.12);
  near('magnetising', 0.93);
  near('supply', 1.012);
  near('processHead', 0.96);
  near('processDemand', 1.1);
  expect(Math.abs(present(l.inertia).times / 1.6 - 1)).toBeLessThan(0.05);
  expect(present(l.supply).spread).toBeLessThan(0.005);
  expect(present(l.leakage).spread).toBeGreaterThan(0.05);
  expect(result.inertia.value).toBeCloseTo(estimate.inertia * present(l.inertia).times, 9);
  expect(result.left.busVoltage).toBeLessThan(3);
});

test('two runs together tell the inertia more surely than either alone, and each of them has to fit', () => {
  // on another day, with mains of its own and more taps open
  const day = applyLearned(truth, { supply: { times: 0.975, spread: 0 }, processDemand: { times: 1.3, spread: 0 } });
  const quicker = record({ ...day, drive: { ...truth.drive, decelerationTime: 2.5 } }, 45, 2);
  const alone = learnFromRecord(estimate, quicker, options);
  const both = learnFromRecords(estimate, [record(truth, 45, 1), quicker], options);
  if (!first.ok || !alone.ok || !both.ok) throw new Error('refused');
  expect(both.inertia.spread).toBeLessThan(0.95 * Math.min(first.inertia.spread, alone.inertia.spread));
  expect(Math.abs(both.inertia.value / (1.6 * estimate.inertia) - 1)).toBeLessThan(0.04);
  expect(both.left.torque).toBeLessThan(1.2 * Math.max(first.left.torque, alone.left.torque));
  // half the inertia in the other run: no one value fits both, and what is left over says so
  const lighter = applyLearned(truth, { inertia: { times: 0.5, spread: 0 } });
  const apart = learnFromRecords(estimate, [record(truth, 45, 1), record(lighter, 45, 2)], options);
  if (!apart.ok) throw new Error(apart.sentence);
  expect(apart.left.torque).toBeGreaterThan(2 * both.left.torque);
  expect(apart.inertia.spread).toBeGreaterThan(2 * both.inertia.spread);
  const [turned] = [record(truth, 45, 1)].map((r) => ({ ...r, torque: Array.from(r.torque, (x) => -x) }));
  expect(learnFromRecords(estimate, [quicker, present(turned)], options)).toMatchObject({ ok: false });
});

test('neither a filter of the drive on its feedback nor a transmitter that tells late spoils what is learned of the process', () => {
  const r = record(truth, 45, 3);
  const lagged = (lag: number) => {
    let told = present(present(r.process)[0]);
    const passed = (i: number) => (i > 0 ? present(r.time[i]) - present(r.time[i - 1]) : 0);
    return Array.from(present(r.process), (p, i) => (told += (p - told) * (1 - Math.exp(-passed(i) / lag))));
  };
  const learnedOf = (lag: number, o: LearnOptions): Learned => {
    const result = learnFromRecord(estimate, { ...r, process: lagged(lag) }, o);
    if (!result.ok) throw new Error(result.sentence);
    return result.learned;
  };
  for (const l of [learnedOf(1, { ...options, processLag: 1 }), learnedOf(0.3, options)]) {
    expect(Math.abs(present(l.processHead).times / 0.96 - 1)).toBeLessThan(0.02);
    expect(Math.abs(present(l.processDemand).times / 1.1 - 1)).toBeLessThan(0.08);
    expect(Math.abs(present(l.processCompliance).times - 1)).toBeLessThan(0.12);
    expect(Math.abs(present(l.inertia).times / 1.6 - 1)).toBeLessThan(0.05);
  }
});

// T = J·dω/dt of a rigid body: what a ramp takes beyond the same speed held, whatever the load
test('on a ramp the replay asks for the inertia’s own torque beyond what the speed takes, in short steps and in long ones', () => {
  const spec = machine({ slipCompensation: 0 }, { kind: 'torque', constant: 4, viscous: 0, quadratic: 0 }, 0.08);
  const ramp = 7;
  const beyond = (longest: number) => {
    const time = Array.from({ length: 20 * longest }, (_, i) => i / 20);
    const frequency = time.map((t) => (t < 1 ? 0 : Math.min(40, 1 + ramp * (t - 1))));
    const rest = { current: time.map(() => 0), busVoltage: time.map(() => 0), torque: time.map(() => 0) };
    const { torque } = replay(spec, { time, frequency, ...rest }, 0.05);
    const at = (t: number) => present(torque[Math.round(20 * t)]);
    // at 36 Hz on the way up, and at the end; friction and windage of the motor differ by little
    return at(6) - at(longest - 1);
  };
  const inertia = 0.08 * 2 * Math.PI * ramp;
  for (const longest of [20, 70, 130]) expect(Math.abs(beyond(longest) / inertia - 1)).toBeLessThan(0.04);
});

test('another run of the same machine teaches the same', () => {
  const one = first;
  const two = learnFromRecord(estimate, record(truth, 38, 2), options);
  if (!one.ok || !two.ok) throw new Error('refused');
  expect(Math.abs(present(one.learned.inertia).times / present(two.learned.inertia).times - 1)).toBeLessThan(0.06);
});

test('a run that ends in a trip is used up to it', () => {
  const r = record(truth);
  const cut = r.time.length - 120;
  const tripped: DriveRecord = {
    ...r,
    frequency: Array.from(r.frequency, (f, i) => (i > cut ? 0 : f)),
    current: Array.from(r.current, (c, i) => (i > cut ? 0 : c)),
  };
  const result = learnFromRecord(estimate, tripped, options);
  if (!result.ok) throw new Error(result.sentence);
  expect(Math.abs(present(result.learned.inertia).times / 1.6 - 1)).toBeLessThan(0.1);
});

test('a recording that cannot teach is refused with its reason', () => {
  const slow = learnFromRecord(estimate, record(truth, 8), options);
  expect(slow).toEqual({ ok: false, sentence: 'The run went to 8.0 Hz only. Learning needs a run up to at least 20 Hz.' });
  const nothing = learnFromRecord(estimate, { time: [0, 1], frequency: [0, 0], current: [0, 0], busVoltage: [566, 566], torque: [0, 0] }, options);
  expect(nothing).toMatchObject({ ok: false, sentence: expect.stringContaining('too short') });
});

test('a run with the shaft turning the other way teaches nothing', () => {
  const wrong = learnFromRecord(estimate, record(truth, 45, 1, { phasesSwapped: 1 }), options);
  expect(wrong).toMatchObject({ ok: false, sentence: expect.stringContaining('the shaft turned the other way') });
});

test('a recording of another machine is not bent to fit: refused by what is left over or by values no machine has', () => {
  const ten = { magnetising: { times: 0.25, spread: 0 }, leakage: { times: 5, spread: 0 }, loadTorque: { times: 3, spread: 0 } };
  const other = learnFromRecord(estimate, record(applyLearned(estimate, ten), 30), options);
  expect(other).toMatchObject({ ok: false, sentence: expect.stringMatching(/no machine has|nothing is learned|too little/) });
});

test('only what the run has narrowed is called measured', () => {
  const result = first;
  if (!result.ok) throw new Error(result.sentence);
  const measured = (l: Learned) => (Object.keys(l) as Learnable[]).filter((name) => isMeasured(name, present(l[name])));
  expect(measured(result.learned)).toEqual(expect.arrayContaining(['inertia', 'supply', 'magnetising']));
  // what is carried over without having been narrowed is as unsure as it was before, never less
  for (const [name, value] of Object.entries(result.learned)) expect(value.spread).toBeLessThanOrEqual(usualSpread[name as Learnable]);
  const coarse = learnFromRecord(estimate, record(truth), { ...options, currentStep: 40, voltageStep: 400 });
  const names = coarse.ok ? measured(coarse.learned) : [];
  expect(names).not.toContain('leakage');
  expect(names).not.toContain('statorResistance');
});

test('what was learned changes only what it names', () => {
  const same = applyLearned(estimate, {});
  expect(same).toEqual(estimate);
  const heavier = applyLearned(estimate, { inertia: { times: 2, spread: 0.1 } });
  expect(heavier.inertia).toBe(2 * estimate.inertia);
  expect({ ...heavier, inertia: estimate.inertia }).toEqual(estimate);
});

// a learned 1.2 times R1, and then a tune that measures that R1: before, the look-ahead counted both
test('what was learned is a figure: a later tune or survey that changes the estimate is not corrected by it again', () => {
  const l: Learned = {
    statorResistance: { times: 1.2, spread: 0.02, of: estimate.circuit.r1 },
    inertia: { times: 2, spread: 0.1, of: estimate.inertia },
  };
  const later = { ...estimate, inertia: 1.9 * estimate.inertia, circuit: { ...estimate.circuit, r1: 1.2 * estimate.circuit.r1 } };
  const applied = applyLearned(later, l);
  expect(applied.circuit.r1).toBeCloseTo(1.2 * estimate.circuit.r1, 9);
  expect(applied.inertia).toBeCloseTo(2 * estimate.inertia, 9);
  // what was kept before figures were noted multiplies, as it always did
  expect(applyLearned(later, { inertia: { times: 2, spread: 0.1 } }).inertia).toBeCloseTo(2 * later.inertia, 9);
  if (!first.ok) throw new Error(first.sentence);
  expect(first.learned.inertia?.of).toBe(estimate.inertia);
});

test('a second start in one recording draws what the first drew: its flux is gone again', () => {
  const spec = machine({ slipCompensation: 0 }, { kind: 'torque', constant: 4, viscous: 0, quadratic: 0 }, 0.08);
  const time = Array.from({ length: 400 }, (_, i) => i / 20);
  const start = (t: number) => (t < 1 || t > 6 ? 0 : Math.min(40, 30 * (t - 1)));
  const frequency = time.map((t) => start(t % 10));
  const rest = { current: time.map(() => 0), busVoltage: time.map(() => 0), torque: time.map(() => 0) };
  const { current } = replay(spec, { time, frequency, ...rest }, 0.05);
  const peak = (from: number) => Math.max(...current.subarray(20 * from, 20 * from + 60));
  const settled = present(current[100]);
  expect(peak(0)).toBeGreaterThan(1.3 * settled);
  expect(Math.abs(peak(10) / peak(0) - 1)).toBeLessThan(0.01);
});

test('the ± that is told holds nineteen of twenty, and one beyond 8 % of the inertia asks for another run', () => {
  // two-sided 95 % point of the normal distribution
  expect(toldSpread(1)).toBeCloseTo(1.96, 2);
  expect(tellsLittle({ value: 0.2, spread: 0.2 * 0.045 })).toBe(true);
  expect(tellsLittle({ value: 0.2, spread: 0.2 * 0.04 })).toBe(false);
});
