import { nth } from '../present';

/** Measured channels over time, with marks. */
export interface RecordingChannel {
  key: string;
  name: string;
  unit: string;
  decimals: number;
}

export interface RecordingMark {
  /** s from the start of the recording */
  time: number;
  label: string;
}

/** First index whose time is not before `at`; length when none. Times ascend. */
export function indexAt(time: ArrayLike<number>, at: number): number {
  let low = 0;
  let high = time.length;
  while (low < high) {
    const middle = (low + high) >> 1;
    if (nth(time, middle) < at) low = middle + 1;
    else high = middle;
  }
  return low;
}

/** Linear value at a time; null outside the record. */
export function valueAt(time: ArrayLike<number>, values: ArrayLike<number>, at: number): number | null {
  const n = time.length;
  if (n === 0 || at < nth(time, 0) || at > nth(time, n - 1)) return null;
  const i = Math.max(1, indexAt(time, at));
  if (i >= n) return nth(values, n - 1);
  const t0 = nth(time, i - 1);
  const t1 = nth(time, i);
  const x = t1 > t0 ? (at - t0) / (t1 - t0) : 1;
  return nth(values, i - 1) + x * (nth(values, i) - nth(values, i - 1));
}

export interface Decimated {
  time: number[];
  value: number[];
}

/**
 * The samples a line over so many pixels needs: first, smallest, largest and last of each pixel column, in their order, with one
 * sample either side of the window, so that no peak is lost and the line leaves the frame where the data does.
 */
export function decimate(time: ArrayLike<number>, values: ArrayLike<number>, from: number, to: number, pixels: number): Decimated {
  const start = Math.max(0, indexAt(time, from) - 1);
  const end = Math.min(time.length, indexAt(time, to) + 1);
  const out: Decimated = { time: [], value: [] };
  const push = (i: number) => {
    out.time.push(nth(time, i));
    out.value.push(nth(values, i));
  };
  if (end - start <= pixels * 4) {
    for (let i = start; i < end; i++) push(i);
    return out;
  }
  const width = (to - from) / pixels;
  let i = start;
  while (i < end) {
    const column = Math.floor((nth(time, i) - from) / width);
    let last = i;
    let low = i;
    let high = i;
    while (last + 1 < end && Math.floor((nth(time, last + 1) - from) / width) === column) {
      last++;
      if (nth(values, last) < nth(values, low)) low = last;
      if (nth(values, last) > nth(values, high)) high = last;
    }
    const picked = [...new Set([i, low, high, last])].sort((a, b) => a - b);
    picked.forEach(push);
    i = last + 1;
  }
  return out;
}

/** Smallest and largest value inside a window; null when it holds no sample. */
export function extentIn(time: ArrayLike<number>, values: ArrayLike<number>, from: number, to: number): [number, number] | null {
  const start = Math.max(0, indexAt(time, from) - 1);
  const end = Math.min(time.length, indexAt(time, to) + 1);
  if (end <= start) return null;
  let low = Infinity;
  let high = -Infinity;
  for (let i = start; i < end; i++) {
    const v = nth(values, i);
    if (v < low) low = v;
    if (v > high) high = v;
  }
  return [low, high];
}
