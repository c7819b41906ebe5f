import type { RecordingData, TripSnapshot } from '@yare/contract';
import { indexAt } from '@yare/core';

/** Which channel of a recording tells which figure of a trip. */
const told: ReadonlyArray<readonly [channel: string, figure: keyof TripSnapshot]> = [
  ['outputFrequency', 'outputFrequency'],
  ['reference', 'reference'],
  ['motorCurrent', 'motorCurrent'],
  ['busVoltage', 'busVoltage'],
  ['outputVoltage', 'outputVoltage'],
  ['torque', 'torque'],
  ['motorHeat', 'motorHeat'],
  ['driveTemperature', 'driveTemperature'],
  ['feedback', 'analogueInput'],
];

/** Figures of the moment of a trip as a recording shows them: its last sample not after that second. Channels of other units tell nothing. */
export function snapshotAt({ time, data, meta }: RecordingData, at: number): Partial<TripSnapshot> {
  const i = Math.min(time.length, indexAt(time, at + 1e-6)) - 1;
  const units: Record<string, string> = { feedback: '%', torque: '%', motorHeat: '%' };
  return Object.fromEntries(
    told.flatMap(([key, figure]) => {
      const value = data[key]?.[i];
      const wanted = units[key];
      const fits = wanted === undefined || meta.channels.some((c) => c.key === key && c.unit === wanted);
      return fits && value !== undefined && Number.isFinite(value) ? [[figure, value]] : [];
    }),
  );
}
