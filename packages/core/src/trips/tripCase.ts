import type { ControlSettings } from '../controls';
import type { DriveParameters, DriveRating, Supply, TripCause } from '../drive';
import type { DrivenKind } from '../estimate';
import type { MachineSpec } from '../machine';

/** Figures of one moment as a drive tells them; null for what nobody knows. Hz, A, V, % of rated torque, °C, % of a trip point, s, h. */
export interface Snapshot {
  /** status word after IEC 61800-7-201 */
  status: number | null;
  hours: number | null;
  since: number | null;
  outputFrequency: number | null;
  reference: number | null;
  motorCurrent: number | null;
  busVoltage: number | null;
  outputVoltage: number | null;
  torque: number | null;
  driveTemperature: number | null;
  motorHeat: number | null;
  driveHeat: number | null;
  /** of the first analogue input's range */
  analogueInput: number | null;
  inputs: number | null;
}

export const noSnapshot = (): Snapshot => ({
  ...{ status: null, hours: null, since: null, outputFrequency: null, reference: null, motorCurrent: null, busVoltage: null, outputVoltage: null },
  ...{ torque: null, driveTemperature: null, motorHeat: null, driveHeat: null, analogueInput: null, inputs: null },
});

/** Channels that tell of a trip. */
export const tripChannels = [
  'outputFrequency',
  'motorCurrent',
  'busVoltage',
  'torque',
  'reference',
  'feedback',
  'motorHeat',
  'driveTemperature',
] as const;
export type TripChannel = (typeof tripChannels)[number];

/** Samples before a trip. `time` in s, ascending, 0 at the trip; every channel as long as it. */
export interface Before {
  time: ArrayLike<number>;
  channels: Partial<Record<TripChannel, ArrayLike<number>>>;
}

/** What is known of the machine that tripped: settings as they were in the drive, plate, supply, and the model made of them. */
export interface TrippedMachine {
  kind: DrivenKind;
  drive: DriveParameters;
  controls: ControlSettings;
  rating: DriveRating;
  /** stamped: A, Hz, V, N·m */
  plate: { current: number; frequency: number; voltage: number; torque: number };
  supply: Pick<Supply, 'voltage' | 'rectifier'>;
  /** bits of the input word that stand for the external trip chain, and whether an open contact trips; null without one */
  external: { bit: number; openTrips: boolean } | null;
  /** null where the plate makes no motor */
  spec: MachineSpec | null;
}

/** One trip with all that is at hand to explain it. */
export interface TripCase {
  /** class; null when nobody has read the display */
  cause: TripCause | null;
  snapshot: Snapshot;
  /** the drive's own last moments, at full rate */
  trace: Before | null;
  /** what the link told before, slower and longer */
  trend: Before | null;
  /** how it went on over the link: s without an answer around the trip, the bus in V and the analogue input in % once it answered again; null where nobody listened */
  afterwards: { silent: number; busVoltage: number | null; signal: number | null } | null;
  machine: TrippedMachine;
  /** trips of the same class within the hours before, as the drive counts hours; null where nobody knows */
  repeats: number | null;
  /** other machines that tripped in the same minute; null where nobody knows */
  others: number | null;
  /** what people saw, measured, or remember: outcome of an observation or a measurement, by its id */
  answers: Readonly<Record<string, string>>;
}
