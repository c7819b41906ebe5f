import type { Random } from '../random';

/** A transmitter of 4 to 20 mA, from its process to the drive's terminal. */
export interface Sensor {
  /** process value in SI at 4 and at 20 mA */
  low: number;
  high: number;
  /** s, first order */
  lag: number;
  /** s */
  deadTime: number;
  /** mA, standard deviation */
  noise: number;
  /** mA, least step; 0 none */
  step: number;
  /** mA added: drift */
  offset: number;
}

export interface SensorState {
  /** SI, after the lag */
  lagged: number;
  /** past lagged values, oldest at `at` */
  past: Float64Array;
  at: number;
  /** mA at the terminal */
  current: number;
}

/** Samples are taken this often, s. */
export const sensorStep = 0.01;

export function restingSensor(s: Sensor, value: number): SensorState {
  const past = new Float64Array(Math.max(1, Math.round(s.deadTime / sensorStep))).fill(value);
  return { lagged: value, past, at: 0, current: milliamperes(s, value) };
}

/** mA for a process value; held to 3.8 and 20.5 mA, where a sound transmitter stays (NAMUR NE 43). */
export const milliamperes = (s: Sensor, value: number): number => Math.min(20.5, Math.max(3.8, 4 + (16 * (value - s.low)) / (s.high - s.low)));

/** Process value for a current in mA. */
export const processValue = (s: Sensor, current: number): number => s.low + ((current - 4) / 16) * (s.high - s.low);

/** One sample of {@link sensorStep}; a broken wire gives 0 mA. */
export function stepSensor(state: SensorState, s: Sensor, value: number, noise: Random, broken = false): void {
  state.lagged += (value - state.lagged) * (1 - Math.exp(-sensorStep / Math.max(sensorStep / 1000, s.lag)));
  const seen = state.past[state.at] ?? NaN;
  state.past[state.at] = state.lagged;
  state.at = (state.at + 1) % state.past.length;
  if (broken) {
    state.current = 0;
    return;
  }
  const clean = milliamperes(s, seen) + s.offset + (s.noise > 0 ? s.noise * noise.normal() : 0);
  state.current = s.step > 0 ? Math.round(clean / s.step) * s.step : clean;
}

/** What a 4–20 mA current tells after NAMUR NE 43 (from memory): below 3.6 mA a broken wire, above 21 mA a failed transmitter. */
export function liveZero(current: number): 'failed low' | 'under range' | 'measuring' | 'over range' | 'failed high' {
  if (current < 3.6) return 'failed low';
  if (current < 4) return 'under range';
  if (current <= 20) return 'measuring';
  return current <= 21 ? 'over range' : 'failed high';
}
