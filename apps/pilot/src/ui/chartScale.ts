import { scaleLinear, type ScaleLinear } from 'd3-scale';
import { decimate, extentIn } from '@yare/core';

export interface Series {
  time: ArrayLike<number>;
  values: ArrayLike<number>;
  /** what is in the drive now is dashed, the draft solid */
  dashed?: boolean;
  /** written at the line's end where two lines share a pane */
  label?: string;
}

export interface Limit {
  value: number;
  label: string;
  side: 'above' | 'below';
}

export interface Pane {
  key: string;
  name: string;
  unit: string;
  decimals: number;
  series: Series[];
  limits?: Limit[];
  /** the y-axis never shows less than this span, in the pane's unit */
  leastSpan?: number;
}

/** The y-axis of a pane fits what is seen; a limit is taken in when the data comes within half a span of it. */
export function paneDomain(pane: Pane, from: number, to: number): [number, number] {
  let low = Infinity;
  let high = -Infinity;
  for (const s of pane.series) {
    const e = extentIn(s.time, s.values, from, to);
    if (!e) continue;
    low = Math.min(low, e[0]);
    high = Math.max(high, e[1]);
  }
  if (low > high) [low, high] = [0, 1];
  const least = pane.leastSpan ?? 1;
  if (high - low < least) {
    const middle = (low + high) / 2;
    low = Math.min(low, Math.max(low >= 0 ? 0 : -Infinity, middle - least / 2));
    high = low + least;
  }
  const span = high - low;
  for (const l of pane.limits ?? []) {
    if (l.side === 'above' && l.value > low && l.value < high + 0.7 * span) high = Math.max(high, l.value + 0.12 * span);
    if (l.side === 'below' && l.value < high && l.value > low - 0.7 * span) low = Math.min(low, l.value - 0.12 * span);
  }
  const pad = 0.06 * (high - low);
  return [low - (low === 0 ? 0 : pad), high + pad];
}

/** A line as svg path data, decimated to the pixels it covers. */
export function linePath(series: Series, x: ScaleLinear<number, number>, y: ScaleLinear<number, number>): string {
  const [from, to] = x.domain() as [number, number];
  const [left, right] = x.range() as [number, number];
  const { time, value } = decimate(series.time, series.values, from, to, Math.max(1, Math.round(right - left)));
  let path = '';
  for (let i = 0; i < time.length; i++) path += `${i === 0 ? 'M' : 'L'}${x(time[i]!).toFixed(1)} ${y(value[i]!).toFixed(1)}`;
  return path;
}

export const scaleFor = (domain: [number, number], range: [number, number]): ScaleLinear<number, number> => scaleLinear().domain(domain).range(range);
