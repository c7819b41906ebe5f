import { AnalogueSignal, type Driven, type ProcessSensor } from '@yare/core';

/** A process value said every way somebody may read it: at the terminal, in % of the range, in the sensor's own unit. */
export interface Reading {
  /** mA or V at the drive's terminal */
  signal: number;
  signalUnit: 'mA' | 'V';
  percent: number;
  figure: number;
  unit: string;
  decimals: number;
}

/** Signal at 0 and at 100 % of the range, by how the input is wired. */
const ends: Record<AnalogueSignal, { low: number; high: number; unit: 'mA' | 'V' }> = {
  [AnalogueSignal.liveZero]: { low: 4, high: 20, unit: 'mA' },
  [AnalogueSignal.zeroTo20]: { low: 0, high: 20, unit: 'mA' },
  [AnalogueSignal.volts]: { low: 0, high: 10, unit: 'V' },
  [AnalogueSignal.bothWays]: { low: 0, high: 10, unit: 'V' },
};
const isSignal = (x: number): x is AnalogueSignal => x in ends;
export const signalEnds = (signal: number): { low: number; high: number; unit: 'mA' | 'V' } =>
  ends[isSignal(signal) ? signal : AnalogueSignal.liveZero];

/** The process sensor of a machine; null where none is recorded. */
export const sensorOf = (driven: Driven): ProcessSensor | null => ('sensor' in driven ? driven.sensor : null);

/** As many decimals as a thousandth of the range needs. */
export const sensorDecimals = ({ low, high }: Pick<ProcessSensor, 'low' | 'high'>): number =>
  Math.max(0, Math.min(3, Math.ceil(2 - Math.log10(Math.max(1e-9, Math.abs(high - low))))));

export function readingOf(sensor: ProcessSensor, signal: number, percent: number): Reading {
  const { low, high, unit } = signalEnds(signal);
  return {
    ...{ percent, unit: sensor.unit, signalUnit: unit, decimals: sensorDecimals(sensor) },
    signal: low + (percent / 100) * (high - low),
    figure: sensor.low + (percent / 100) * (sensor.high - sensor.low),
  };
}

/** % of the range for a figure in the sensor's unit, and for a signal at the terminal. */
export const percentOf = ({ low, high }: Pick<ProcessSensor, 'low' | 'high'>, figure: number): number => (100 * (figure - low)) / (high - low);
export function percentOfSignal(signal: number, value: number): number {
  const { low, high } = signalEnds(signal);
  return (100 * (value - low)) / (high - low);
}
