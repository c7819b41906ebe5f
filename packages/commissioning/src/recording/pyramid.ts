import { decimate, indexAt, type Decimated, nth } from '@yare/core';

/** Samples a block of the lowest level holds, and blocks of one level in one of the next. */
const block = 32;
const fold = 2;

interface Level {
  /** samples a block holds */
  size: number;
  low: Float64Array;
  high: Float64Array;
}

/** A channel with the smallest and largest value of its blocks, level upon level, so that hours of it are drawn as fast as seconds. */
export interface Pyramid {
  time: ArrayLike<number>;
  values: ArrayLike<number>;
  levels: readonly Level[];
}

/** Built once for a channel; a channel of few samples has no levels. */
export function pyramidOf(time: ArrayLike<number>, values: ArrayLike<number>): Pyramid {
  const levels: Level[] = [];
  const n = time.length;
  let below: Level | null = null;
  for (let size = block; n / size > 64; size *= fold) {
    const count = Math.ceil(n / size);
    const level: Level = { size, low: new Float64Array(count).fill(Infinity), high: new Float64Array(count).fill(-Infinity) };
    if (below) {
      for (let i = 0; i < below.low.length; i++) {
        const at = Math.floor(i / fold);
        const low = below.low[i] ?? NaN;
        const high = below.high[i] ?? NaN;
        if (low < (level.low[at] ?? NaN)) level.low[at] = low;
        if (high > (level.high[at] ?? NaN)) level.high[at] = high;
      }
    } else
      for (let i = 0; i < n; i++) {
        const at = Math.floor(i / size);
        const v = values[i] ?? NaN;
        if (v < (level.low[at] ?? NaN)) level.low[at] = v;
        if (v > (level.high[at] ?? NaN)) level.high[at] = v;
      }
    levels.push(level);
    below = level;
  }
  return { time, values, levels };
}

/** Smallest and largest value between two samples, the second not included. */
function extent({ values, levels }: Pyramid, start: number, end: number): [number, number] {
  let [low, high] = [Infinity, -Infinity];
  let i = start;
  while (i < end) {
    // the largest block that begins here and ends before the end
    let level: Level | null = null;
    for (const l of levels) if (i % l.size === 0 && i + l.size <= end) level = l;
    const [a, b] = level ? [nth(level.low, i / level.size), nth(level.high, i / level.size)] : [nth(values, i), nth(values, i)];
    if (a < low) low = a;
    if (b > high) high = b;
    i += level ? level.size : 1;
  }
  return [low, high];
}

/** Smallest and largest value inside a window, with one sample either side; null when it holds none. As `extentIn` gives it, in steps of blocks. */
export function extentOf(p: Pyramid, from: number, to: number): [number, number] | null {
  const start = Math.max(0, indexAt(p.time, from) - 1);
  const end = Math.min(p.time.length, indexAt(p.time, to) + 1);
  return end <= start ? null : extent(p, start, end);
}

/**
 * The samples a line over so many pixels needs, peaks and all. Where a pixel holds many, it is drawn as the smallest and the largest value of
 * whole blocks not wider than two pixels, which stay the same blocks however the window is moved: the line does not flicker.
 */
export function drawnOf(p: Pyramid, from: number, to: number, pixels: number): Decimated {
  const start = Math.max(0, indexAt(p.time, from) - 1);
  const end = Math.min(p.time.length, indexAt(p.time, to) + 1);
  const level = p.levels.filter((l) => l.size <= (2 * (end - start)) / pixels).at(-1);
  if (!level) return decimate(p.time, p.values, from, to, pixels);
  const out: Decimated = { time: [], value: [] };
  const push = (at: number, v: number) => {
    out.time.push(at);
    out.value.push(v);
  };
  const last = Math.min(level.low.length, Math.ceil(end / level.size));
  for (let b = Math.floor(start / level.size); b < last; b++) {
    const [low, high] = [nth(level.low, b), nth(level.high, b)];
    const at = nth(p.time, Math.min(p.time.length - 1, b * level.size + (level.size >> 1)));
    if (low > high) continue;
    push(at, low);
    if (high > low) push(at, high);
  }
  return out;
}
