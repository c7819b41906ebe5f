import { operate } from '../motor';
import { present } from '../present';
import { pumpPower, restingLoad, stepPump, type PumpLoad } from '../load';
import type { MachineSpec } from '../machine';
import {
  quietSetpoint,
  rawOf,
  restingProcess,
  setpointOf,
  slipPerTorque,
  smoothed,
  startsAllowed,
  stepProcess,
  withinLimits,
  type ProcessSettings,
  type SleepSettings,
} from '../controls';

/** A pump's loop with sleep, and the day it has to live through. */
export interface DayPlan {
  /** what the sensor sees in SI at 0 and at 100 %: Pa behind the pump, or m of water it draws from */
  sensor: { measures: 'pressure' | 'level'; low: number; high: number };
  /** loop and sleep as the drive has them */
  process: ProcessSettings;
  /** m³/s at even times of the day from midnight on, straight from one to the next: what is drawn at the set point, or what flows into the sump */
  demand: readonly number[];
  /** the pump as a step test has shown it; as estimated when absent */
  shown?: Partial<Pick<PumpLoad, 'compliance' | 'shutOffHead' | 'valveFall'>>;
  /** s; 0.2 unless a test asks otherwise */
  dt?: number;
}

export interface Day {
  /** one sample a minute: h, Hz, SI of the sensor, m³/s, 1 asleep */
  hour: Float64Array;
  frequency: Float64Array;
  feedback: Float64Array;
  demand: Float64Array;
  asleep: Float64Array;
  /** h of each waking */
  wakes: number[];
  /** most wakes within any one hour */
  wakesPerHour: number;
  asleepHours: number;
  /** kWh at the motor's terminals: shaft work over the efficiency the circuit gives at rated frequency and that load */
  energy: number;
  /** SI of the sensor, after the first minutes */
  lowest: number;
  highest: number;
}

/** Motor efficiency at a share of rated torque, from its circuit at rated volts: a straight line is read off for speed. */
export function efficiencyLine(spec: Pick<MachineSpec, 'circuit' | 'drive'>): (power: number) => number {
  const c = spec.circuit;
  const ns = (4 * Math.PI * c.ratedFrequency) / c.poles;
  const rated = 1 - c.ratedSpeed / ns;
  const points = [0.1, 0.25, 0.5, 0.75, 1].map((x) => {
    const o = operate(c, spec.drive.motorVoltage / Math.sqrt(3), c.ratedFrequency, rated * x);
    return { power: o.output, efficiency: o.efficiency };
  });
  return (power) => {
    let i = 1;
    while (i < points.length - 1 && present(points[i]).power < power) i++;
    const a = present(points[i - 1]);
    const b = present(points[i]);
    const x = (power - a.power) / (b.power - a.power);
    return Math.min(0.97, Math.max(0.15, a.efficiency + x * (b.efficiency - a.efficiency)));
  };
}

const minutes = 24 * 60;
const blankDay = (): Day => ({
  hour: new Float64Array(minutes),
  frequency: new Float64Array(minutes),
  feedback: new Float64Array(minutes),
  demand: new Float64Array(minutes),
  asleep: new Float64Array(minutes),
  wakes: [],
  wakesPerHour: 0,
  asleepHours: 0,
  energy: 0,
  lowest: Infinity,
  highest: -Infinity,
});

/** Share of maximum frequency the day begins at, and h until what is seen counts. */
const beginsAt = 0.7;
const settledAfter = 0.1;

/** Most wakes within any one hour. @param wakes h, in order */
export function mostPerHour(wakes: readonly number[]): number {
  let most = 0;
  for (let i = 0, first = 0; i < wakes.length; i++) {
    while ((wakes[i] ?? NaN) - (wakes[first] ?? NaN) >= 1) first++;
    most = Math.max(most, i - first + 1);
  }
  return most;
}

/** m³/s of a day's demand at a second of it: straight from one of its even times to the next, the last to the first. */
export function demandAt(demand: readonly number[], second: number): number {
  const x = ((second % 86400) / 86400) * demand.length;
  const i = Math.floor(x);
  const from = demand[i] ?? 0;
  return from + (x - i) * ((demand[(i + 1) % demand.length] ?? from) - from);
}

/** The pump of a plan as it stands in it. @throws RangeError for what is no pump, and a level without a sump */
function pumpOf(spec: MachineSpec, plan: DayPlan): PumpLoad {
  if (spec.load.kind !== 'pump') throw new RangeError('A day of sleep and wake is worked out for pumps.');
  if (plan.sensor.measures === 'level' && spec.load.sumpArea <= 0) throw new RangeError('No sump is described that the pump could empty.');
  // its water is at once where it goes: a day is stepped through in more time than that takes
  return { ...spec.load, waterLag: 0, dischargeOpening: 1, ...plan.shown };
}

/**
 * A day of a pump that keeps a pressure or a level: pump, pipe, loop, ramps and sleep; the motor is taken to follow its frequency less rated slip, which
 * over a day is as good as its own dynamics and far quicker.
 */
export function sleepDay(spec: MachineSpec, plan: DayPlan): Day {
  const pump = pumpOf(spec, plan);
  const dt = plan.dt ?? 0.2;
  const { drive } = spec;
  const { sensor } = plan;
  const level = sensor.measures === 'level';
  const span = sensor.high - sensor.low;
  const load = restingLoad();
  const settings = withinLimits(plan.process, drive);
  const wanted = setpointOf(settings.setpoint, quietSetpoint);
  const held = sensor.low + ((settings.straight ? rawOf(settings.straight, wanted) : wanted) / 100) * span;
  if (level) {
    load.level = held;
    pump.demandOpening = 1;
  } else load.pressure = held;
  const perOpening = pump.demand * Math.sqrt(Math.max(1, held));
  const process = restingProcess();
  const efficiency = efficiencyLine(spec);
  const { circuit } = spec;
  const perHertz = (4 * Math.PI) / circuit.poles;
  const slip = slipPerTorque(spec);
  const day = blankDay();
  let f = beginsAt * drive.maximumFrequency;
  let seen = (100 * (held - sensor.low)) / span;
  const steps = Math.round(86400 / dt);
  const perMinute = Math.round(60 / dt);
  const perSecond = Math.max(1, Math.round(1 / dt));
  for (let i = 0; i < steps; i++) {
    const hour = (i * dt) / 3600;
    const flow = i % perSecond === 0 ? demandAt(plan.demand, hour * 3600) : -1;
    if (flow >= 0) {
      if (level) pump.inflow = flow;
      else pump.demandOpening = flow / perOpening;
    }
    const before = process.sleep.wakes;
    const now = level ? load.level : load.pressure;
    seen = smoothed(seen, (100 * (now - sensor.low)) / span, settings.filter, dt);
    const goal = stepProcess(process, settings, quietSetpoint, seen, f, drive.maximumFrequency, dt);
    const stands = process.sleep.asleep;
    if (process.sleep.wakes > before) day.wakes.push(hour);
    const rate = drive.motorFrequency / (goal > f ? drive.accelerationTime : drive.decelerationTime);
    f = goal > f ? Math.min(goal, f + rate * dt) : Math.max(goal, f - rate * dt);
    const speed = Math.max(0, f - slip * load.torque) * perHertz;
    stepPump(load, pump, speed, dt);
    if (i % perSecond === 0 && f > 0.5) {
      const power = pumpPower(pump, speed, load.flow);
      day.energy += ((power / efficiency(power)) * perSecond * dt) / 3.6e6;
    }
    if (stands) day.asleepHours += dt / 3600;
    if (hour > settledAfter) {
      if (now < day.lowest) day.lowest = now;
      if (now > day.highest) day.highest = now;
    }
    if (i % perMinute === 0) {
      const k = i / perMinute;
      day.hour[k] = hour;
      day.frequency[k] = f;
      day.feedback[k] = now;
      day.demand[k] = level ? pump.inflow : pump.demandOpening * perOpening;
      day.asleep[k] = stands ? 1 : 0;
    }
  }
  day.wakesPerHour = mostPerHour(day.wakes);
  return day;
}

/** What may be changed against hunting, in the order in which it is tried. */
export const sleepCures = ['boost', 'delay', 'wake fall', 'boost and wake fall', 'least rest'] as const;
export type SleepCure = (typeof sleepCures)[number];

/** Share of the starts that are allowed which a cure may come to: what is foretold may be off by some. */
const cureRoom = 0.8;

/** Sleep settings with a cure taken, small steps first. */
function cured(s: SleepSettings, cure: SleepCure): SleepSettings {
  const boost = { boost: Math.max(s.boost, s.wakeFall, 3), boostTime: Math.max(30, s.boostTime) };
  const fall = { wakeFall: Math.min(20, 2 * s.wakeFall) };
  switch (cure) {
    case 'boost':
      return { ...s, ...boost };
    case 'delay':
      return { ...s, delay: Math.max(60, 3 * s.delay) };
    case 'wake fall':
      return { ...s, ...fall };
    case 'boost and wake fall':
      return { ...s, ...boost, ...fall };
    case 'least rest':
      return { ...s, ...boost, ...fall, delay: Math.max(60, 3 * s.delay), leastRun: 300 };
  }
}

/** A day as it is set, the same without sleep, and what ends its hunting. */
export interface SleepAhead {
  day: Day;
  /** kWh of the same day without sleep */
  awake: number;
  /** it wakes oftener within an hour than motor and pump stand */
  hunts: boolean;
  allowed: number;
  /** null where it does not hunt, or nothing tried ends it */
  cure: { kind: SleepCure; sleep: SleepSettings; wakesPerHour: number; lowest: number } | null;
}

/**
 * The day ahead of a pump, and the cure where it hunts.
 * @param power W of the motor @param can cures the drive's family has settings for
 */
export function sleepAhead(spec: MachineSpec, plan: DayPlan, power: number, can: readonly SleepCure[] = sleepCures): SleepAhead {
  const day = sleepDay(spec, plan);
  const sleeps = plan.process.sleep.frequency > 0;
  const never = sleeps ? sleepDay(spec, { ...plan, process: { ...plan.process, sleep: { ...plan.process.sleep, frequency: 0 } } }) : day;
  const allowed = startsAllowed(power);
  const hunts = day.wakesPerHour > allowed;
  let cure: SleepAhead['cure'] = null;
  for (const kind of hunts ? can : []) {
    const sleep = cured(plan.process.sleep, kind);
    const tried = sleepDay(spec, { ...plan, process: { ...plan.process, sleep } });
    if (tried.wakesPerHour > cureRoom * allowed) continue;
    cure = { kind, sleep, wakesPerHour: tried.wakesPerHour, lowest: tried.lowest };
    break;
  }
  return { day, awake: never.energy, hunts, allowed, cure };
}
