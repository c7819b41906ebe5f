import { scaleLinear, type ScaleLinear } from 'd3-scale';
import { line } from 'd3-shape';
import { decimate, extentIn } from '@yare/core/recordings';
import { formatFigure } from '@yare/core/units';
import type { Pane, Series } from './pane';

export type Scale = ScaleLinear<number, number>;

/** The y-axis of a pane fits what is seen; a limit is taken in when the data comes within half a span of it. */
export function paneDomain(pane: Pane, from: number, to: number): [number, number] {
  let low = Infinity;
  let high = -Infinity;
  for (const s of pane.series) {
    const e = s.quick ? s.quick.extent(from, to) : extentIn(s.time, s.values, from, to);
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

/** Decimals of a path's px. */
const pathDigits = 1;

/** A line as svg path data, decimated to the pixels it covers. */
export function linePath(series: Series, x: Scale, y: Scale): string {
  const [from = 0, to = 0] = x.domain();
  const [left = 0, right = 0] = x.range();
  const pixels = Math.max(1, Math.round(right - left));
  const { time, value } = series.quick ? series.quick.drawn(from, to, pixels) : decimate(series.time, series.values, from, to, pixels);
  const draw = line<number>((_, i) => x(time[i] ?? 0), y)
    .defined(Number.isFinite)
    .digits(pathDigits);
  return draw(value) ?? '';
}

export const scaleFor = (domain: [number, number], range: [number, number]): Scale => scaleLinear().domain(domain).range(range);

/** A tick's label with as many decimals as its step needs. */
export const tickLabel = (value: number, step: number): string => formatFigure(value, step < 0.1 ? 2 : step < 1 ? 1 : 0);

/** Figures from which a label beside a pane is told in thousands or millions: there is room for five signs. */
const longFrom = 1e4;

/** The same beside a pane, where there is little room. */
export function sideLabel(value: number, step: number): string {
  if (Math.abs(value) < longFrom) return tickLabel(value, step);
  const [by, sign] = Math.abs(value) < 1e6 ? [1e3, 'k'] : [1e6, 'M'];
  return `${tickLabel(value / by, step / by)}${sign}`;
}

/** The step between two ticks; 1 where there are none to tell. */
export const stepOf = ([first, second]: readonly number[]): number => (first !== undefined && second !== undefined ? second - first : 1);

/** px an x-tick's label needs, and a sign of the unit behind the last one. */
const tickRoom = 75;
const labelRoom = 45;
const signRoom = 8;

/** Ticks of the x-axis, the last one carrying the unit and given the room it needs. */
export function roomyTicks(x: Scale, right: number, unit: string): number[] {
  const ticks = x.ticks(Math.max(2, Math.floor((right - (x.range()[0] ?? 0)) / tickRoom)));
  const last = ticks.at(-1);
  if (last === undefined) return [];
  const room = labelRoom + unit.length * signRoom;
  return ticks.filter((t) => t === last || Math.min(x(last), right - room / 2) - x(t) > room);
}
