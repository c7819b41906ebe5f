import type { FactsOf } from '@yare/contract';
import { largestOf, type LookAhead } from '@yare/core';
import { runBegins } from '../seen/search';

/** What a recording holds of a run, against time in s. */
export interface RecordedRun {
  time: readonly number[];
  outputFrequency: readonly number[];
  motorCurrent: readonly number[];
  busVoltage: readonly number[];
}

/** When a run began, was at its frequency, was let go and stood, s; null for what did not happen. */
export interface RunMoments {
  began: number;
  /** the highest frequency, Hz */
  top: number;
  letGo: number;
  stood: number | null;
}

/** The output is at its frequency within this share, and at rest below this many Hz: steps of the read-out. */
const atTop = 0.99;
const atRest = 0.1;

/** The moments of a run by its output, without a search for a turning motor before it; null when it never ran. */
export function momentsOf({ time, outputFrequency }: Pick<RecordedRun, 'time' | 'outputFrequency'>): RunMoments | null {
  const begins = runBegins(time, outputFrequency);
  const size = outputFrequency.map((f, i) => (i < begins ? 0 : Math.abs(f)));
  const first = size.findIndex((f) => f > atRest);
  if (first < 0) return null;
  const top = largestOf(size, 0);
  const last = size.findLastIndex((f) => f >= atTop * top);
  const rest = size.findIndex((f, i) => i > last && f <= atRest);
  return { began: time[Math.max(0, first - 1)] ?? 0, top, letGo: time[last] ?? 0, stood: rest < 0 ? null : (time[rest] ?? null) };
}

/** One figure of a run, as it was looked ahead and as it was measured, with how far it may be off. */
export type Compared = FactsOf<'run'>['compared'][number];

/** Whether the measured lies in the band; null without one. */
export const insideBand = ({ measured, predicted, band }: Compared): boolean | null =>
  band === null ? null : Math.abs(measured - predicted) <= band;

/**
 * A recorded run up and down against its look-ahead: peak bus, peak current, time to stop. What a recording does not hold is left out.
 * @param ahead to the same frequency
 * @param band share of each figure that the look-ahead may be off
 */
export function againstRun(ahead: LookAhead, run: RecordedRun, band: (quantity: Compared['quantity']) => number | null): Compared[] {
  const moments = momentsOf(run);
  if (!moments) return [];
  const begins = runBegins(run.time, run.outputFrequency);
  const { summary } = ahead;
  const row = (quantity: Compared['quantity'], predicted: number | null, measured: number | null): Compared[] => {
    if (predicted === null || measured === null) return [];
    const share = band(quantity);
    return [{ quantity, predicted, measured, band: share === null ? null : share * predicted }];
  };
  return [
    ...row('peak bus', summary.peakBus, largestOf(run.busVoltage.slice(begins), 0)),
    ...row('peak current', summary.peakCurrent, largestOf(run.motorCurrent.slice(begins), 0)),
    ...row('stop time', summary.stopTime, moments.stood === null ? null : moments.stood - moments.letGo),
  ];
}

/** A look-ahead laid over a recording: its start at the run's start, its stop at the moment the hand let go. */
export function laidOver(ahead: LookAhead, { began, letGo }: RunMoments): LookAhead['series']['time'] {
  const { stopAt } = ahead.summary;
  return ahead.series.time.map((t) => (t < stopAt ? t + began : t - stopAt + letGo));
}
