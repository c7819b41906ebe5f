import type { BandQuantity } from './band';
import { formatFigure, type HeldBy, type LookAhead, type MachineSpec, type TripCause } from '@yare/core';
import { say } from '@yare/words/lookAhead';
import { drivingLoad, room } from './drivingLoad';

/** What a look-ahead found, by code. */
export type MotionFindingId =
  | 'stop trips'
  | 'start trips'
  | 'never at speed'
  | 'start held'
  | 'start heat'
  | 'overhauling'
  | 'lowering'
  | 'never stands'
  | 'stop held'
  | 'bus peak'
  | 'current peak';

/** A sentence about the look-ahead, under the row it belongs to. */
export interface MotionFinding {
  id: MotionFindingId;
  row: 'accelerationTime' | 'decelerationTime' | 'currentLimit';
  severity: 'error' | 'warning' | 'good';
  sentence: string;
  /** the way out, in words: the shortest deceleration that neither trips nor waits for the bus */
  offer?: string;
}

const s = (x: number) => `${formatFigure(x, x < 10 ? 1 : 0)} s`;
const v = (x: number) => `${formatFigure(x, 0)} V`;
const a = (x: number) => `${formatFigure(x, 1)} A`;

const tripText: Partial<Record<TripCause, (m: MachineSpec) => string>> = {
  overvoltage: (m: MachineSpec) => say.theDcBusReachesIts({ v: v(m.rating.overvoltageTrip) }),
  undervoltage: (m: MachineSpec) => say.theDcBusFallsTo({ v: v(m.rating.undervoltageTrip) }),
  overcurrent: (m: MachineSpec) => say.theCurrentReachesTheHardware({ a: a(m.rating.overcurrentTrip) }),
  motorOverload: () => say.theMotorOverloadTrips,
  driveOverload: () => say.theDriveOverloadTrips,
  stall: () => say.theMotorStandsAtThe,
  brakeResistor: () => say.theBrakeResistorIsToo,
  overspeed: () => say.theLoadDrivesTheMotor2,
  driveTemperature: () => say.theDriveIsTooHot,
  lowLoad: () => say.theUnderloadProtectionTrips,
  noFlow: () => say.theNoFlowProtectionTrips,
  settingsConflict: () => say.twoSettingsContradictEachOther,
};

/** What trips, as a clause with its level. */
export const tripClause = (spec: MachineSpec, cause: TripCause): string => tripText[cause]?.(spec) ?? say.aProtectionTrips;

const cap = (text: string): string => text.replace(/^./, (c) => c.toUpperCase());

/** What to do about a start that trips, where more time does not help. */
const startWayOut: Partial<Record<TripCause, string>> = {
  lowLoad: say.setItsLevelBelowWhat,
  noFlow: say.letItWaitUntilThere,
  settingsConflict: say.seeTheSettingsSheet,
};

/** What holds a ramp back, with its level. */
const holder: Record<HeldBy, (m: MachineSpec) => string> = {
  'current limit': (m) => say.theCurrentLimitOf({ a: a(m.drive.currentLimit) }),
  'torque limit': (m) => say.theTorqueLimitOf({ torqueLimit: 100 * m.drive.torqueLimit }),
  'high bus': () => say.theHighDcBus,
};
const wayOut: Record<HeldBy, string> = {
  'current limit': say.raiseTheLimitWithinWhat,
  'torque limit': say.raiseTheTorqueLimitWithin,
  'high bus': say.allowMoreTime,
};

/** Share of a figure past which its band makes it no figure. */
const unknownFrom = 1 / 3;

/** Share of the current limit above which a peak is close to it, and share of an overload that a run-up may take. */
const least = { limitShare: 0.97, startHeat: 0.9 };

/** What the look-ahead of a draft says, as sentences with margins. */
export function motionFindings(spec: MachineSpec, ahead: LookAhead, band: (quantity: BandQuantity) => number | null = () => null): MotionFinding[] {
  const within = (value: number, quantity: BandQuantity, text: (x: number) => string): string => {
    const share = band(quantity);
    // a band smaller than the figure's last digit says nothing; one past a third of the figure says that nobody knows it
    if (share === null || share < 0.002) return text(value);
    return share > unknownFrom ? say.about({ text: text(value) }) : say.atWorst({ text: text(value), text2: text((1 + share) * value) });
  };
  /** What is said once of figures nobody knows well enough. */
  const unknown = (names: Partial<Record<BandQuantity, string>>): string => {
    const of = Object.entries(names).flatMap(([quantity, name]) => ((band(quantity as BandQuantity) ?? 0) > unknownFrom ? [name] : []));
    return of.length === 0 ? '' : say.theIsNotKnownWell({ ofText: of.join(' and the '), ofText2: of.length });
  };
  /** The far end of the band, where it may lie just as well. */
  const most = (value: number, quantity: BandQuantity): number => value * (1 + (band(quantity) ?? 0));
  const { summary: r } = ahead;
  const { accelerationTime: up, decelerationTime: down, maximumFrequency: top } = spec.drive;
  const driving = drivingLoad(spec, top);
  const out: MotionFinding[] = driving ? [driving] : [];
  const stopping = r.trip !== null && r.startTime !== null && r.trip.time > r.stopAt;
  if (r.trip && stopping) {
    out.push({
      id: 'stop trips',
      row: 'decelerationTime',
      severity: 'error',
      ...(r.trip.cause === 'overvoltage' && !driving && { offer: say.useTheShortestSafe }),
      sentence: say.stoppingInAfterTheDrive({
        s: s(down),
        tripClause: tripClause(spec, r.trip.cause),
        s2: s(r.trip.time - r.stopAt),
        id: driving?.id,
      }),
    });
  } else if (r.trip && !(driving?.severity === 'error' && (r.trip.cause === 'overvoltage' || r.trip.cause === 'brakeResistor'))) {
    out.push({
      id: 'start trips',
      row: 'accelerationTime',
      severity: 'error',
      sentence: say.startingInAfter({
        s: s(up),
        tripClause: tripClause(spec, r.trip.cause),
        s2: s(r.trip.time),
        startWayOut: startWayOut[r.trip.cause] ?? 'Allow more time or find what loads the motor.',
      }),
    });
  }
  if (!r.trip && r.startTime === null) {
    const by = r.heldStarting;
    out.push({
      id: 'never at speed',
      row: 'accelerationTime',
      severity: 'error',
      sentence: by ? say.itIsHeldBackFrom({ top, holder: holder[by](spec), wayOut: wayOut[by] }) : say.itDoesNotReachHz({ top }),
    });
  }
  if (r.startTime !== null && r.heldStarting && r.startTime > up * (top / spec.drive.motorFrequency) * 1.05) {
    out.push({
      id: 'start held',
      row: 'accelerationTime',
      severity: 'warning',
      sentence: say.holdsTheRampItTakes({
        cap: cap(holder[r.heldStarting](spec)),
        s: s(r.startTime),
        top,
        s2: s(up * (top / spec.drive.motorFrequency)),
      }),
    });
  }
  const { cold, warm } = r.startHeat;
  const of = warm.drive > warm.motor ? 'drive' : 'motor';
  const percent = (x: number) => `${formatFigure(100 * x, 0)} %`;
  if (!r.trip && r.startTime !== null && warm[of] > least.startHeat)
    out.push({
      id: 'start heat',
      row: 'accelerationTime',
      severity: 'warning',
      sentence: say.startedColdTheRunUp({ percent: percent(cold[of]), ofText: of, percent2: percent(warm[of]), warm: warm[of] >= 1 }),
    });
  const neverStands = !r.trip && r.startTime !== null && r.stopTime === null;
  if (neverStands && r.heldStopping) {
    out.push({
      id: 'never stands',
      row: 'decelerationTime',
      severity: 'warning',
      sentence: say.rampHoldOnHighDc({ s: s(down) }),
      offer: say.useTheShortestRampWithout,
    });
  }
  if (!r.trip && r.heldStopping && r.stopTime !== null) {
    out.push({
      id: 'stop held',
      row: 'decelerationTime',
      severity: 'warning',
      sentence: say.rampHoldOnHighDc2({
        s: s(r.stopTime),
        s2: s(down * (top / spec.drive.motorFrequency)),
        v: v(r.peakBus),
        v2: v(spec.rating.overvoltageTrip),
      }),
      offer: say.useTheShortestRampWithout,
    });
  }
  if (!r.trip && r.startTime !== null) {
    const trip = spec.rating.overvoltageTrip;
    // while the ramp waits for the bus the peak is the regulator's: what the model is off by changes the time, not the volts
    const regulated = r.heldStopping === 'high bus';
    const close = trip - r.peakBus < room || (!regulated && most(r.peakBus, 'peak bus') >= trip);
    if (!regulated || r.stopTime === null)
      out.push({
        id: 'bus peak',
        row: 'decelerationTime',
        severity: close || neverStands ? 'warning' : 'good',
        ...(close && { offer: say.useTheShortestSafe }),
        sentence: say.theDcBusPeaksAt({
          peak: regulated ? v(r.peakBus) : within(r.peakBus, 'peak bus', v),
          trips: v(spec.rating.overvoltageTrip),
          stops: r.stopTime === null ? say.itDoesNotComeToRest : say.theMotorStopsIn({ time: within(r.stopTime, 'stop time', s) }),
          unknown: unknown({ ...(!regulated && { 'peak bus': 'peak' }), ...(r.stopTime !== null && { 'stop time': 'stop' }) }),
        }),
      });
    out.push({
      id: 'current peak',
      row: 'currentLimit',
      severity:
        r.peakCurrent > spec.drive.currentLimit * least.limitShare || most(r.peakCurrent, 'peak current') >= spec.drive.currentLimit
          ? 'warning'
          : 'good',
      sentence: say.theMotorDrawsAtMost({ within: within(r.peakCurrent, 'peak current', a), a: a(spec.drive.currentLimit) }),
    });
  }
  return out;
}
