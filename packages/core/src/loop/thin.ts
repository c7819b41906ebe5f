/** A recording of a loop: s, output in % of maximum frequency, feedback in % of the sensor's range. */
export interface LoopRecord {
  time: ArrayLike<number>;
  output: ArrayLike<number>;
  feedback: ArrayLike<number>;
}

/** The record as means over at most `most` equal stretches of time, empty ones left out: what is fitted need not have every sample. */
export function thinned({ time, output, feedback }: LoopRecord, most: number): { time: number[]; output: number[]; feedback: number[] } {
  const n = time.length;
  const out = { time: [] as number[], output: [] as number[], feedback: [] as number[] };
  if (n === 0) return out;
  const [begin, end] = [time[0]!, time[n - 1]!];
  const width = Math.max(1e-9, (end - begin) / Math.max(1, most - 1));
  let i = 0;
  while (i < n) {
    const last = begin + (Math.floor((time[i]! - begin) / width) + 1) * width;
    let [t, u, y, count] = [0, 0, 0, 0];
    while (i < n && (time[i]! < last || count === 0)) {
      t += time[i]!;
      u += output[i]!;
      y += feedback[i]!;
      count++;
      i++;
    }
    out.time.push(t / count);
    out.output.push(u / count);
    out.feedback.push(y / count);
  }
  return out;
}

/** One standard deviation of a normal law over its median absolute deviation. */
const normalOverMad = 1.4826;

export function median(values: ArrayLike<number>): number {
  const s = Float64Array.from(values).sort();
  const n = s.length;
  return n === 0 ? NaN : n % 2 === 1 ? s[(n - 1) / 2]! : (s[n / 2 - 1]! + s[n / 2]!) / 2;
}

/**
 * Noise of a signal as one standard deviation, from the differences between neighbours, so that what the process does slowly does not count; and the
 * least step it is given in (0 where none shows).
 */
export function noiseOf(signal: ArrayLike<number>): { sigma: number; step: number } {
  const moved: number[] = [];
  let still = 0;
  for (let i = 1; i < signal.length; i++) {
    const d = Math.abs(signal[i]! - signal[i - 1]!);
    if (d > 0) moved.push(d);
    else still++;
  }
  const n = moved.length + still;
  if (moved.length === 0) return { sigma: 0, step: 0 };
  moved.sort((a, b) => a - b);
  // a signal given in steps stands still now and then, and moves by whole steps
  const step = still > 0.2 * n ? median(moved.slice(0, Math.max(1, Math.ceil(moved.length / 2)))) : 0;
  const all = [...new Array<number>(still).fill(0), ...moved];
  const sigma = (normalOverMad * median(all)) / Math.SQRT2;
  return { sigma: Math.max(sigma, step / Math.sqrt(12)), step };
}
