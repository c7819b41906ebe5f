import { leastStop } from '@yare/commissioning';
import {
  busAtRest,
  lookAheadRun,
  ratedTorque,
  shortestStop,
  stampedPower,
  stopFrom,
  StopMode,
  Switch,
  timeToTrip,
  type LookAheadEvent,
  type MachineSpec,
  type RunPlan,
  type StampedPlate,
  nth,
} from '@yare/core';

/** What is foreseen and then judged, each by itself. */
export const quantities = [
  'peakBusRise',
  'shortestStop',
  'coastTime',
  'peakCurrent',
  'settledCurrent',
  'slip',
  'settledPressure',
  'unseenPressure',
  'timeToTrip',
  'resistorEnergy',
] as const;
export type Quantity = (typeof quantities)[number];
export type Figures = Partial<Record<Quantity, number>>;

/** What is asked of one machine. */
export interface Questions {
  plan: RunPlan;
  /** s of the stop that a resistor makes possible */
  resistorStop: number;
  /** N·m that later hold the shaft back, and s one waits for the trip */
  heldBack: { torque: number; longest: number };
  /** V the shortest stop stays away from the trip level */
  margin: number;
}

/** What the resistor of that question is: a little more than the least the drive allows, on a chopper well below the trip. */
export const resistorOn = (spec: MachineSpec, time: number) => ({
  decelerationTime: time,
  secondDecelerationTime: time,
  stopMode: StopMode.ramp,
  chopper: Switch.on,
  brakeResistance: 1.3 * spec.rating.leastResistance,
  resistorPower: 1e9,
  chopperLevel: spec.rating.overvoltageTrip - 45,
});

/** The answers of the application's model. */
export function foresee(
  spec: MachineSpec,
  q: Questions,
): { figures: Figures; trips: boolean; peakBus: number; peakCurrent: number; stopTime: number | null; settledSpeed: number } {
  const { series, summary: r } = lookAheadRun(spec, q.plan);
  const at = Math.max(
    0,
    series.time.findLastIndex((t) => t < r.stopAt),
  );
  const synchronous = (120 * Math.abs(series.frequency[at] ?? 0)) / spec.circuit.poles;
  const { reference } = q.plan;
  const coast = lookAheadRun(
    { ...spec, drive: { ...spec.drive, stopMode: StopMode.coast, busRampHold: 0 } },
    { ...q.plan, runTime: 3, longest: 900 },
  );
  const quarter = coast.series.time.findIndex(
    (t, i) => t > coast.summary.stopAt && Math.abs(coast.series.speed[i] ?? 0) <= Math.abs(coast.summary.settledSpeed) / 4,
  );
  const heavy: LookAheadEvent[] = [{ after: q.plan.runTime, extraTorque: q.heldBack.torque }];
  const held = lookAheadRun(spec, {
    ...q.plan,
    runTime: q.plan.runTime + q.heldBack.longest,
    longest: q.plan.longest + q.heldBack.longest,
    events: heavy,
    stop: false,
  });
  const heldTrip =
    held.summary.trip && held.summary.startTime !== null ? held.summary.trip.time - held.summary.startTime - q.plan.runTime : q.heldBack.longest;
  const stop = stopFrom(
    { ...spec, drive: { ...spec.drive, ...resistorOn(spec, q.resistorStop), busRampHold: 0, dcTime: 0, holdingBrake: 0 } },
    reference,
    1.2 * q.resistorStop + 3,
  );
  return {
    figures: {
      peakBusRise: r.peakBus - busAtRest(spec.supply),
      shortestStop: Math.max(leastStop, shortestStop(spec, reference, undefined, q.margin)),
      coastTime: quarter < 0 ? 900 : (coast.series.time[quarter] ?? 0) - coast.summary.stopAt,
      peakCurrent: series.current.reduce((most, amperes, i) => (nth(series.time, i) < r.stopAt ? Math.max(most, amperes) : most), 0),
      settledCurrent: series.current[at] ?? 0,
      slip: 1 - Math.abs(r.settledSpeed) / Math.max(1, synchronous),
      settledPressure: r.settledPressure,
      unseenPressure: r.settledPressure,
      timeToTrip: heldTrip,
      resistorEnergy: stop.energy,
    },
    trips: r.trip !== null,
    peakBus: r.peakBus,
    peakCurrent: r.peakCurrent,
    stopTime: r.stopTime,
    settledSpeed: r.settledSpeed,
  };
}

/** Share of its rated torque a motor brakes with by its own losses (common practice), and what a load is taken to ask of its motor. */
const ownBraking = 0.2;
const usualLoad = 0.85;
/** Share of the power given back that motor and drive lose on the way (common practice). */
const lostOnTheWay = 0.2;

/** The answers of a handbook: plate, energy and the ramps as set, without any model. */
export function naive(spec: MachineSpec, plate: StampedPlate, q: Questions, ratedPressure: number): { figures: Figures; trips: boolean } {
  const torque = ratedTorque(stampedPower(plate), plate.speed);
  const share = q.plan.reference / plate.frequency;
  const speed = ((plate.speed * Math.PI) / 30) * share;
  const time = spec.drive.decelerationTime * share;
  const giving = (spec.inertia * speed * speed) / time;
  const trips = giving * (1 - lostOnTheWay) > usualLoad * torque * speed * share * share;
  return {
    figures: {
      peakBusRise: trips ? spec.rating.overvoltageTrip - busAtRest(spec.supply) : 0,
      shortestStop: Math.max(leastStop, (spec.inertia * speed) / (ownBraking * torque) / share),
      coastTime: (spec.inertia * 0.75 * speed) / (usualLoad * torque),
      peakCurrent: plate.current,
      settledCurrent: plate.current,
      slip: (1 - (plate.speed * spec.circuit.poles) / (120 * plate.frequency)) / share,
      settledPressure: ratedPressure * share * share,
      unseenPressure: ratedPressure * share * share,
      timeToTrip: Math.min(q.heldBack.longest, timeToTrip(usualLoad + q.heldBack.torque / torque, spec.drive.overloadClass)),
      resistorEnergy: (spec.inertia * speed * speed) / 2,
    },
    trips,
  };
}
