import { ControlWord, Phase, StopMode, Switch, type DriveParameters } from '@yare/core';
import type { DemoMachine } from '@yare/demo-plant';
import { Plant } from '../src/plant/plant';

/** The machine itself, on a day, with its drive's settings changed. */
export function trueMachine(
  demo: DemoMachine,
  values: Readonly<Record<string, number>>,
  seed: number,
  day: number,
  change: Partial<DriveParameters> = {},
): Plant {
  const plant = new Plant(demo, values, seed, day);
  const m = plant.machine;
  m.spec.drive = { ...m.spec.drive, ...change };
  // a machine that is judged need not keep what came before a trip
  m.history = null;
  for (const word of [ControlWord.shutdown, ControlWord.switchOn]) plant.truth.advance(word, 0);
  return plant;
}

/** What a true run up, at speed and down came to. SI, with a meter's accuracy but for the current, which is the drive's own. */
export interface TrueRun {
  /** V at rest before the start, and highest while it slowed down */
  restBus: number;
  peakBus: number;
  /** A RMS, on the way up, a search for a spinning shaft left out, and settled */
  peakCurrent: number;
  settledCurrent: number;
  /** A RMS of the whole run, the stop in it */
  peakOfAll: number;
  /** rad/s, Hz and Pa before the stop */
  speed: number;
  frequency: number;
  pressure: number;
  flow: number;
  /** s from letting go to a stand; null when it did not, or tripped */
  stopTime: number | null;
  tripped: boolean;
  /** s from the moment something held the shaft back until it tripped; null when it did not */
  tripAfter: number | null;
}

const dt = 0.001;
/** s over which settled figures are averaged. */
const averaged = 0.5;
const standing = 1;

/** @param heldBack N·m on the shaft from the end of the run on, in the place of a stop, for so many s at most */
export function runTrue(
  plant: Plant,
  plan: { reference: number; runTime: number; longest: number },
  heldBack?: { torque: number; longest: number },
): TrueRun {
  const { truth, machine: m } = plant;
  const out: TrueRun = {
    ...{ restBus: 0, peakBus: 0, peakCurrent: 0, peakOfAll: 0, settledCurrent: 0, speed: 0, frequency: 0, pressure: 0, flow: 0 },
    ...{ stopTime: null, tripped: false, tripAfter: null },
  };
  out.restBus = truth.rectifier.voltage;
  let there = Infinity;
  const step = (word: number) => truth.advance(word, plan.reference);
  while (m.time < plan.longest && m.time < there + plan.runTime && !m.trip) {
    step(ControlWord.enableOperation);
    if (m.phase === Phase.run) out.peakCurrent = Math.max(out.peakCurrent, m.motor.current);
    if (there === Infinity && m.goal !== 0 && Math.abs(m.ramp) >= 0.99 * Math.abs(m.goal)) there = m.time;
  }
  let n = 0;
  for (let i = 0; i < averaged / dt && !m.trip; i++, n++) {
    step(ControlWord.enableOperation);
    out.settledCurrent += m.motor.current;
    out.speed += m.speed;
    out.frequency += Math.abs(m.frequency);
    out.pressure += m.loadState.pressure;
    out.flow += m.loadState.flow;
  }
  for (const key of ['settledCurrent', 'speed', 'frequency', 'pressure', 'flow'] as const) out[key] /= Math.max(1, n);
  out.peakOfAll = out.peakCurrent;
  const began = m.time;
  if (heldBack) {
    m.conditions.jam = heldBack.torque;
    while (!m.trip && m.time < began + heldBack.longest) step(ControlWord.enableOperation);
    out.tripAfter = m.trip ? m.time - began : null;
  } else {
    while (!m.trip && m.time < began + plan.longest && (plant.running || Math.abs(m.speed) > standing)) {
      step(ControlWord.switchOn);
      out.peakBus = Math.max(out.peakBus, truth.busHigh);
      out.peakOfAll = Math.max(out.peakOfAll, m.motor.current);
    }
    if (!m.trip && Math.abs(m.speed) <= standing) out.stopTime = m.time - began;
  }
  out.tripped = m.trip !== null;
  return out;
}

/** Puts a machine at speed at once, as a stop begins from, and lets it settle. */
function atSpeed(plant: Plant, reference: number): void {
  const { truth, machine: m } = plant;
  truth.advance(ControlWord.enableOperation, reference);
  truth.firmware.takeHold(reference);
  m.speed = (2 * Math.PI * reference) / (m.spec.circuit.poles / 2);
  if (m.spec.brake) m.brakeOpening = m.brakeCommand = 1;
  for (let i = 0; i < 3 / dt; i++) truth.advance(ControlWord.enableOperation, reference);
}

export interface TrueStop {
  tripped: boolean;
  /** the ramp was held */
  held: boolean;
  peakBus: number;
  /** J into the brake resistor */
  energy: number;
  /** s until the shaft had a quarter of its speed left */
  toQuarter: number;
}

/** A stop alone. @param change settings it is made with */
export function stopTrue(
  make: (change: Partial<DriveParameters>) => Plant,
  reference: number,
  change: Partial<DriveParameters>,
  longest: number,
): TrueStop {
  const plain = { busRampHold: Switch.off, dcTime: 0, holdingBrake: 0, accelerationTime: 1, secondAccelerationTime: 1 };
  const plant = make({ ...plain, ...change });
  const { truth, machine: m } = plant;
  atSpeed(plant, reference);
  const out: TrueStop = { tripped: false, held: false, peakBus: 0, energy: 0, toQuarter: Infinity };
  const from = Math.abs(m.speed);
  const began = m.time;
  const coasting = change.stopMode === StopMode.coast;
  while (m.time < began + longest && !m.trip && (coasting ? out.toQuarter === Infinity : plant.running)) {
    truth.advance(ControlWord.switchOn, reference);
    out.peakBus = Math.max(out.peakBus, truth.busHigh);
    out.energy += m.bus.chopperPower * dt;
    if (m.holding !== 0) out.held = true;
    if (out.toQuarter === Infinity && Math.abs(m.speed) <= from / 4) out.toQuarter = m.time - began;
  }
  out.tripped = m.trip !== null;
  return out;
}

/** s, the shortest ramp down that neither trips, nor is held, nor comes within `margin` V of the trip; by bisection to 3 %. */
export function shortestTrue(
  make: (change: Partial<DriveParameters>) => Plant,
  reference: number,
  near: number,
  margin: number,
  longest = 600,
): number {
  const ramp = (time: number) => ({ decelerationTime: time, secondDecelerationTime: time, stopMode: StopMode.ramp, chopper: Switch.off });
  const passes = (time: number) => {
    const s = stopTrue(make, reference, ramp(time), 1.2 * time + 3);
    return !s.tripped && !s.held && s.peakBus < make({}).machine.spec.rating.overvoltageTrip - margin;
  };
  let high = near;
  while (!passes(high)) {
    if (high >= longest) return longest;
    high *= 1.5;
  }
  let low = high / 1.5;
  while (low > 0.1 && passes(low)) {
    high = low;
    low /= 1.5;
  }
  while (high / low > 1.03) {
    const middle = Math.sqrt(low * high);
    if (passes(middle)) high = middle;
    else low = middle;
  }
  return high;
}
