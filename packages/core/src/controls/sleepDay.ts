import { operate } from '../motor';
import { present } from '../present';
import { pumpPower, restingLoad, stepPump, type PumpLoad } from '../load';
import type { MachineSpec } from '../machine';
import { withinLimits } from './controls';
import { rawOf } from './feedback';
import { quietSetpoint, restingProcess, setpointOf, stepProcess, type ProcessSettings } from './process';

/** A pressure loop with sleep, and the day it has to live through. */
export interface DayPlan {
  /** Pa from 0 to 100 % of the sensor, which begins at none */
  range: number;
  /** loop and sleep as the drive has them */
  process: ProcessSettings;
  /** opening of the demand valve by the hour, 24 values from 0 to 1 */
  demand: readonly number[];
  /** s; 0.2 unless a test asks otherwise */
  dt?: number;
}

export interface Day {
  /** one sample a minute: h, Hz, Pa, 1 asleep */
  hour: Float64Array;
  frequency: Float64Array;
  pressure: Float64Array;
  asleep: Float64Array;
  wakes: number;
  /** most wakes within any one hour */
  wakesPerHour: number;
  /** h */
  asleepHours: number;
  /** kWh at the motor's terminals: shaft work over the efficiency the circuit gives at rated frequency and that load */
  energy: number;
  /** Pa */
  lowestPressure: number;
}

/** Motor efficiency at a share of rated torque, from its circuit at rated volts: a straight line is read off for speed. */
function efficiencyLine(spec: MachineSpec): (power: number) => number {
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
  pressure: new Float64Array(minutes),
  asleep: new Float64Array(minutes),
  wakes: 0,
  wakesPerHour: 0,
  asleepHours: 0,
  energy: 0,
  lowestPressure: Infinity,
});

/** Share of maximum frequency the day begins at. */
const beginsAt = 0.7;

/**
 * A day of a constant-pressure pump: pump, pipe, loop, ramps and sleep; the motor is taken to follow its frequency less rated slip, which
 * over a day is as good as its own dynamics and far quicker.
 */
export function sleepDay(spec: MachineSpec, plan: DayPlan): Day {
  if (spec.load.kind !== 'pump') throw new RangeError('A day of sleep and wake is worked out for pumps.');
  const dt = plan.dt ?? 0.2;
  const { drive } = spec;
  const pump: PumpLoad = { ...spec.load };
  const load = restingLoad();
  const settings = withinLimits(plan.process, drive);
  const wanted = setpointOf(settings.setpoint, quietSetpoint);
  load.pressure = ((settings.straight ? rawOf(settings.straight, wanted) : wanted) / 100) * plan.range;
  const process = restingProcess();
  const efficiency = efficiencyLine(spec);
  const speedPerHertz = spec.circuit.ratedSpeed / spec.circuit.ratedFrequency;
  const day = blankDay();
  let f = beginsAt * drive.maximumFrequency;
  const wakesAt: number[] = [];
  const steps = Math.round(86400 / dt);
  const perMinute = Math.round(60 / dt);
  const perSecond = Math.max(1, Math.round(1 / dt));
  for (let i = 0; i < steps; i++) {
    const hour = (i * dt) / 3600;
    if (i % perSecond === 0) pump.demandOpening = plan.demand[Math.min(23, Math.floor(hour))] ?? 0;
    const before = process.sleep.wakes;
    const goal = stepProcess(process, settings, quietSetpoint, (100 * load.pressure) / plan.range, f, drive.maximumFrequency, dt);
    const stands = process.sleep.asleep;
    if (process.sleep.wakes > before) wakesAt.push(hour);
    const rate = drive.motorFrequency / (goal > f ? drive.accelerationTime : drive.decelerationTime);
    f = goal > f ? Math.min(goal, f + rate * dt) : Math.max(goal, f - rate * dt);
    const speed = f * speedPerHertz;
    stepPump(load, pump, speed, dt);
    if (i % perSecond === 0 && f > 0.5) {
      const power = pumpPower(pump, speed, load.flow);
      day.energy += ((power / efficiency(power)) * perSecond * dt) / 3.6e6;
    }
    if (stands) day.asleepHours += dt / 3600;
    if (load.pressure < day.lowestPressure) day.lowestPressure = load.pressure;
    if (i % perMinute === 0) {
      const k = i / perMinute;
      day.hour[k] = hour;
      day.frequency[k] = f;
      day.pressure[k] = load.pressure;
      day.asleep[k] = stands ? 1 : 0;
    }
  }
  day.wakes = process.sleep.wakes;
  for (const at of wakesAt) day.wakesPerHour = Math.max(day.wakesPerHour, wakesAt.filter((x) => x >= at && x < at + 1).length);
  return day;
}
