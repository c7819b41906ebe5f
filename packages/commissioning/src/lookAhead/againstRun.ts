import type { LookAhead } from '@yare/core';
import { formatFigure, largestOf } from '@yare/core';
import { runBegins } from '../seen/search';
import type { BandQuantity } from './band';

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

/** One figure of a run, as it was looked ahead and as it was measured. */
export interface Compared {
  quantity: BandQuantity;
  label: string;
  unit: string;
  decimals: number;
  predicted: number;
  /** stated uncertainty of the prediction, in the unit; null where none was measured */
  band: number | null;
  measured: number;
  /** the measured lies in the band; null without one */
  inside: boolean | null;
}

/**
 * A recorded run up and down against its look-ahead: peak bus, peak current, time to stop. What a recording does not hold is left out.
 * @param ahead to the same frequency
 * @param band share of each figure that the look-ahead may be off
 */
export function againstRun(ahead: LookAhead, run: RecordedRun, band: (quantity: BandQuantity) => number | null): Compared[] {
  const moments = momentsOf(run);
  if (!moments) return [];
  const begins = runBegins(run.time, run.outputFrequency);
  const { summary } = ahead;
  const row = (
    quantity: BandQuantity,
    label: string,
    unit: string,
    decimals: number,
    predicted: number | null,
    measured: number | null,
  ): Compared[] => {
    if (predicted === null || measured === null) return [];
    const share = band(quantity);
    const width = share === null ? null : share * predicted;
    return [
      { quantity, label, unit, decimals, predicted, band: width, measured, inside: width === null ? null : Math.abs(measured - predicted) <= width },
    ];
  };
  return [
    ...row('peak bus', 'Peak DC bus', 'V', 0, summary.peakBus, largestOf(run.busVoltage.slice(begins), 0)),
    ...row('peak current', 'Peak motor current', 'A', 1, summary.peakCurrent, largestOf(run.motorCurrent.slice(begins), 0)),
    ...row('stop time', 'Time to stop', 's', 1, summary.stopTime, moments.stood === null ? null : moments.stood - moments.letGo),
  ];
}

/** A comparison as a proof keeps it: what was expected, and what was measured with whether it lay inside. */
export function comparedText(rows: readonly Compared[]): { expected: string; measured: string } {
  const figure = (r: Compared, x: number) => `${formatFigure(x, r.decimals)} ${r.unit}`;
  const inside = (r: Compared) => (r.inside === null ? '' : r.inside ? ', inside' : ', outside');
  return {
    expected: rows
      .map(
        (r) =>
          `${r.label.replace(/^[A-Z](?=[a-z])/, (c) => c.toLowerCase())} ${figure(r, r.predicted)}${r.band === null ? '' : ` ± ${figure(r, r.band)}`}`,
      )
      .join('; '),
    measured: rows.map((r) => `${r.label.replace(/^[A-Z](?=[a-z])/, (c) => c.toLowerCase())} ${figure(r, r.measured)}${inside(r)}`).join('; '),
  };
}

/** A look-ahead laid over a recording: its start at the run's start, its stop at the moment the hand let go. */
export function laidOver(ahead: LookAhead, { began, letGo }: RunMoments): LookAhead['series']['time'] {
  const { stopAt } = ahead.summary;
  return ahead.series.time.map((t) => (t < stopAt ? t + began : t - stopAt + letGo));
}
