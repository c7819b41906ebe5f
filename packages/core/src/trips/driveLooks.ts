import { largestOf, smallestOf } from '../extremes';
import { ControlMethod, resistorTime, Switch } from '../drive';
import { channelsTold } from '../controls';
import { totalInertia } from '../machine';
import { expectedAt, restingBusOf, stopExpected } from './expected';
import { banded, enabled, frequencyOf, seen, topOf, type Look } from './look';
import { between, lastOf, meanOf, median, runBegan, slopeOf } from './samples';
import type { TripCase } from './tripCase';
import { nth } from '../present';

/** What the machine was doing. A ramp is told by the trace where there is one, else by how far the output was from what was asked. */
export const moment: Look = (c) => {
  if (enabled(c) === false) return seen('standing');
  const f = frequencyOf(c);
  const { reference, since } = c.snapshot;
  if (f === null || reference === null) return null;
  const [size, asked] = [Math.abs(f), Math.abs(reference)];
  const figures = { frequency: size, reference: asked, ...(since !== null && { since }) };
  if (asked < 0.05) return seen('stopping', figures);
  const slope = slopeOf(c.trace, 'outputFrequency', -0.6, 0);
  const ramped = slope === null ? null : slope * Math.sign(f);
  const { decelerationTime, motorFrequency } = c.machine.drive;
  if (ramped !== null && ramped < -Math.max(0.4, 0.3 * (motorFrequency / decelerationTime)) && size > asked + 0.5) return seen('stopping', figures);
  if (size < asked - 1) return seen(hadArrived(c, asked) ? 'running' : 'starting', figures);
  return seen(size > asked + 1.5 ? 'stopping' : 'running', figures);
};

/** s beyond its ramp after which a run-up is no run-up any more. */
const longRunUp = 15;

/** Whether the machine had come to the speed that was asked of it since it was started, as far as anybody knows. */
function hadArrived(c: TripCase, asked: number): boolean {
  const { since } = c.snapshot;
  const before = between(c.trend, 'outputFrequency', since === null ? -120 : -since, 0).map(Math.abs);
  if (before.length >= 3) return largestOf(before) > asked - Math.max(1, 0.06 * asked);
  return since !== null && since > 1.3 * c.machine.drive.accelerationTime + longRunUp;
}

export const torque: Look = (c) => {
  const f = frequencyOf(c) ?? 0;
  const t = c.snapshot.torque ?? lastOf(c, 'torque', 0.02);
  if (t === null || enabled(c) === false) return null;
  const along = t * (f < 0 ? -1 : 1);
  return seen(banded(along, ['braking', -6], ['little', 10], ['motoring', Infinity]), { torque: along });
};

/** Times the motor's rated power from which a rise of the bus is more than any machine gives back. */
const beyondMotor = 2.5;

/**
 * How the bus came to its trip level: at once, with more power than the machine can give back (C·V·dV/dt against what is stamped), climbing as one that
 * does, or it was high before.
 */
export const busRise: Look = (c) => {
  const { rating, plate, spec } = c.machine;
  const rest = restingBusOf(c.machine);
  const b = c.trace;
  const values = b?.channels.busVoltage;
  if (c.cause !== 'overvoltage' || !b || !values || values.length < 20) return null;
  const top = nth(values, values.length - 1);
  const from = rest + 0.25 * (rating.overvoltageTrip - rest);
  let i = values.length - 1;
  while (i > 0 && nth(values, i) > from) i--;
  const took = -nth(b.time, i);
  if (i === 0) return seen('was high', { low: from, seconds: took });
  const power = (rating.busCapacitance * (top * top - nth(values, i) * nth(values, i))) / 2 / Math.max(0.001, took);
  const rated = plate.torque * (spec?.circuit.ratedSpeed ?? 150);
  return seen(power > beyondMotor * rated ? 'at once' : 'climbs', { low: from, seconds: took, power: power / 1000, rated: rated / 1000 });
};

/** Samples of a link before a trip that tell of its supply. */
const latest = 10;

/** The supply, by the bus while nothing is given back: the middle of it while the motor stood or drew power. */
export const line: Look = (c) => {
  const rest = restingBusOf(c.machine);
  const of = (b: TripCase['trace']): number[] => {
    const bus = b?.channels.busVoltage;
    const load = b?.channels.torque;
    if (!b || !bus) return [];
    return (
      Array.from({ length: bus.length }, (_, i) => i)
        // the last moments belong to the trip itself, not to the supply before it
        .filter((i) => nth(b.time, i) < -0.4 && (!load || nth(load, i) * Math.sign(b.channels.outputFrequency?.[i] ?? 1) > -3))
        .map((i) => nth(bus, i))
    );
  };
  const before = of(c.trend).slice(-latest);
  const level = median(before.length >= 3 ? before : of(c.trace));
  if (level === null) return null;
  const share = level / rest;
  return seen(banded(share, ['low', 0.89], ['right', 1.06], ['high', Infinity]), { bus: level, rest });
};

/** The stop that is set, by the model at the supply on record. */
export const stop: Look = (c) => {
  if (c.cause !== 'overvoltage' && c.cause !== 'brakeResistor') return null;
  const top = topOf(c);
  const s = top === null ? null : stopExpected(c, top);
  if (!s || top === null) return null;
  const level = c.machine.rating.overvoltageTrip;
  const outcome = s.tripped || s.peakBus > level - 10 ? 'too short' : s.peakBus > level - 40 ? 'near' : 'long enough';
  return seen(outcome, { peak: s.peakBus, level, time: c.machine.drive.decelerationTime, from: top });
};

export const chopper: Look = ({ machine: { drive, rating } }) => {
  if (drive.chopper !== Switch.on) return seen('none');
  return seen(drive.chopperLevel >= rating.overvoltageTrip ? 'never acts' : 'acts', { level: drive.chopperLevel, trip: rating.overvoltageTrip });
};

/** s either side of the chopper's level in which the power into the bus is compared. */
const aroundLevel = 0.008;

/** Power in W that charges a bus between two times, by least squares: d(C·V²/2)/dt. Null of fewer than four samples. */
function chargingPower({ trace, machine }: TripCase, from: number, to: number): number | null {
  const bus = trace?.channels.busVoltage;
  if (!trace || !bus) return null;
  const energy = Array.from(bus, (v) => (machine.rating.busCapacitance * v * v) / 2);
  let n = 0;
  for (let i = 0; i < trace.time.length; i++) if (nth(trace.time, i) >= from && nth(trace.time, i) <= to) n++;
  return n < 4 ? null : slopeOf({ time: trace.time, channels: { busVoltage: energy } }, 'busVoltage', from, to);
}

/**
 * Whether the resistor carried anything once the chopper was on: it takes V²/R at once, so that the power which charges the bus drops at the chopper's
 * level; with nothing connected it goes on as before.
 */
export const chopperHeld: Look = (c) => {
  const { drive, rating } = c.machine;
  const values = c.trace?.channels.busVoltage;
  if (c.cause !== 'overvoltage' || drive.chopper !== Switch.on || drive.chopperLevel >= rating.overvoltageTrip || !c.trace || !values) return null;
  let i = 0;
  while (i < values.length && nth(values, i) <= drive.chopperLevel) i++;
  const at = nth(c.trace.time, Math.min(i, values.length - 1));
  // what stood before the bus began to rise is no part of it
  const begun = restingBusOf(c.machine) + 0.3 * (drive.chopperLevel - restingBusOf(c.machine));
  let k = Math.min(i, values.length - 1);
  while (k > 0 && nth(values, k) > begun) k--;
  const before = chargingPower(c, Math.max(at - aroundLevel, nth(c.trace.time, k)), at);
  const since = chargingPower(c, at, at + aroundLevel) ?? chargingPower(c, at, 0);
  if (before === null || since === null || before <= 0) return null;
  return seen(since < 0.85 * before ? 'slowed' : 'went on', { before: before / 1000, since: since / 1000, level: drive.chopperLevel });
};

/** Whether one stop is already more than the resistor that is set carries: energy of the stop over the resistor's minute. */
export const resistor: Look = (c) => {
  const { drive, spec } = c.machine;
  if (c.cause !== 'brakeResistor' || !spec) return null;
  const top = topOf(c) ?? drive.motorFrequency;
  const speed = (2 * Math.PI * top) / (spec.circuit.poles / 2);
  const energy = (totalInertia(spec) * speed * speed) / 2;
  return seen(energy / resistorTime > 0.7 * drive.resistorPower ? 'one stop is too much' : 'carries a stop', {
    energy: energy / 1000,
    power: drive.resistorPower,
  });
};

/** Whether the output swung to and fro while it ran. */
export const swings: Look = (c) => {
  const f = between(c.trend, 'outputFrequency', Math.max(-60, runBegan(c.trend)), -1);
  if (f.length < 20) return null;
  const [high, low] = [largestOf(f), smallestOf(f)];
  const middle = (high + low) / 2;
  let crossings = 0;
  for (let i = 1; i < f.length; i++) if (nth(f, i - 1) < middle !== nth(f, i) < middle) crossings++;
  return seen(crossings >= 6 && high - low > 4 ? 'swings' : 'steady', { crossings, high, low });
};

export const speed: Look = (c) => {
  const f = frequencyOf(c);
  if (f === null) return null;
  const share = Math.abs(f) / c.machine.drive.motorFrequency;
  return seen(banded(share, ['near zero', 0.2], ['low', 0.6], ['high', Infinity]), { frequency: Math.abs(f) });
};

/** How the current came to where it was: at once, as in a short, within moments, as when something holds the rotor, growing, or it had been so. */
export const currentRise: Look = (c) => {
  if (c.cause === 'overcurrent') {
    const told = c.snapshot.motorCurrent ?? lastOf(c, 'motorCurrent', 0.003);
    const usual = meanOf(c.trace, 'motorCurrent', -2, -1) ?? expectedAt(c.machine, c.snapshot.outputFrequency ?? 0)?.current ?? null;
    const { overcurrentTrip } = c.machine.rating;
    // a comparator is faster than any reading: what grew so fast that the drive's own reading never saw it is no rotor that slows down
    const ordinary = Math.max(usual === null ? 0 : usual + 0.3 * c.machine.plate.current, 1.05 * c.machine.plate.current);
    if (told !== null && told < 0.5 * overcurrentTrip && told < ordinary) return seen('at once', { last: told, level: overcurrentTrip });
  }
  const values = c.trace?.channels.motorCurrent;
  if (c.cause !== 'overcurrent' || !c.trace || !values || values.length < 100) return null;
  const last = Math.max(nth(values, values.length - 1), nth(values, values.length - 2));
  const early = meanOf(c.trace, 'motorCurrent', -2, -1) ?? 0;
  const figures = { last, early };
  if (last - early < 0.4 * c.machine.plate.current) return seen('steady', figures);
  const from = early + 0.25 * (last - early);
  let i = values.length - 1;
  while (i > 0 && nth(values, i) > from) i--;
  const took = -nth(c.trace.time, i);
  return seen(banded(took, ['at once', 0.003], ['within moments', 0.6], ['grows', Infinity]), { ...figures, seconds: took });
};

/** What the motor's torque made of the current: a rotor that is held takes both, a short takes current alone. */
export const torqueWith: Look = (c) => {
  if (c.cause !== 'overcurrent') return null;
  const t = meanOf(c.trace, 'torque', -0.006, 0) ?? c.snapshot.torque;
  const i = lastOf(c, 'motorCurrent', 0.006);
  if (t === null || i === null || i < 1.5 * c.machine.plate.current) return null;
  return seen(Math.abs(t) / 100 > 0.45 * (i / c.machine.plate.current) ? 'rises with it' : 'does not', { torque: t, current: i });
};

/** Whether the rotor turns with its field: one that is held takes current and gives little torque for it. */
export const rotor: Look = (c) => {
  if (c.cause !== 'stall' && c.cause !== 'motorOverload' && c.cause !== 'driveOverload') return null;
  const t = lastOf(c, 'torque', 0.3);
  const i = lastOf(c, 'motorCurrent', 0.3);
  const { current: stamped } = c.machine.plate;
  if (t === null || i === null || i < 1.05 * stamped) return null;
  const share = Math.abs(t) / 100 / (i / stamped);
  return seen(share < 0.55 ? 'left behind' : 'turns with it', { torque: t, current: i });
};

export const boost: Look = ({ machine: { drive, spec } }) => {
  if (!spec || drive.controlMethod === ControlMethod.sensorlessVector) return null;
  // what the stator's resistance takes at rated current, over rated volts: a motor that stands takes more than that current from a third more
  const c = spec.circuit;
  const takes = (Math.sqrt(3) * drive.motorCurrent * c.r1) / drive.motorVoltage;
  return seen(drive.startBoost > Math.max(0.06, 1.35 * takes) ? 'high' : drive.startBoost < 0.15 * takes ? 'low' : 'usual', {
    boost: 100 * drive.startBoost,
    takes: 100 * takes,
  });
};

/** Torque that a run-up in the set time takes beside the load, over what the current limit lets the motor give. */
export const acceleration: Look = ({ machine: { drive, spec, plate, kind } }) => {
  if (!spec) return null;
  const speedUp = (2 * Math.PI * drive.motorFrequency) / (spec.circuit.poles / 2) / Math.max(0.01, drive.accelerationTime);
  const need = (100 * spec.inertia * speedUp) / plate.torque + (kind === 'conveyor' || kind === 'hoist' ? 60 : 15);
  return seen(banded(need, ['long enough', 120], ['near', 200], ['too short', Infinity]), { need, time: drive.accelerationTime });
};

export const limit: Look = ({ machine: { drive, plate } }) => {
  const share = drive.currentLimit / plate.current;
  return seen(banded(share, ['low', 1.02], ['usual', 2.2], ['high', Infinity]), { limit: drive.currentLimit, stamped: plate.current });
};

export const signal: Look = (c) => {
  const percent = meanOf(c.trend, 'feedback', -1.2, 0) ?? c.snapshot.analogueInput;
  // an input is filtered: what it says once the drive stands is the signal itself
  const x = c.afterwards?.signal ?? c.snapshot.analogueInput ?? percent;
  if (x === null) return null;
  return seen(banded(x, ['none', -15], ['under', -1.5], ['there', Infinity]), { signal: x, milliamperes: 4 + 0.16 * x });
};

export const external: Look = ({ snapshot: { inputs }, machine: { external: chain } }) => {
  if (!chain || inputs === null) return null;
  const closed = ((inputs >> chain.bit) & 1) === 1;
  return seen(closed === chain.openTrips ? 'healthy' : 'trips', { input: chain.bit + 1 });
};

export const channels: Look = ({ snapshot: { inputs } }) => {
  if (inputs === null) return null;
  const open = channelsTold(inputs).filter((x) => !x).length;
  return seen(open === 0 ? 'both closed' : open === 1 ? 'one open' : 'both open');
};

export const timeOut: Look = ({ machine: { drive } }) =>
  seen(banded(drive.linkTimeout, ['short', 0.4], ['usual', Infinity]), { timeOut: drive.linkTimeout });

/** How the bus fell: at once as the supply went, little by little, or it had been low. */
export const busFall: Look = (c) => {
  if (c.cause !== 'undervoltage') return null;
  const values = c.trace?.channels.busVoltage;
  if (!c.trace || !values || values.length < 20) return null;
  const early = median(between(c.trace, 'busVoltage', -2, -1)) ?? 0;
  const level = c.machine.rating.undervoltageTrip;
  let i = values.length - 1;
  while (i > 0 && nth(values, i) < early - 0.3 * (early - level)) i--;
  const took = -nth(c.trace.time, i);
  if (early < 0.9 * restingBusOf(c.machine)) return seen('was low', { early, level });
  return seen(took < 0.15 ? 'at once' : 'slowly', { early, level, seconds: took });
};

/** The motor's figures in the drive against the plate on record. */
export const motorData: Look = ({ machine: { drive, plate } }) => {
  const off = Math.max(Math.abs(drive.motorVoltage / plate.voltage - 1), Math.abs(drive.motorFrequency / plate.frequency - 1));
  return seen(off > 0.08 ? 'differ' : 'as stamped', { voltage: drive.motorVoltage, frequency: drive.motorFrequency });
};

/** Whether the supply was there again after the trip. */
export const afterwards: Look = (c) => {
  if (!c.afterwards) return null;
  const { silent, busVoltage } = c.afterwards;
  const rest = restingBusOf(c.machine);
  if (silent > 2.5) return seen('was gone', { silent });
  if (busVoltage === null) return null;
  // a bus with any supply on it stands at the peak of that supply: far below, there is none
  return seen(banded(busVoltage / rest, ['empty', 0.55], ['still low', 0.9], ['back', Infinity]), { bus: busVoltage, rest });
};

/** Whether the link fell silent around the trip. */
export const silence: Look = ({ afterwards: after }) => (after === null ? null : seen(after.silent > 2 ? 'gap' : 'no gap', { silent: after.silent }));

/** Share of the running speed under which a stalled machine has lost it, and s before the trip in which that is looked for. */
const lostSpeed = 0.7;
const fallSought = 60;

/** How a machine that stalled lost its speed: within a second, as when its shaft is held, or over seconds, as when it is loaded beyond what it gives. */
export const fell: Look = (c) => {
  if (c.cause !== 'stall' || !c.trend) return null;
  const f = c.trend.channels.outputFrequency;
  if (!f || f.length < 5) return null;
  const { time } = c.trend;
  const asked = Math.abs(c.snapshot.reference ?? 0);
  let last = -1;
  for (let i = 0; i < f.length; i++) if (nth(time, i) > -fallSought && Math.abs(nth(f, i)) > 0.9 * asked) last = i;
  if (last < 0 || asked < 5) return seen('never', { reference: asked });
  let low = last;
  while (low < f.length - 1 && Math.abs(nth(f, low)) > lostSpeed * asked) low++;
  const seconds = nth(time, low) - nth(time, last);
  return seen(seconds > 1.6 ? 'over seconds' : 'within a second', { seconds, from: Math.abs(nth(f, last)), to: Math.abs(nth(f, f.length - 1)) });
};
