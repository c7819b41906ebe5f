import type { LiveSample } from '@yare/contract';
import type { RecordingChannel } from '@yare/core';
import { say } from '@yare/words/recording';

/** Measured channels over time with their marks, wherever they come from. */
export interface Recorded {
  title: string;
  /** ms since 1970; null where nobody knows */
  startedAt: number | null;
  channels: readonly RecordingChannel[];
  /** s from the first sample, ascending */
  time: ArrayLike<number>;
  /** a row for each channel, each as long as `time`; NaN where nothing was measured */
  values: ReadonlyArray<ArrayLike<number>>;
  /** in s from the first sample */
  marks: ReadonlyArray<{ time: number; label: string }>;
}

/** A figure a drive tells over its link. */
export type LinkChannel = {
  [K in keyof LiveSample]: LiveSample[K] extends number ? K : never;
}[keyof LiveSample] &
  string;

/** Everything a link offers to a recorder, in the order it is shown. */
export const linkChannels = [
  { key: 'outputFrequency', name: say.output, unit: say.hz, decimals: 2 },
  { key: 'motorCurrent', name: say.motor, unit: 'A', decimals: 1 },
  { key: 'busVoltage', name: say.dcBus, unit: 'V', decimals: 0 },
  { key: 'torque', name: say.torque, unit: '%', decimals: 1 },
  { key: 'power', name: say.inputPower, unit: 'kW', decimals: 2 },
  { key: 'motorHeat', name: say.motorHeat, unit: '%', decimals: 1 },
  { key: 'feedback', name: say.feedback, unit: '%', decimals: 1 },
  { key: 'setpoint', name: say.setpoint, unit: '%', decimals: 1 },
  { key: 'reference', name: say.reference, unit: say.hz, decimals: 2 },
  { key: 'motorSpeed', name: say.motorSpeed, unit: 'rpm', decimals: 0 },
  { key: 'driveTemperature', name: say.driveTemperature, unit: '°C', decimals: 0 },
] as const satisfies ReadonlyArray<RecordingChannel & { key: LinkChannel }>;
export type ChannelKey = (typeof linkChannels)[number]['key'];

/** What a run records of them. */
export const runChannels = linkChannels.slice(0, 7);

/** The channel of a link by its key. */
export const linkChannel = (key: string): (typeof linkChannels)[number] | undefined => linkChannels.find((c) => c.key === key);
