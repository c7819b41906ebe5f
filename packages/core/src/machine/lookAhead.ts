import { largestOf } from '../extremes';
import {
  clampReference,
  ControlWord,
  driveContinuous,
  driveOverloadTime,
  DriveState,
  overloadTimeConstant,
  steadyHeat,
  type TripCause,
} from '../drive';
import { stepMachine } from './machine';
import { createMachine, ledRight, Phase, type Machine, type MachineSpec, Holding } from './state';
import { nth } from '../present';

/** In the order of Holding. */
const heldBy = [null, 'current limit', 'torque limit', 'high bus'] as const;
/** What held a ramp back. */
export type HeldBy = Exclude<(typeof heldBy)[number], null>;

/** Channels of a look-ahead, each with one value per sample. */
export interface LookAheadSeries {
  /** s */
  time: Float64Array;
  /** Hz, at the terminals */
  frequency: Float64Array;
  /** A */
  current: Float64Array;
  /** V */
  busVoltage: Float64Array;
  /** rpm */
  speed: Float64Array;
  /** Pa; zero for machines without a process pressure */
  pressure: Float64Array;
}

/** Shares of what trips the overload of the motor, and of the drive itself. */
export interface OverloadShares {
  motor: number;
  drive: number;
}

export interface LookAheadSummary {
  /** s from start to within 1 % of the reference; null when it never got there */
  startTime: number | null;
  /** s from the stop command until the shaft stands; null when it did not within the look-ahead */
  stopTime: number | null;
  peakCurrent: number;
  peakBus: number;
  lowestBus: number;
  /** rpm and Pa at the end of the run, before the stop */
  settledSpeed: number;
  settledPressure: number;
  /** rpm, A and V: extremes while it was to run at speed */
  lowestSpeed: number;
  peakRunningCurrent: number;
  lowestRunningBus: number;
  trip: { cause: TripCause; time: number } | null;
  /** true when the current limit or the high bus held the ramp at any time while starting / stopping */
  heldStarting: HeldBy | null;
  heldStopping: HeldBy | null;
  /** s at which the stop was commanded */
  stopAt: number;
  /** J into the brake resistor, and the share of its permitted heat reached */
  resistorEnergy: number;
  resistorHeat: number;
  /** shares of what trips motor and drive overload at the end of the run-up, begun cold, and begun warm from running as it then does */
  startHeat: { cold: OverloadShares; warm: OverloadShares };
}

export interface LookAhead {
  series: LookAheadSeries;
  summary: LookAheadSummary;
}

/** Something that happens while the machine runs at speed. */
export interface LookAheadEvent {
  /** s after it got to speed */
  after: number;
  /** share of the supply's voltage from then on */
  supplyShare?: number;
  /** N·m of friction on top of the load */
  extraTorque?: number;
  /** of the demand valve of a pump, or the damper of a fan, 0 to 1 */
  opening?: number;
}

export interface RunPlan {
  /** Hz to run at */
  reference: number;
  /** s at speed before the stop */
  runTime: number;
  /** s after which the look-ahead gives up */
  longest: number;
  /** s; 1 ms unless a test asks otherwise */
  dt?: number;
  /** samples kept, evenly in time */
  samples?: number;
  events?: LookAheadEvent[];
  /** false ends the look-ahead after the run; the stop is not asked for */
  stop?: boolean;
}

/** Lets an event act on the look-ahead's own copy of the machine. */
function happen(m: Machine, spec: MachineSpec, e: LookAheadEvent): void {
  if (e.supplyShare !== undefined) m.spec.supply.voltage = spec.supply.voltage * e.supplyShare;
  if (e.extraTorque !== undefined) m.conditions.jam = e.extraTorque;
  if (e.opening === undefined) return;
  if (m.spec.load.kind === 'pump') m.spec.load.demandOpening = e.opening;
  else if (m.spec.load.kind === 'fan') m.spec.load.damper = e.opening;
}

/** s after which the run-up is over and done with. */
const settled = 0.5;

const rpm = (speed: number): number => (speed * 60) / (2 * Math.PI);

/** What held a ramp longest; null when nothing did. */
function mostHeld(steps: readonly number[]): HeldBy | null {
  const most = largestOf(steps);
  return most === 0 ? null : (heldBy[steps.indexOf(most)] ?? null);
}

/**
 * The same run-up begun with the heat of running at a current, in A. Both overloads are linear in heat, so what was left from before falls by its own
 * time constant beside what the run-up adds.
 */
function begunWarm({ drive, rating }: MachineSpec, { startTime, startHeat }: LookAheadSummary, current: number): OverloadShares {
  const left = (size: number, time: number) => size * Math.exp(-(startTime ?? 0) / time);
  const { overloadShare } = rating;
  return {
    motor: startHeat.cold.motor + left(steadyHeat(current / drive.overloadCurrent), overloadTimeConstant(drive.overloadClass)),
    drive: startHeat.cold.drive + left((current / rating.current / driveContinuous(overloadShare)) ** 2, driveOverloadTime(overloadShare)),
  };
}

/** Start from rest on a charged bus, run, stop: the machine model driven through it. Pure; the spec is not changed. */
export function lookAheadRun(spec: MachineSpec, plan: RunPlan): LookAhead {
  const dt = plan.dt ?? 0.001;
  const m = createMachine({ ...spec, supply: { ...spec.supply }, load: { ...spec.load } }, ledRight(spec));
  for (const word of [ControlWord.shutdown, ControlWord.switchOn]) stepMachine(m, word, 0, dt);
  const keep: number[][] = [[], [], [], [], [], []];
  const every = Math.max(1, Math.round(0.01 / dt));
  const summary: LookAheadSummary = {
    startTime: null,
    stopTime: null,
    peakCurrent: 0,
    peakBus: 0,
    lowestBus: Infinity,
    settledSpeed: 0,
    settledPressure: 0,
    lowestSpeed: Infinity,
    peakRunningCurrent: 0,
    lowestRunningBus: Infinity,
    trip: null,
    heldStarting: null,
    heldStopping: null,
    stopAt: 0,
    resistorEnergy: 0,
    resistorHeat: 0,
    startHeat: { cold: { motor: 0, drive: 0 }, warm: { motor: 0, drive: 0 } },
  };
  // steps each of them held, by what held
  const held = { starting: [0, 0, 0, 0], stopping: [0, 0, 0, 0] };
  const sign = plan.reference < 0 ? -1 : 1;
  // what the drive may not do it does not: nothing comes of it, and that is seen at once
  const longest = clampReference(spec.drive, plan.reference) === 0 ? Math.min(plan.longest, settled) : plan.longest;
  const events = [...(plan.events ?? [])].sort((a, b) => a.after - b.after);
  let stopAt = Infinity;
  let after = Infinity;
  let settledCurrent = 0;
  for (let i = 0; m.time < longest && m.time < after; i++) {
    const stopping = m.time >= stopAt;
    stepMachine(m, stopping ? ControlWord.switchOn : ControlWord.enableOperation, plan.reference, dt);
    if (i % every === 0) sample(keep, m);
    summary.peakCurrent = Math.max(summary.peakCurrent, m.motor.current);
    summary.peakBus = Math.max(summary.peakBus, m.bus.voltage);
    summary.lowestBus = Math.min(summary.lowestBus, m.bus.voltage);
    summary.resistorEnergy += m.bus.chopperPower * dt;
    summary.resistorHeat = Math.max(summary.resistorHeat, m.resistorHeat);
    if (m.holding !== Holding.nothing) {
      const counted = stopping ? held.stopping : held.starting;
      counted[m.holding] = nth(counted, m.holding) + 1;
    }
    if (summary.startTime === null) summary.startHeat.cold = { motor: m.motorHeat, drive: m.driveHeat };
    if (summary.startTime === null && m.goal !== 0 && m.ramp * sign >= Math.abs(m.goal) * 0.99 && m.limitShift < 0.2) {
      summary.startTime = m.time;
      stopAt = m.time + plan.runTime;
      summary.stopAt = stopAt;
    }
    if (summary.startTime !== null && !stopping) {
      while (events[0] && m.time >= summary.startTime + events[0].after) {
        happen(m, spec, events[0]);
        events.shift();
      }
      summary.settledSpeed = rpm(m.speed);
      summary.settledPressure = m.loadState.pressure;
      settledCurrent = m.motor.current;
      if (m.trip === null && m.time > summary.startTime + settled) {
        summary.lowestSpeed = Math.min(summary.lowestSpeed, Math.abs(summary.settledSpeed));
        summary.peakRunningCurrent = Math.max(summary.peakRunningCurrent, m.motor.current);
        summary.lowestRunningBus = Math.min(summary.lowestRunningBus, m.bus.voltage);
      }
    }
    if (m.trip !== null && summary.trip === null) {
      summary.trip = { cause: m.trip.cause, time: m.time };
      if (stopAt === Infinity) summary.stopAt = m.time;
      after = m.time + 2;
    }
    if (stopping && plan.stop === false) after = m.time;
    const letGo = m.state !== DriveState.operationEnabled || m.phase === Phase.directCurrent;
    if (stopping && summary.stopTime === null && letGo && Math.abs(m.speed) < 1) {
      summary.stopTime = m.time - stopAt;
      after = m.time + 0.5;
    }
  }
  summary.heldStarting = mostHeld(held.starting);
  summary.startHeat.warm = begunWarm(spec, summary, settledCurrent);
  summary.heldStopping = mostHeld(held.stopping);
  if (summary.startTime === null && summary.trip === null) summary.stopAt = m.time;
  return { series: pack(keep, plan.samples ?? 1200), summary };
}

function sample(keep: number[][], m: Machine): void {
  const now = [m.time, m.frequency, m.motor.current, m.bus.voltage, rpm(m.speed), m.loadState.pressure];
  for (const [channel, value] of now.entries()) keep[channel]?.push(value);
}

/** Thins to at most `most` samples, keeping the largest bus and current of each stretch so that no peak is lost. */
function pack(keep: number[][], most: number): LookAheadSeries {
  const n = nth(keep, 0).length;
  const wanted = new Set<number>();
  const stretch = Math.max(1, Math.ceil((2 * n) / most));
  for (let from = 0; from < n; from += stretch) {
    const to = Math.min(n, from + stretch);
    for (const series of [nth(keep, 2), nth(keep, 3)]) {
      let high = from;
      for (let i = from; i < to; i++) if ((series[i] ?? NaN) > (series[high] ?? NaN)) high = i;
      wanted.add(high);
    }
  }
  if (n > 0) wanted.add(0).add(n - 1);
  const order = [...wanted].sort((a, b) => a - b);
  const pick = (channel: number) => {
    const series = nth(keep, channel);
    return Float64Array.from(order, (i) => series[i] ?? NaN);
  };
  return { time: pick(0), frequency: pick(1), current: pick(2), busVoltage: pick(3), speed: pick(4), pressure: pick(5) };
}
