import { bookById, DriveSettings, factoryValues } from '@yare/books';
import {
  estimateMachine,
  holdingFrequency,
  random,
  startsAllowed,
  stampedPower,
  type MachineSpec,
  type PumpLoad,
  type Random,
  type SettingRole,
} from '@yare/core';
import { demandAt, drawnShown, mostPerHour, shutOffShown, sleepDay, type DayPlan, type DrawShown, type ShutPoint } from '@yare/core/days';
import { proposePid, stepTest, type LoopRecord } from '@yare/core/loop';
import { demoMachine, type DemoMachine } from '@yare/demo-plant';
import { truthOf, type Truth } from '../../src/plant/truth';
import { scan, TrueDay } from './trueDay';

/** What one way of foretelling says of a day, or what truly came. */
export interface DaySeen {
  starts: number;
  perHour: number;
  /** Pa */
  lowest: number;
}

/** One pump's day: what came, what was foretold with the process fitted, and from the plate alone. */
export interface JudgedDay {
  seed: number;
  /** most starts an hour its motor stands */
  allowed: number;
  truth: DaySeen;
  fitted: DaySeen;
  plate: DaySeen;
  /** the step test gave the elasticity */
  wasFitted: boolean;
}

const range = 1e6;
const between = (r: Random, low: number, high: number): number => low + (high - low) * r.uniform();
const logBetween = (r: Random, low: number, high: number): number => Math.exp(between(r, Math.log(low), Math.log(high)));

/** A pressure pump of its own on the motor of the demo pump. */
function drawMachine(r: Random): DemoMachine {
  const demo = demoMachine('P-11');
  const head = between(r, 34, 60);
  const efficiency = between(r, 60, 74);
  const flow = (3600 * between(r, 0.7, 0.92) * 7500 * (efficiency / 100)) / (998 * 9.81 * head);
  return {
    ...demo,
    driven: {
      kind: 'pump',
      flow,
      head,
      efficiency,
      staticHead: between(r, 0, 8),
      setPressure: null,
      inertia: 0.035,
      sump: null,
      sensor: demo.driven.kind === 'pump' ? demo.driven.sensor : null,
    },
  };
}

/** m³/s over the day in quarter hours: a leak at night, shifts by day, and now and then somebody who washes. */
function drawDemand(r: Random, rated: number): number[] {
  const leak = r.uniform() < 0.25 ? 0 : logBetween(r, 0.001, 0.04);
  const [from, to] = [between(r, 4, 8), between(r, 15, 22)];
  const busy = between(r, 0.1, 0.75);
  const quiet = between(r, 0, 0.3) * busy;
  return Array.from({ length: 96 }, (_, i) => {
    const hour = i / 4;
    const by = hour < from || hour > to ? leak : r.uniform() < 0.6 ? busy * between(r, 0.7, 1.2) : leak + quiet;
    return Math.min(0.9, by) * rated;
  });
}

interface Drawn {
  settings: DriveSettings;
  spec: MachineSpec;
  truth: Truth;
  /** Pa */
  set: number;
  demand: number[];
  compliance: number;
  /** share of rated flow below which it is to sleep */
  sleepsBelow: number;
}

function draw(seed: number, n: number): Drawn {
  const r = random(seed * 104729 + n * 7919);
  const demo = drawMachine(r);
  const book = bookById(demo.bookId);
  const bare = new DriveSettings(book, demo.size, { ...factoryValues(book, demo.size, 50), ...demo.asFound, '3a': 5, '3b': 5 }, 50);
  const estimate = estimateMachine(demo.plate, demo.driven, bare.parameters(), bare.hardware(), demo.supply);
  if (!estimate.ok || estimate.spec.load.kind !== 'pump') throw new Error('the pump of a day has to be one');
  const pump = estimate.spec.load;
  const most = (pump.shutOffHead - pump.staticHead) * 998.2 * 9.80665;
  const set = Math.round(between(r, 0.45, 0.66) * Math.min(most, 0.9 * range) * 1e-3) * 1e3;
  const boosts = r.uniform() < 0.35;
  const roles: Array<[SettingRole, number]> = [
    ['setpoint', set / range],
    ['sleepDelay', logBetween(r, 15, 90)],
    ['wakeFall', between(r, 0.01, 0.08)],
    ['wakeDelay', between(r, 1, 4)],
    ['sleepBoost', boosts ? between(r, 0.02, 0.05) : 0],
    ['leastRun', r.uniform() < 0.2 ? 60 : 0],
    ['liveZeroLoss', 0],
  ];
  const values = { ...bare.values, ...Object.fromEntries(roles.flatMap(([role, x]) => bare.change(role, x).map((c) => [c.code, c.value]))) };
  const settings = bare.with(values);
  const truth = truthOf(demo, settings, seed * 1000 + n, 1);
  const compliance = logBetween(r, 6e-8, 2.5e-6);
  if (truth.spec.load.kind === 'pump') truth.spec.load.compliance = compliance;
  return {
    settings,
    spec: { ...estimate.spec, drive: settings.parameters() },
    truth,
    set,
    demand: drawDemand(r, pump.bestFlow),
    compliance,
    sleepsBelow: between(r, 0.03, 0.3),
  };
}

/** s of a step test, and of it before the step. */
const stepRun = { lasts: 350, before: 60 };

/** A run in hand with a step up, as a link shows it, taps half open. Hz as given where the loop would keep the set point. */
function recordStep(d: Drawn, day: TrueDay, at: number): LoopRecord {
  const out = { time: [] as number[], output: [] as number[], feedback: [] as number[] };
  const r = random(17);
  let next = 0;
  const top = d.spec.drive.maximumFrequency;
  for (let i = 0; i < stepRun.lasts / scan; i++) {
    const t = i * scan - stepRun.before;
    day.step(t < 0 ? at : Math.min(top, at + 3));
    if (t < -20 || t < next - 20) continue;
    out.time.push(t + 20);
    out.output.push((100 * Math.round(day.m.ramp * 10)) / 10 / top);
    out.feedback.push(Math.round(day.feedback * 10) / 10);
    next = t + 20 + 0.1 + 0.03 * r.uniform();
  }
  return out;
}

const ofDay = (wakes: readonly number[], lowest: number): DaySeen => ({ starts: wakes.length, perHour: mostPerHour(wakes), lowest });

/** Seconds at each speed against the shut valve, and how far apart the speeds lie, Hz. */
const shutRun = { lasts: 20, apart: 1.5, speeds: 5 };

/** What is read off over some seconds: Hz and Pa. @param given Hz, or null for the loop's */
function meanOf(day: TrueDay, given: number | null, seconds = 5): { frequency: number; pressure: number } {
  let [f, p] = [0, 0];
  const n = seconds / scan;
  for (let i = 0; i < n; i++) {
    day.step(given);
    f += day.m.ramp / n;
    p += ((day.feedback / 100) * range) / n;
  }
  return { frequency: f, pressure: p };
}

/** s the small draw is held, and watched. */
const smallDraw = { settles: 90, held: 30 };
/** Share of the set point by which the fall is watched, and s at most. */
const watched = { share: 0.08, most: 300 };

/** One tap open that draws a known amount: the frequency that holds it, then the fall with the pump at rest. */
function withDraw(d: Drawn, settings: DriveSettings, pump: PumpLoad, seed: number): DrawShown {
  const day = new TrueDay(d.truth, settings, settings.controls(), range, seed, d.set);
  const flow = d.sleepsBelow * pump.bestFlow;
  day.draw(flow, d.set);
  for (let t = 0; t < smallDraw.settles; t += scan) day.step();
  const held = meanOf(day, null, smallDraw.held);
  for (let t = 0; t < 12; t += scan) day.step(0);
  // from where it stands once the wheel is at rest, down by some percent
  const from = meanOf(day, 0, 0.5);
  let t = 0;
  while ((day.feedback / 100) * range > from.pressure - watched.share * d.set && t < watched.most) {
    day.step(0);
    t += scan;
  }
  const to = meanOf(day, 0, 0.5);
  // a draw goes with the root of the pressure: what flowed meanwhile was a little less
  const meanwhile = Math.sqrt((from.pressure + to.pressure) / 2 / d.set);
  return { flow, ...held, falls: (from.pressure - to.pressure) / (t + 0.5) / meanwhile };
}

/** The pump against its shut valve at some speeds, up to a little over the set point. */
function againstShut(d: Drawn, settings: DriveSettings, pump: PumpLoad, seed: number): ShutPoint[] {
  const day = new TrueDay(d.truth, settings, settings.controls(), range, seed, 0.3 * d.set);
  day.draw(0, d.set);
  const last = Math.min(d.spec.drive.maximumFrequency, holdingFrequency(d.spec, pump, 1.05 * d.set));
  return Array.from({ length: shutRun.speeds }, (_, i) => {
    const frequency = Math.round(10 * (last - shutRun.apart * (shutRun.speeds - 1 - i))) / 10;
    for (let t = 0; t < shutRun.lasts; t += scan) day.step(frequency);
    return { frequency, pressure: meanOf(day, frequency).pressure };
  });
}

/** A setting of a drive changed by its role. */
const changed = (settings: DriveSettings, chosen: ReadonlyArray<readonly [SettingRole, number]>): DriveSettings =>
  settings.with({
    ...settings.values,
    ...Object.fromEntries(chosen.flatMap(([role, x]) => settings.change(role, x)).map((c) => [c.code, c.value])),
  });

/** Step test and controller; what was set before where the test says nothing. */
function tuned(d: Drawn, settings: DriveSettings, pump: PumpLoad, seed: number): DriveSettings {
  const day = new TrueDay(d.truth, settings, settings.controls(), range, seed, d.set);
  day.draw(0.5 * pump.bestFlow, d.set);
  for (let i = 0; i < 120 / scan; i++) day.step();
  const top = d.spec.drive.maximumFrequency;
  const test = stepTest(recordStep(d, day, Math.min(Math.round(day.m.ramp * 10) / 10, top - 3.2)));
  if (!test.ok) return settings;
  const perHertz = d.spec.circuit.ratedSpeed / d.spec.circuit.ratedFrequency;
  // with nothing drawn the pressure goes as steeply as the pump's own head does: so much steeper than at the step
  const own = (998.2 * 9.80665 * 2 * pump.shutOffHead * day.m.ramp * perHertz ** 2) / pump.ratedSpeed ** 2;
  const steeper = (own * top) / (100 * range * 0.01) / test.likely.gain;
  const { proposals, recommended } = proposePid(test.likely, {
    plausible: test.best.plausible,
    grain: Math.max(test.step, 2 * test.noise),
    gains: [Math.min(6, Math.max(1, steeper))],
  });
  const gains = proposals.find((p) => p.rule === recommended)?.gains;
  return gains ? changed(settings, [['proportionalGain', gains.gain] as const, ['integralTime', gains.integralTime] as const]) : settings;
}

/** The tests in their order, as somebody would set it up: controller, shut valve, a draw it may sleep through. Nothing shown where a test says nothing. */
function setUp(d: Drawn, seed: number): { settings: DriveSettings; shown: NonNullable<DayPlan['shown']> } {
  const pump = d.spec.load;
  if (pump.kind !== 'pump') throw new Error('the pump of a day has to be one');
  const awake = tuned(d, changed(d.settings, [['sleepFrequency', 0]]), pump, seed);
  const shutOffHead = shutOffShown(d.spec, pump, againstShut(d, awake, pump, seed), d.set);
  const shut = shutOffHead === null ? {} : { shutOffHead };
  const draw = withDraw(d, awake, pump, seed);
  const shown = { ...shut, ...drawnShown(d.spec, { ...pump, ...shut }, draw) };
  return { settings: changed(awake, [['sleepFrequency', draw.frequency]]), shown };
}

/** What truly comes: the whole day at the bench's own laws. */
function truly(d: Drawn, settings: DriveSettings, seed: number): DaySeen {
  const day = new TrueDay(d.truth, settings, settings.controls(), range, seed, d.set);
  const wakes: number[] = [];
  let lowest = Infinity;
  const perSecond = 1 / scan;
  for (let i = 0; i < 86400 / scan; i++) {
    if (i % perSecond === 0) day.draw(demandAt(d.demand, i * scan), d.set);
    const before = day.controls.process.sleep.wakes;
    day.step();
    const hour = (i * scan) / 3600;
    if (day.controls.process.sleep.wakes > before) wakes.push(hour);
    if (hour > 0.1) lowest = Math.min(lowest, day.m.loadState.pressure);
  }
  return ofDay(wakes, lowest);
}

/** One seeded pump: tested and tuned, its day foretold, and then lived through. */
export function judgeDay(seed: number, n: number): JudgedDay {
  const d = draw(seed, n);
  const { settings, shown } = setUp(d, seed + n);
  const plan: DayPlan = { sensor: { measures: 'pressure', low: 0, high: range }, process: settings.controls().process, demand: d.demand };
  const foretold = (p: DayPlan): DaySeen => {
    const day = sleepDay(d.spec, p);
    return ofDay(day.wakes, day.lowest);
  };
  return {
    seed: n,
    allowed: startsAllowed(stampedPower(demoMachine('P-11').plate)),
    truth: truly(d, settings, seed + n),
    fitted: foretold({ ...plan, shown }),
    plate: foretold(plan),
    wasFitted: shown.compliance !== undefined && shown.shutOffHead !== undefined,
  };
}
