import { sizeResistor, ControlWord, DriveState, ReversePermit, StartMode, StopMode, Switch, type ResistorSizing, type TripCause } from '../drive';
import { stepMachine } from './machine';
import { createMachine, ledRight, type Machine, type MachineSpec, Holding } from './state';

/** A machine that has run at a reference for two seconds, its heat as at rest: where a stop begins. The spec is not changed. */
export function runningMachine(spec: MachineSpec, reference: number, dt = 0.001): Machine {
  const driven: MachineSpec = {
    ...spec,
    drive: {
      ...spec.drive,
      accelerationTime: 0.01,
      secondAccelerationTime: 0.01,
      currentLimit: 1e6,
      torqueLimit: 100,
      startMode: StartMode.fromRest,
      holdingBrake: 0,
    },
    rating: { ...spec.rating, overcurrentTrip: 1e6, overvoltageTrip: 1e6 },
    brake: undefined,
  };
  const m = createMachine(driven, ledRight(driven));
  for (const word of [ControlWord.shutdown, ControlWord.switchOn]) stepMachine(m, word, 0, dt);
  stepMachine(m, ControlWord.enableOperation, reference, dt);
  m.ramp = reference;
  m.speed = (2 * Math.PI * reference) / (spec.circuit.poles / 2);
  for (let i = 0; i < 2 / dt; i++) {
    stepMachine(m, ControlWord.enableOperation, reference, dt);
    m.motorHeat = 0;
    m.driveHeat = 0;
  }
  m.spec = spec;
  if (spec.brake) {
    m.brakeCommand = 1;
    m.brakeOpening = 1;
  }
  return m;
}

/** W that come back to the bus for as long as the machine runs at a reference in Hz: more than none where the load drives its motor. */
export const givenBackAt = (spec: MachineSpec, reference: number): number => Math.max(0, -runningMachine(spec, reference).drawn);

/** The reference in Hz, of a top one either way round, from which a stop gives back the most: a hoist on its way down, where it may go down. */
export const hardestStopFrom = ({ load, drive }: MachineSpec, top: number): number =>
  load.kind === 'hoist' && drive.reversePermit === ReversePermit.permitted ? -Math.abs(top) : top;

export interface Stop {
  trip: TripCause | null;
  peakBus: number;
  /** the ramp was held by current limit or bus */
  held: boolean;
  /** s; null when it did not come to its end */
  time: number | null;
  /** J into the resistor */
  energy: number;
  /** W, highest that came back to the bus */
  peakPower: number;
}

/** The stop alone, from steady running at the reference, as the spec's stop mode does it. */
export function stopFrom(spec: MachineSpec, reference: number, longest: number): Stop {
  const dt = 0.001;
  const m = runningMachine(spec, reference, dt);
  const begin = m.time;
  const out: Stop = { trip: null, peakBus: 0, held: false, time: null, energy: 0, peakPower: 0 };
  while (m.time < begin + longest && m.trip === null && m.state === DriveState.operationEnabled) {
    stepMachine(m, ControlWord.switchOn, reference, dt);
    if (m.bus.voltage > out.peakBus) out.peakBus = m.bus.voltage;
    if (-m.drawn > out.peakPower) out.peakPower = -m.drawn;
    if (m.holding !== Holding.nothing) out.held = true;
    out.energy += m.bus.chopperPower * dt;
  }
  out.trip = m.trip === null ? null : m.trip.cause;
  if (m.trip === null && m.state !== DriveState.operationEnabled) out.time = m.time - begin;
  return out;
}

/** No deceleration longer than this is looked for, s. */
export const longestStopSearched = 600;

/**
 * Shortest deceleration time in s that neither trips nor is held back, from the reference to standstill, found by bisection on the
 * model to 3 %; `longest` when even that trips. The bus stays `margin` V below its trip.
 * @param resistance Ω of a brake resistor on the chopper; 0 for none
 */
export function shortestStop(spec: MachineSpec, reference: number, longest = longestStopSearched, margin = 15, resistance = 0): number {
  const braking = resistance > 0 ? { chopper: Switch.on, brakeResistance: resistance, resistorPower: 1e9 } : { chopper: Switch.off };
  const from = hardestStopFrom(spec, reference);
  const passes = (decelerationTime: number): boolean => {
    const drive = {
      ...spec.drive,
      ...braking,
      decelerationTime,
      secondDecelerationTime: decelerationTime,
      busRampHold: Switch.off,
      stopMode: StopMode.ramp,
      dcTime: 0,
      holdingBrake: 0,
    };
    const s = stopFrom({ ...spec, drive }, from, decelerationTime * 1.2 + 3);
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

/** Chopper transistors are as large as the drive itself (common practice): they carry what its least resistor takes at the chopper's level. */
const chopperCurrent = (spec: MachineSpec): number => spec.drive.chopperLevel / spec.rating.leastResistance;

/**
 * The resistor a stop in `time` s wants: the model stops the machine on a chopper with the smallest resistance allowed and counts
 * energy and peak. Null when the machine cannot stop in that time even so: it trips, the current limit holds it, or no resistor suits both.
 * @param every s between stops
 */
export function resistorForStop(spec: MachineSpec, reference: number, time: number, every: number): ResistorSizing | null {
  const drive = {
    ...spec.drive,
    decelerationTime: time,
    secondDecelerationTime: time,
    stopMode: StopMode.ramp,
    dcTime: 0,
    busRampHold: Switch.off,
    holdingBrake: 0,
    chopper: Switch.on,
    brakeResistance: spec.rating.leastResistance,
    resistorPower: 1e9,
  };
  const stop = stopFrom({ ...spec, drive }, hardestStopFrom(spec, reference), time * 1.2 + 3);
  if (stop.trip !== null || stop.time === null || stop.held) return null;
  const sizing = sizeResistor(
    { energy: stop.energy, peak: stop.peakPower },
    drive.chopperLevel,
    chopperCurrent(spec),
    spec.rating.leastResistance,
    every,
  );
  // a resistor the chopper may carry has to take the peak as well
  return sizing.leastResistance <= sizing.mostResistance ? sizing : null;
}
