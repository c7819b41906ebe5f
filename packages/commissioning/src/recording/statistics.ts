import { indexAt, nth } from '@yare/core';

/** A channel between two times. */
export interface Statistics {
  samples: number;
  smallest: number;
  largest: number;
  /** over time, not over samples: a slow stretch counts as long as it lasts */
  mean: number;
  /** root mean square over time */
  rms: number;
  /** standard deviation over time */
  deviation: number;
  /** from the first to the last sample, per s */
  slope: number;
}

/**
 * A channel between two times, its samples joined by straight lines: mean and mean square are their integrals over time (trapezium for the
 * mean; (a² + ab + b²)/3 of each piece for the square). Samples that are not figures are left out.
 * @returns null where fewer than two samples lie between them
 */
export function statisticsOf(time: ArrayLike<number>, values: ArrayLike<number>, from: number, to: number): Statistics | null {
  const [low, high] = from < to ? [from, to] : [to, from];
  let [samples, smallest, largest, over, sum, square] = [0, Infinity, -Infinity, 0, 0, 0];
  let first: [number, number] | null = null;
  let last: [number, number] | null = null;
  for (let i = indexAt(time, low); i < time.length && nth(time, i) <= high; i++) {
    const [t, v] = [nth(time, i), nth(values, i)];
    if (!Number.isFinite(v)) continue;
    samples++;
    if (v < smallest) smallest = v;
    if (v > largest) largest = v;
    if (last) {
      const [dt, before] = [t - last[0], last[1]];
      over += dt;
      sum += (dt * (before + v)) / 2;
      square += (dt * (before * before + before * v + v * v)) / 3;
    }
    first ??= [t, v];
    last = [t, v];
  }
  if (!first || !last || over <= 0) return null;
  const mean = sum / over;
  const rms = Math.sqrt(square / over);
  return {
    ...{ samples, smallest, largest, mean, rms },
    deviation: Math.sqrt(Math.max(0, square / over - mean * mean)),
    slope: (last[1] - first[1]) / over,
  };
}
