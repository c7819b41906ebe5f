import { nth } from '../present';

/** A recording of a loop: s, output in % of maximum frequency, feedback in % of the sensor's range. */
export interface LoopRecord {
  time: ArrayLike<number>;
  output: ArrayLike<number>;
  feedback: ArrayLike<number>;
}

/** How much longer than the usual one a pause between samples may be for the record to count as evenly sampled. */
const mostPause = 3;

/** Index after the last of each stretch of a record: so many samples each where it is evenly sampled, equal times where it is not. */
function stretches(time: ArrayLike<number>, most: number): number[] {
  const n = time.length;
  const steps = Array.from({ length: n - 1 }, (_, i) => nth(time, i + 1) - nth(time, i));
  const even = steps.length > 0 && steps.reduce((a, b) => Math.max(a, b), 0) <= mostPause * median(steps);
  if (even) {
    const per = Math.ceil(n / most);
    return Array.from({ length: Math.ceil(n / per) }, (_, k) => Math.min(n, (k + 1) * per));
  }
  const [begin, end] = [nth(time, 0), nth(time, n - 1)];
  const width = Math.max(1e-9, (end - begin) / Math.max(1, most - 1));
  const out: number[] = [];
  for (let i = 0; i < n;) {
    const last = begin + (Math.floor((nth(time, i) - begin) / width) + 1) * width;
    i++;
    while (i < n && nth(time, i) < last) i++;
    out.push(i);
  }
  return out;
}

/** The record as means over at most `most` stretches, empty ones left out: what is fitted need not have every sample. */
export function thinned({ time, output, feedback }: LoopRecord, most: number): { time: number[]; output: number[]; feedback: number[] } {
  const out = { time: [] as number[], output: [] as number[], feedback: [] as number[] };
  if (time.length === 0) return out;
  let i = 0;
  for (const to of stretches(time, most)) {
    const count = to - i;
    let [t, u, y] = [0, 0, 0];
    for (; i < to; i++) {
      t += nth(time, i);
      u += nth(output, i);
      y += nth(feedback, i);
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
  return n === 0 ? NaN : n % 2 === 1 ? nth(s, (n - 1) / 2) : (nth(s, n / 2 - 1) + nth(s, n / 2)) / 2;
}

/**
 * Noise of a signal as one standard deviation, from its second differences, so that neither where it stands nor how steadily it climbs counts; and the
 * least step it is given in (0 where none shows).
 */
export function noiseOf(signal: ArrayLike<number>): { sigma: number; step: number } {
  const moved: number[] = [];
  const bent: number[] = [];
  for (let i = 1; i < signal.length; i++) {
    const d = Math.abs(nth(signal, i) - nth(signal, i - 1));
    if (d > 0) moved.push(d);
    if (i > 1) bent.push(Math.abs(nth(signal, i) - 2 * nth(signal, i - 1) + nth(signal, i - 2)));
  }
  if (moved.length === 0) return { sigma: 0, step: 0 };
  moved.sort((a, b) => a - b);
  const still = signal.length - 1 - moved.length;
  // a signal given in steps stands still now and then, and moves by whole steps
  const step = still > 0.2 * (signal.length - 1) ? median(moved.slice(0, Math.max(1, Math.ceil(moved.length / 2)))) : 0;
  const sigma = (normalOverMad * median(bent)) / Math.sqrt(6);
  return { sigma: Math.max(sigma, step / Math.sqrt(12)), step };
}
