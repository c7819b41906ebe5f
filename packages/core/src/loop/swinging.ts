import type { PidGains } from './pidRules';
import { noiseOf, median, type LoopRecord } from './thin';
import { nth } from '../present';

/** Why a loop swings, as far as its record tells. */
export type SwingCause =
  /** the controller is too firm for the process */
  | 'too tight'
  /** the controller asks for more than the drive's ramp gives: the output goes up and down on its ramp */
  | 'ramp'
  /** something sticks: the output goes on in a straight line until it gives way */
  | 'sticks'
  /** no more than the steps the feedback comes in */
  | 'coarse feedback'
  /** the output stands while the feedback swings */
  | 'outside';

export interface Swinging {
  /** s */
  period: number;
  /** % of the range and % of output, half of the way from one turn to the other */
  feedback: number;
  output: number;
  /** size of one period over that of the one before: above 1 it grows */
  growth: number;
  /** whole periods seen */
  periods: number;
  cause: SwingCause;
  /** values that would calm it; null where no values do */
  cure: PidGains | null;
}

/** Periods that must be seen, and how even they have to be: 3 standard deviations within the mean (Thornhill, Huang, Zhang 2003). */
const leastPeriods = 2.5;
const mostUneven = 1 / 3;
/** Noise a swing stands out of, and % of the range that is one at all. */
const overNoise = 2;
const leastSwing = 0.3;
/** Steps of the feedback that a swing is made of when they cause it. */
const stepsOfIt = 3;
/** % of output that counts as standing. */
const stands = 0.3;
/** Index of He, Wang, Pottmann, Qin 2007 above which a triangle fits the output so much better than a sine that something sticks. */
const sticksFrom = 0.6;
/** Growth for each period above which it counts as growing. */
export const growsFrom = 1.1;

/** A half period: indices of its ends, and its largest deviation. */
interface Half {
  from: number;
  to: number;
  size: number;
}

/** Half periods between crossings of the mean, those within the noise left out. */
function halvesOf(values: readonly number[], band: number): Half[] {
  const out: Half[] = [];
  let side = 0;
  let from = -1;
  let size = 0;
  let crossing = -1;
  values.forEach((v, i) => {
    const before = values[i - 1];
    if (before !== undefined && before < 0 !== v < 0) crossing = i;
    if (Math.abs(v) <= band || Math.sign(v) === side) {
      if (Math.sign(v) === side) size = Math.max(size, Math.abs(v));
      return;
    }
    const at = crossing >= 0 ? crossing : i;
    if (side !== 0 && from >= 0) out.push({ from, to: at, size });
    // the first half is cut off by where the record begins
    from = at;
    side = Math.sign(v);
    size = Math.abs(v);
  });
  return out.slice(1);
}

/** Sum of squares that a curve of one shape leaves of a half period, scaled by least squares. */
function leaves(values: readonly number[], { from, to }: Half, shape: (x: number) => number): number {
  let [sxy, sxx, syy] = [0, 0, 0];
  for (let i = from; i < to; i++) {
    const x = shape((i - from + 0.5) / (to - from));
    const y = nth(values, i);
    sxy += x * y;
    sxx += x * x;
    syy += y * y;
  }
  return syy - (sxx > 0 ? (sxy * sxy) / sxx : 0);
}

const sine = (x: number): number => Math.sin(Math.PI * x);
const triangle = (x: number): number => 1 - Math.abs(2 * x - 1);

/** How much better a triangle fits than a sine, 0 to 1: the output of a loop whose actuator or valve sticks goes in straight lines. */
function triangular(values: readonly number[], halves: readonly Half[]): number {
  let [bySine, byTriangle] = [0, 0];
  for (const h of halves) {
    if (h.to - h.from < 5) continue;
    bySine += leaves(values, h, sine);
    byTriangle += leaves(values, h, triangle);
  }
  return bySine + byTriangle > 0 ? bySine / (bySine + byTriangle) : 0.5;
}

/** Share of a ramp from which an output is on it, and share of its moving samples that are. */
const onRamp = 0.8;
const mostlyOnRamp = 0.5;

/**
 * Whether the output goes up and down on the drive's own ramp: straight lines as well, but as steep as the ramp lets them be. What sticks goes by the
 * integral of an error that stands, far more slowly.
 * @param ramp % of output a second
 */
function rampLimited(time: readonly number[], output: readonly number[], ramp: number): boolean {
  let [moving, limited] = [0, 0];
  for (let i = 0, k = 0; i < output.length; i++) {
    // over a fifth of a second at least: a word that comes in steps has no slope between two samples
    while (k < i && nth(time, i) - nth(time, k + 1) >= 0.2) k++;
    const over = nth(time, i) - nth(time, k);
    if (over < 0.2) continue;
    const slope = Math.abs(nth(output, i) - nth(output, k)) / over;
    if (slope < 0.2 * ramp) continue;
    moving++;
    if (slope >= onRamp * ramp) limited++;
  }
  return moving > 20 && limited >= mostlyOnRamp * moving;
}

/** Values without their mean and their steady climb. */
function levelled(time: readonly number[], values: readonly number[]): number[] {
  const n = values.length;
  const [mt, mv] = [time.reduce((a, b) => a + b, 0) / n, values.reduce((a, b) => a + b, 0) / n];
  let [stt, stv] = [0, 0];
  values.forEach((v, i) => {
    stt += (nth(time, i) - mt) ** 2;
    stv += (nth(time, i) - mt) * (v - mv);
  });
  const slope = stt > 0 ? stv / stt : 0;
  return values.map((v, i) => v - mv - slope * (nth(time, i) - mt));
}

/**
 * Half of the gain at which it swings gives a gain margin of two (Ziegler, Nichols 1942: half of the ultimate gain), and an integral time of a period
 * leaves the integral 9° of lag at that frequency.
 */
const calmer = ({ gain, integralTime }: PidGains, period: number): PidGains => ({
  gain: gain / 2,
  integralTime: Math.max(integralTime, period),
  derivativeTime: 0,
});

/**
 * Values that ask for no more than the ramp gives. A swing of half size A and period T asks for 2πA/T at its steepest; the gain is taken down to what the
 * ramp gives of that, and half of it again as a margin, with an integral of a whole period.
 */
function withinRamp(now: PidGains, size: number, period: number, ramp: number | null): PidGains {
  const asked = (2 * Math.PI * size) / period;
  const share = ramp === null ? 0.5 : Math.min(0.5, (0.5 * ramp) / Math.max(asked, ramp));
  return { gain: now.gain * share, integralTime: Math.max(now.integralTime, period), derivativeTime: 0 };
}

/**
 * Whether a loop swings in a record of it, how, and why. Null where it does not, or where too little is seen.
 * @param now values it is held with; without, no cure is worked out
 * @param ramp % of output a second that the drive's ramp in force gives; null where that is not known
 */
export function swingingOf(record: LoopRecord, now: PidGains | null = null, ramp: number | null = null): Swinging | null {
  const n = record.time.length;
  if (n < 40) return null;
  const time = Array.from(record.time);
  const feedback = levelled(time, Array.from(record.feedback));
  const output = levelled(time, Array.from(record.output));
  const { sigma, step } = noiseOf(record.feedback);
  // between two of its steps a coarse feedback goes to and fro by half of one
  const band = sigma < step / 2 ? step / 5 : overNoise * sigma;
  const halves = halvesOf(feedback, Math.max(band, leastSwing / 2));
  if (halves.length < 2 * leastPeriods) return null;
  // what has come to rest since is no swing any more
  const [begins, ends] = [nth(time, nth(halves, 0).from), nth(time, nth(halves, halves.length - 1).to)];
  if (nth(time, n - 1) - ends > (2 * (ends - begins)) / halves.length) return null;
  const lengths = halves.map((h) => nth(time, h.to) - nth(time, h.from));
  // up and down need not take as long: whole periods are compared
  const whole = lengths.slice(1).map((l, i) => l + nth(lengths, i));
  const period = whole.reduce((a, b) => a + b, 0) / whole.length;
  const uneven = Math.sqrt(whole.reduce((a, b) => a + (b - period) ** 2, 0) / whole.length) / period;
  if (uneven > mostUneven) return null;
  const sizes = halves.map((h) => h.size);
  const size = median(sizes);
  if (size < leastSwing) return null;
  const own = halvesOf(output, stands / 2);
  const outputSize = own.length > 0 ? median(own.map((h) => h.size)) : 0;
  const rate = growthOf(halves, time);
  const cause: SwingCause =
    outputSize < stands
      ? 'outside'
      : step > 0 && 2 * size <= stepsOfIt * step
        ? 'coarse feedback'
        : ramp !== null && rampLimited(time, Array.from(record.output), ramp)
          ? 'ramp'
          : triangular(output, own) > sticksFrom
            ? 'sticks'
            : 'too tight';
  return {
    ...{ period, cause, feedback: size, output: outputSize },
    growth: Math.exp(rate * period),
    periods: halves.length / 2,
    cure: now && cause === 'too tight' ? calmer(now, period) : now && cause === 'ramp' ? withinRamp(now, outputSize, period, ramp) : null,
  };
}

/** 1/s by which the sizes of half periods grow, by least squares of their logarithms. */
function growthOf(halves: readonly Half[], time: readonly number[]): number {
  const at = halves.map((h) => (nth(time, h.from) + nth(time, h.to)) / 2);
  const logs = halves.map((h) => Math.log(h.size));
  const n = halves.length;
  const [mt, ml] = [at.reduce((a, b) => a + b, 0) / n, logs.reduce((a, b) => a + b, 0) / n];
  let [stt, stl] = [0, 0];
  at.forEach((t, i) => {
    stt += (t - mt) ** 2;
    stl += (t - mt) * (nth(logs, i) - ml);
  });
  return stt > 0 ? stl / stt : 0;
}
