import type { BandQuantity } from './band';
import { formatFigure, type HeldBy, type LookAhead, type MachineSpec, type TripCause } from '@yare/core';
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
  overvoltage: (m: MachineSpec) => `the DC bus reaches its trip level of ${v(m.rating.overvoltageTrip)}`,
  undervoltage: (m: MachineSpec) => `the DC bus falls to ${v(m.rating.undervoltageTrip)}`,
  overcurrent: (m: MachineSpec) => `the current reaches the hardware level of ${a(m.rating.overcurrentTrip)}`,
  motorOverload: () => 'the motor overload trips',
  driveOverload: () => 'the drive overload trips',
  stall: () => 'the motor stands at the current limit',
  brakeResistor: () => 'the brake resistor is too hot',
  overspeed: () => 'the load drives the motor faster than it may turn',
  driveTemperature: () => 'the drive is too hot',
  lowLoad: () => 'the underload protection trips',
  noFlow: () => 'the no-flow protection trips',
  settingsConflict: () => 'two settings contradict each other',
};

/** What trips, as a clause with its level. */
export const tripClause = (spec: MachineSpec, cause: TripCause): string => tripText[cause]?.(spec) ?? 'a protection trips';

const cap = (text: string): string => text.replace(/^./, (c) => c.toUpperCase());

/** What to do about a start that trips, where more time does not help. */
const startWayOut: Partial<Record<TripCause, string>> = {
  lowLoad: 'Set its level below what the machine draws, or longer to act.',
  noFlow: 'Let it wait until there is flow.',
  settingsConflict: 'See the settings sheet.',
};

/** What holds a ramp back, with its level. */
const holder: Record<HeldBy, (m: MachineSpec) => string> = {
  'current limit': (m) => `the current limit of ${a(m.drive.currentLimit)}`,
  'torque limit': (m) => `the torque limit of ${formatFigure(100 * m.drive.torqueLimit, 0)} %`,
  'high bus': () => 'the high DC bus',
};
const wayOut: Record<HeldBy, string> = {
  'current limit': 'Raise the limit within what motor and drive carry',
  'torque limit': 'Raise the torque limit within what motor and machine carry',
  'high bus': 'Allow more time',
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
    return share > unknownFrom ? `about ${text(value)}` : `${text(value)}, at worst ${text((1 + share) * value)}`;
  };
  /** What is said once of figures nobody knows well enough. */
  const unknown = (names: Partial<Record<BandQuantity, string>>): string => {
    const of = Object.entries(names).flatMap(([quantity, name]) => ((band(quantity as BandQuantity) ?? 0) > unknownFrom ? [name] : []));
    return of.length === 0 ? '' : ` The ${of.join(' and the ')} ${of.length === 1 ? 'is' : 'are'} not known well enough: fit the model to a run.`;
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
      ...(r.trip.cause === 'overvoltage' && !driving && { offer: 'Use the shortest safe' }),
      sentence: `Stopping in ${s(down)}, ${tripClause(spec, r.trip.cause)} after ${s(r.trip.time - r.stopAt)}: the drive switches off and ${driving?.id === 'overhauling' ? 'the load drives the motor on: only a brake holds it then' : 'the motor coasts'}.`,
    });
  } else if (r.trip && !(driving?.severity === 'error' && (r.trip.cause === 'overvoltage' || r.trip.cause === 'brakeResistor'))) {
    out.push({
      id: 'start trips',
      row: 'accelerationTime',
      severity: 'error',
      sentence: `Starting in ${s(up)}, ${tripClause(spec, r.trip.cause)} after ${s(r.trip.time)}. ${startWayOut[r.trip.cause] ?? 'Allow more time or find what loads the motor.'}`,
    });
  }
  if (!r.trip && r.startTime === null) {
    const by = r.heldStarting;
    out.push({
      id: 'never at speed',
      row: 'accelerationTime',
      severity: 'error',
      sentence: `It does not reach ${formatFigure(top, 1)} Hz within the look-ahead${by ? `: ${holder[by](spec)} holds it back. ${wayOut[by]}, or lower the maximum frequency.` : ': the ramp is longer than that.'}`,
    });
  }
  if (r.startTime !== null && r.heldStarting && r.startTime > up * (top / spec.drive.motorFrequency) * 1.05) {
    out.push({
      id: 'start held',
      row: 'accelerationTime',
      severity: 'warning',
      sentence: `${cap(holder[r.heldStarting](spec))} holds the ramp: it takes ${s(r.startTime)} to reach ${formatFigure(top, 1)} Hz, not ${s(up * (top / spec.drive.motorFrequency))}.`,
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
      sentence: `Started cold the run-up takes ${percent(cold[of])} of what ${of === 'drive' ? 'the drive’s own overload' : 'the motor overload'} carries; started again warm from running it comes to ${percent(warm[of])}${warm[of] >= 1 ? ': it trips' : ', which is close'}. A longer ramp takes less current.`,
    });
  const neverStands = !r.trip && r.startTime !== null && r.stopTime === null;
  if (neverStands && r.heldStopping) {
    out.push({
      id: 'never stands',
      row: 'decelerationTime',
      severity: 'warning',
      sentence: `Ramp hold on high DC bus acts almost all the way: set to ${s(down)}, it still turns when the look-ahead ends. A longer time stops it sooner.`,
      offer: 'Use the shortest ramp without ramp hold',
    });
  }
  if (!r.trip && r.heldStopping && r.stopTime !== null) {
    out.push({
      id: 'stop held',
      row: 'decelerationTime',
      severity: 'warning',
      sentence: `Ramp hold on high DC bus lengthens the stop: it takes ${s(r.stopTime)}, not ${s(down * (top / spec.drive.motorFrequency))}. Nothing trips: the DC bus is held at ${v(r.peakBus)} and trips at ${v(spec.rating.overvoltageTrip)}. A ramp without ramp hold has to be longer: the motor gives back the most at full speed.`,
      offer: 'Use the shortest ramp without ramp hold',
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
        ...(close && { offer: 'Use the shortest safe' }),
        sentence: `The DC bus peaks at ${regulated ? v(r.peakBus) : within(r.peakBus, 'peak bus', v)}; it trips at ${v(spec.rating.overvoltageTrip)}. ${r.stopTime === null ? 'It does not come to rest within the look-ahead.' : `The motor stops in ${within(r.stopTime, 'stop time', s)}.`}${unknown({ ...(!regulated && { 'peak bus': 'peak' }), ...(r.stopTime !== null && { 'stop time': 'stop' }) })}`,
      });
    out.push({
      id: 'current peak',
      row: 'currentLimit',
      severity:
        r.peakCurrent > spec.drive.currentLimit * least.limitShare || most(r.peakCurrent, 'peak current') >= spec.drive.currentLimit
          ? 'warning'
          : 'good',
      sentence: `The motor draws at most ${within(r.peakCurrent, 'peak current', a)}; the limit is ${a(spec.drive.currentLimit)}.`,
    });
  }
  return out;
}
