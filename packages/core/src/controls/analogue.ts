import { AnalogueSignal } from '../drive';
import type { AnalogueScale } from './command';

/** Ends of each signal and its unit. */
export const signalEnds: Record<AnalogueSignal, { low: number; high: number; unit: 'mA' | 'V' }> = {
  [AnalogueSignal.liveZero]: { low: 4, high: 20, unit: 'mA' },
  [AnalogueSignal.zeroTo20]: { low: 0, high: 20, unit: 'mA' },
  [AnalogueSignal.volts]: { low: 0, high: 10, unit: 'V' },
  [AnalogueSignal.bothWays]: { low: 0, high: 10, unit: 'V' },
};

/** mA or V at a share of the range. */
export const signalAt = (signal: AnalogueSignal, share: number): number => {
  const { low, high } = signalEnds[signal];
  return low + share * (high - low);
};

/** Share of the range at so many mA or V. */
export const shareOf = (signal: AnalogueSignal, value: number): number => {
  const { low, high } = signalEnds[signal];
  return (value - low) / (high - low);
};

/** mA below which a live zero counts as lost (NAMUR NE 43). */
export const lostBelow = 3.6;

export const liveZeroLost = (signal: AnalogueSignal, share: number): boolean =>
  signal === AnalogueSignal.liveZero && signalAt(signal, share) < lostBelow;

/** Hz, signed, that a signal asks for at a share of its range. */
export function analogueSpeed({ signal, low, high, deadBand }: AnalogueScale, share: number): number {
  if (deadBand > 0 && Math.abs(share) < deadBand) return 0;
  if (signal === AnalogueSignal.bothWays) return Math.max(-1, Math.min(1, share)) * high;
  return low + Math.min(1, Math.max(0, share)) * (high - low);
}

/** mA of an analogue output with live zero, 4 to 20 mA, for a value of which `full` is 20 mA; direction is not shown. */
export const outputSignal = (value: number, full: number): number =>
  signalAt(AnalogueSignal.liveZero, Math.min(1, Math.max(0, Math.abs(value) / full)));
