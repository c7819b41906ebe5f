import { busAtRest, coolingShare, MotorCooling, StopMode, Switch } from '../drive';
import { runningMachine, stopFrom, type MachineSpec } from '../machine';
import type { TripCase, TrippedMachine } from './tripCase';

/** What the model expects of a machine that runs steadily at a frequency: A, % of rated torque, V. */
export interface Expected {
  current: number;
  torque: number;
  busVoltage: number;
}

const kept = new WeakMap<MachineSpec, Map<number, Expected>>();

/** Steady running at a frequency in Hz, to the whole hertz; null without a model, or at almost no speed. */
export function expectedAt({ spec, plate }: TrippedMachine, frequency: number): Expected | null {
  const f = Math.round(frequency);
  if (!spec || Math.abs(f) < 3) return null;
  const known = kept.get(spec) ?? new Map<number, Expected>();
  kept.set(spec, known);
  const before = known.get(f);
  if (before) return before;
  const m = runningMachine(spec, f);
  const now = { current: m.motor.current, torque: (100 * m.motor.torque * Math.sign(f)) / plate.torque, busVoltage: m.bus.voltage };
  known.set(f, now);
  return now;
}

/** V of the bus with nothing drawn from it, at the supply on record. */
export const restingBusOf = ({ supply }: TrippedMachine): number => busAtRest(supply);

const stops = new WeakMap<MachineSpec, Map<string, { tripped: boolean; peakBus: number }>>();

/** How the stop that is in the settings ends by the model, from a frequency in Hz, at the supply on record; null without a model or a ramp to stop by. */
export function stopExpected({ machine: { spec } }: TripCase, frequency: number): { tripped: boolean; peakBus: number } | null {
  if (!spec || spec.drive.stopMode !== StopMode.ramp || Math.abs(frequency) < 3) return null;
  const key = frequency.toFixed(0);
  const known = stops.get(spec) ?? new Map<string, { tripped: boolean; peakBus: number }>();
  stops.set(spec, known);
  const before = known.get(key);
  if (before) return before;
  // a chopper that cannot act is none
  const chopper = spec.drive.chopper === Switch.on && spec.drive.chopperLevel < spec.rating.overvoltageTrip ? Switch.on : Switch.off;
  const s = stopFrom({ ...spec, drive: { ...spec.drive, chopper } }, Math.round(frequency), Math.min(120, 1.2 * spec.drive.decelerationTime + 3));
  const now = { tripped: s.trip === 'overvoltage', peakBus: s.peakBus };
  stops.set(spec, new Map([...known, [key, now]]));
  return now;
}

/** Share of its current a motor may carry at a frequency for ever, by the way it is cooled. */
export const coolingAt = ({ drive }: TrippedMachine, frequency: number): number =>
  coolingShare(drive.motorCooling === MotorCooling.forced, Math.abs(frequency) / drive.motorFrequency);
