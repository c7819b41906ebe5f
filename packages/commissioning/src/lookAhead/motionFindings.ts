import type { BandQuantity } from './band';
import { formatFigure, type LookAhead, type MachineSpec, type TripCause } from '@yare/core';

/** A sentence about the look-ahead, under the row it belongs to. */
export interface MotionFinding {
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
  overvoltage: (m: MachineSpec) => `the DC bus reaches its trip level of ${v(m.rating.overvoltageTrip)}`,
  undervoltage: (m: MachineSpec) => `the DC bus falls to ${v(m.rating.undervoltageTrip)}`,
  overcurrent: (m: MachineSpec) => `the current reaches the hardware level of ${a(m.rating.overcurrentTrip)}`,
  motorOverload: () => 'the motor overload trips',
  driveOverload: () => 'the drive overload trips',
  stall: () => 'the motor stands at the current limit',
  brakeResistor: () => 'the brake resistor is too hot',
};

/** What trips, as a clause with its level. */
export const tripClause = (spec: MachineSpec, cause: TripCause): string => tripText[cause]?.(spec) ?? 'the drive trips';

/** What the look-ahead of a draft says, as sentences with margins. */
export function motionFindings(spec: MachineSpec, ahead: LookAhead, band: (quantity: BandQuantity) => number | null = () => null): MotionFinding[] {
  const within = (value: number, quantity: BandQuantity, text: (x: number) => string): string => {
    const share = band(quantity);
    // a band smaller than the figure's last digit says nothing
    return share === null || share < 0.002 ? text(value) : `${text(value)} ± ${text(share * value)}`;
  };
  const { summary: r } = ahead;
  const { accelerationTime: up, decelerationTime: down, maximumFrequency: top } = spec.drive;
  const out: MotionFinding[] = [];
  const stopping = r.trip !== null && r.startTime !== null && r.trip.time > r.stopAt;
  if (r.trip && stopping) {
    out.push({
      row: 'decelerationTime',
      severity: 'error',
      ...(r.trip.cause === 'overvoltage' && { offer: 'Use the shortest safe' }),
      sentence: `Stopping in ${s(down)}, ${tripClause(spec, r.trip.cause)} after ${s(r.trip.time - r.stopAt)}: the drive trips and the motor coasts.`,
    });
  } else if (r.trip) {
    out.push({
      row: 'accelerationTime',
      severity: 'error',
      sentence: `Starting in ${s(up)}, ${tripClause(spec, r.trip.cause)} after ${s(r.trip.time)}: the drive trips. Allow more time or find what loads the motor.`,
    });
  }
  if (!r.trip && r.startTime === null) {
    out.push({
      row: 'accelerationTime',
      severity: 'error',
      sentence: `It never reaches ${formatFigure(top, 1)} Hz: the current limit of ${a(spec.drive.currentLimit)} holds it back. Raise the limit within what motor and drive carry, or lower the maximum frequency.`,
    });
  }
  if (r.startTime !== null && r.heldStarting && r.startTime > up * (top / spec.drive.motorFrequency) * 1.05) {
    out.push({
      row: 'accelerationTime',
      severity: 'warning',
      sentence: `The current limit holds the ramp: it takes ${s(r.startTime)} to reach ${formatFigure(top, 1)} Hz, not ${s(up * (top / spec.drive.motorFrequency))}.`,
    });
  }
  const neverStands = !r.trip && r.startTime !== null && r.stopTime === null;
  if (neverStands && r.heldStopping) {
    out.push({
      row: 'decelerationTime',
      severity: 'warning',
      sentence: `The ramp waits for the high DC bus almost all the way: set to ${s(down)}, it still turns when the look-ahead ends. A longer time stops it sooner.`,
      offer: 'Use a ramp that never waits',
    });
  }
  if (!r.trip && r.heldStopping && r.stopTime !== null) {
    out.push({
      row: 'decelerationTime',
      severity: 'warning',
      sentence: `The ramp waits for the high DC bus: the stop takes ${s(r.stopTime)}, not ${s(down * (top / spec.drive.motorFrequency))}. Nothing trips. A ramp that never waits is longer: it gives back the most at full speed.`,
      offer: 'Use a ramp that never waits',
    });
  }
  if (!r.trip && r.startTime !== null) {
    const room = spec.rating.overvoltageTrip - r.peakBus;
    out.push({
      row: 'decelerationTime',
      severity: room < 25 || neverStands ? 'warning' : 'good',
      ...(room < 25 && { offer: 'Use the shortest safe' }),
      sentence: `The DC bus peaks at ${within(r.peakBus, 'peak bus', v)}; it trips at ${v(spec.rating.overvoltageTrip)}. ${r.stopTime === null ? 'It does not come to rest within the look-ahead.' : `The shaft stands after ${within(r.stopTime, 'stop time', s)}.`}`,
    });
    out.push({
      row: 'currentLimit',
      severity: r.peakCurrent > spec.drive.currentLimit * 0.97 ? 'warning' : 'good',
      sentence: `The motor draws at most ${within(r.peakCurrent, 'peak current', a)}; the limit is ${a(spec.drive.currentLimit)}.`,
    });
  }
  return out;
}
