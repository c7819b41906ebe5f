import { ControlWord, DriveState } from '../drive';
import { createMachine, stepMachine, type Machine, type MachineSpec, type TripCause } from './machine';

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
}

export interface LookAheadSummary {
  /** s from start to within 1 % of the reference; null when it never got there */
  startTime: number | null;
  /** s from the stop command until the shaft stands; null when it did not within the look-ahead */
  stopTime: number | null;
  peakCurrent: number;
  peakBus: number;
  lowestBus: number;
  trip: { cause: TripCause; time: number } | null;
  /** true when the current limit or the high bus held the ramp at any time while starting / stopping */
  heldStarting: boolean;
  heldStopping: boolean;
  /** s at which the stop was commanded */
  stopAt: number;
}

export interface LookAhead {
  series: LookAheadSeries;
  summary: LookAheadSummary;
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
}

/** Start from rest on a charged bus, run, stop: the machine model driven through it. Pure; the spec is not changed. */
export function lookAheadRun(spec: MachineSpec, plan: RunPlan): LookAhead {
  const dt = plan.dt ?? 0.001;
  const m = createMachine(spec);
  for (const word of [ControlWord.shutdown, ControlWord.switchOn]) stepMachine(m, word, 0, dt);
  const keep: number[][] = [[], [], [], [], []];
  const every = Math.max(1, Math.round(0.01 / dt));
  const summary: LookAheadSummary = {
    startTime: null,
    stopTime: null,
    peakCurrent: 0,
    peakBus: 0,
    lowestBus: Infinity,
    trip: null,
    heldStarting: false,
    heldStopping: false,
    stopAt: 0,
  };
  const sign = plan.reference < 0 ? -1 : 1;
  let stopAt = Infinity;
  let after = Infinity;
  for (let i = 0; m.time < plan.longest && m.time < after; i++) {
    const stopping = m.time >= stopAt;
    stepMachine(m, stopping ? ControlWord.switchOn : ControlWord.enableOperation, plan.reference, dt);
    if (i % every === 0) sample(keep, m);
    summary.peakCurrent = Math.max(summary.peakCurrent, m.motor.current);
    summary.peakBus = Math.max(summary.peakBus, m.bus.voltage);
    summary.lowestBus = Math.min(summary.lowestBus, m.bus.voltage);
    if (m.holding === 1) {
      if (stopping) summary.heldStopping = true;
      else summary.heldStarting = true;
    }
    if (summary.startTime === null && m.ramp * sign >= Math.abs(plan.reference) * 0.99 && m.limitShift < 0.2) {
      summary.startTime = m.time;
      stopAt = m.time + plan.runTime;
      summary.stopAt = stopAt;
    }
    if (m.trip !== null && summary.trip === null) {
      summary.trip = { cause: m.trip.cause, time: m.time };
      if (stopAt === Infinity) summary.stopAt = m.time;
      after = m.time + 2;
    }
    if (stopping && summary.stopTime === null && m.state !== DriveState.operationEnabled && Math.abs(m.speed) < 1) {
      summary.stopTime = m.time - stopAt;
      after = m.time + 0.5;
    }
  }
  if (summary.startTime === null && summary.trip === null) summary.stopAt = m.time;
  return { series: pack(keep, plan.samples ?? 1200), summary };
}

function sample(keep: number[][], m: Machine): void {
  keep[0]!.push(m.time);
  keep[1]!.push(m.frequency);
  keep[2]!.push(m.motor.current);
  keep[3]!.push(m.bus.voltage);
  keep[4]!.push((m.speed * 60) / (2 * Math.PI));
}

/** Thins to at most `most` samples, keeping the largest and the smallest bus of each stretch so that no peak is lost. */
function pack(keep: number[][], most: number): LookAheadSeries {
  const n = keep[0]!.length;
  const wanted = new Set<number>();
  const stretch = Math.max(1, Math.ceil((2 * n) / most));
  for (let from = 0; from < n; from += stretch) {
    const to = Math.min(n, from + stretch);
    for (const channel of [2, 3]) {
      let high = from;
      for (let i = from; i < to; i++) if (keep[channel]![i]! > keep[channel]![high]!) high = i;
      wanted.add(high);
    }
  }
  if (n > 0) wanted.add(0).add(n - 1);
  const order = [...wanted].sort((a, b) => a - b);
  const pick = (channel: number) => Float64Array.from(order, (i) => keep[channel]![i]!);
  return { time: pick(0), frequency: pick(1), current: pick(2), busVoltage: pick(3), speed: pick(4) };
}

/**
 * Shortest deceleration time in s that neither trips nor is held back, from the reference to standstill, found by bisection on the
 * model to 3 %; `longest` when even that trips. The bus stays `margin` V below its trip.
 */
export function shortestStop(spec: MachineSpec, reference: number, longest = 600, margin = 15): number {
  const passes = (time: number): boolean => {
    const drive = { ...spec.drive, decelerationTime: time, busRampHold: 0, stopMode: 0 };
    const s = stopOnly({ ...spec, drive }, reference, time * 1.2 + 3);
    return s.trip === null && !s.held && s.peakBus < spec.rating.overvoltageTrip - margin;
  };
  let low = 0.1;
  let high = 0.4;
  while (!passes(high)) {
    low = high;
    high *= 2.5;
    if (high > longest) return longest;
  }
  while (high / low > 1.03) {
    const middle = Math.sqrt(low * high);
    if (passes(middle)) high = middle;
    else low = middle;
  }
  return high;
}

/** The stop alone, from steady running at the reference. */
function stopOnly(spec: MachineSpec, reference: number, longest: number): { trip: TripCause | null; peakBus: number; held: boolean } {
  const dt = 0.001;
  const m = createMachine({
    ...spec,
    drive: { ...spec.drive, accelerationTime: 0.01, currentLimit: 1e6 },
    rating: { ...spec.rating, overcurrentTrip: 1e6 },
  });
  for (const word of [ControlWord.shutdown, ControlWord.switchOn]) stepMachine(m, word, 0, dt);
  stepMachine(m, ControlWord.enableOperation, reference, dt);
  m.ramp = reference;
  m.speed = (2 * Math.PI * reference) / (spec.circuit.poles / 2);
  for (let i = 0; i < 2000; i++) {
    stepMachine(m, ControlWord.enableOperation, reference, dt);
    m.motorHeat = 0;
    m.driveHeat = 0;
  }
  m.spec = spec;
  const end = m.time + longest;
  let peakBus = 0;
  let held = false;
  while (m.time < end && m.trip === null && m.state === DriveState.operationEnabled) {
    stepMachine(m, ControlWord.switchOn, reference, dt);
    if (m.bus.voltage > peakBus) peakBus = m.bus.voltage;
    if (m.holding === 1) held = true;
  }
  return { trip: m.trip === null ? null : m.trip.cause, peakBus, held };
}
