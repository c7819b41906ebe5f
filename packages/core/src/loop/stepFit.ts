import type { ProcessModel } from './model';
import { leastDeadTime } from './pidRules';
import { nth } from '../present';

export interface StepFit {
  model: ProcessModel;
  /** models the record tells hardly from it, of one form: the latest and the quickest */
  plausible: readonly ProcessModel[];
  /** % of the sensor, root mean square left over */
  left: number;
}

/** Rounds and points a side of the search. */
const rounds = 9;
const nearer = 3.2;

/**
 * Share of a level's whole delay that is taken for lag as far as the record leaves it open: pump, pipe and sensor are some of each (common practice,
 * no source).
 */
const likelyShare = 0.4;
const mostShare = 0.5;

/** A record thinned to what is fitted. */
export interface Curve {
  time: number[];
  output: number[];
  feedback: number[];
  /** the output went to both sides: then how the process bends shows too */
  bothSides?: boolean;
}

/** s by which two stretches of time may differ and still count as one: what rounding leaves. */
const rounding = 1e-9;

/** A lag's way over a step in which what drives it goes by a line: exact (the exponential rule of first order). */
function lagRule(lag: number, dt: number): { left: number; slope: number } {
  if (lag <= 0) return { left: 0, slope: 0 };
  const left = Math.exp(-dt / lag);
  return { left, slope: (lag / dt) * (1 - left) };
}

/**
 * What a process of gain 1 makes of an input given as deviation from its first figure. Between samples the input goes by a line.
 */
function unitAnswer(
  time: readonly number[],
  input: Float64Array,
  kind: ProcessModel['kind'],
  [long, short]: readonly [number, number],
  deadTime: number,
): Float64Array {
  const n = time.length;
  const y = new Float64Array(n);
  const begin = nth(time, 0);
  let [first, second, before, at, width] = [0, 0, 0, 0, -1];
  let [a, b] = [lagRule(long, 1), lagRule(short, 1)];
  let was = begin;
  for (let i = 1; i < n; i++) {
    const now = time[i] ?? NaN;
    const dt = now - was;
    was = now;
    if (Math.abs(dt - width) > rounding) {
      width = dt;
      a = lagRule(long, dt);
      b = lagRule(short, dt);
    }
    const late = now - deadTime;
    let driven = 0;
    if (late > begin) {
      while (at + 1 < n && (time[at + 1] ?? NaN) <= late) at++;
      driven = input[at] ?? NaN;
      if (at + 1 < n) {
        const from = time[at] ?? NaN;
        const to = time[at + 1] ?? NaN;
        driven += ((late - from) / (to - from)) * ((input[at + 1] ?? NaN) - driven);
      }
    }
    const led = first;
    first = driven + (first - before) * a.left - (driven - before) * a.slope;
    before = driven;
    if (kind === 'integrating') second += dt * (first + led) * 0.5;
    else second = short <= 0 ? first : first + (second - led) * b.left - (first - led) * b.slope;
    y[i] = second;
  }
  return y;
}

/**
 * Coefficients of a sum of curves by least squares: normal equations of the curves without their means, by Gauss's elimination; and the sum of squares
 * left. Null where the curves are one.
 * @param values without their mean @param square sum of their squares
 */
function leastSquares(curves: readonly Float64Array[], values: Float64Array, square: number): { of: number[]; rest: number } | null {
  const n = values.length;
  const k = curves.length;
  const sums = curves.map((a) => {
    let sum = 0;
    for (let i = 0; i < n; i++) sum += a[i] ?? NaN;
    return sum;
  });
  const product = (a: Float64Array, b: Float64Array) => {
    let sum = 0;
    for (let i = 0; i < n; i++) sum += (a[i] ?? NaN) * (b[i] ?? NaN);
    return sum;
  };
  const right = curves.map((a) => product(a, values));
  const rows = curves.map((a, p) => [...curves.map((b, q) => product(a, b) - (nth(sums, p) * nth(sums, q)) / n), nth(right, p)]);
  for (let p = 0; p < k; p++) {
    const pivot = nth(rows, p);
    if (Math.abs(nth(pivot, p)) < 1e-12) return null;
    for (let q = p + 1; q < k; q++) {
      const by = nth(nth(rows, q), p) / nth(pivot, p);
      const row = nth(rows, q);
      for (let c = p; c <= k; c++) row[c] = (row[c] ?? NaN) - by * (pivot[c] ?? NaN);
    }
  }
  const of = new Array<number>(k).fill(0);
  for (let p = k - 1; p >= 0; p--) {
    let sum = nth(nth(rows, p), k);
    for (let q = p + 1; q < k; q++) sum -= nth(nth(rows, p), q) * nth(of, q);
    of[p] = sum / nth(nth(rows, p), p);
  }
  return {
    of,
    rest: Math.max(
      0,
      of.reduce((left, b, p) => left - b * nth(right, p), square),
    ),
  };
}

/** Least of a function of one to three figures, by a net drawn ever closer round its best knot. */
function searched(
  ranges: ReadonlyArray<readonly [number, number]>,
  points: number,
  value: (p: readonly number[]) => number,
): { at: number[]; value: number } {
  let centre = ranges.map(([low, high]) => (low + high) / 2);
  let half = ranges.map(([low, high]) => (high - low) / 2);
  let best = { at: centre, value: Infinity };
  for (let round = 0; round < rounds; round++) {
    const knots = points ** ranges.length;
    for (let k = 0; k < knots; k++) {
      let rest = k;
      const p = ranges.map(([low, high], j) => {
        const at = rest % points;
        rest = Math.floor(rest / points);
        return Math.max(low, Math.min(high, nth(centre, j) + nth(half, j) * ((2 * at) / (points - 1) - 1)));
      });
      const v = value(p);
      if (v < best.value) best = { at: p, value: v };
    }
    centre = best.at;
    // more than a knot's distance, so that nothing between them is lost, nor along a valley that lies across the net
    half = half.map((h) => (nearer * h) / (points - 1));
  }
  return best;
}

/** Twice the log of a likelihood ratio a record hardly tells (χ² of one figure, 95 %), and means that count as one. */
const hardlyTold = 3.8;
const together = 1.5;

/** A fit with what it is chosen by. */
export interface Candidate extends StepFit {
  score: number;
  /** share of dead time and lag together that is lag, in all that the record hardly tells from it */
  lagShare: { least: number; most: number };
}

type Times = Pick<ProcessModel, 'lags' | 'deadTime'>;

/** One form of the process, by least squares over its times (variable projection: Golub, Pereyra 1973). @param times of a knot of the net */
function fit(
  c: Curve,
  kind: ProcessModel['kind'],
  net: { ranges: ReadonlyArray<readonly [number, number]>; points: number; times: (p: readonly number[]) => Times },
  floor: number,
): Candidate {
  const n = c.time.length;
  const mean = c.feedback.reduce((a, b) => a + b, 0) / n;
  const values = Float64Array.from(c.feedback, (y) => y - mean);
  const square = values.reduce((a, y) => a + y * y, 0);
  const input = Float64Array.from(c.output, (u) => u - nth(c.output, 0));
  const squared = input.map((u) => u * u);
  const steadily = c.bothSides ? Float64Array.from(c.time) : null;
  const answer = ({ lags, deadTime }: Times): { gain: number; rest: number } => {
    const straight = unitAnswer(c.time, input, kind, lags, deadTime);
    // to both sides it shows how the process bends, and what runs in or out beside it
    const beside = steadily ? [unitAnswer(c.time, squared, kind, lags, deadTime), steadily] : [];
    const found = leastSquares([straight, ...beside], values, square);
    return { gain: found?.of[0] ?? 0, rest: found?.rest ?? square };
  };
  const knots: Array<Times & { rest: number; gain: number }> = [];
  const found = searched(net.ranges, net.points, (p) => {
    const t = net.times(p);
    const { rest, gain } = answer(t);
    knots.push({ ...t, rest, gain });
    return rest;
  });
  const times = net.times(found.at);
  const { gain, rest } = answer(times);
  // what is left cannot be believed to be less than the noise of the means
  const believed = Math.max(rest, n * floor * floor);
  // by the likelihood of the fit; neighbouring means err together
  const near = knots.filter((k) => k.rest <= believed * (1 + hardlyTold / (n / together)));
  const model = (t: Times & { gain: number }): ProcessModel => ({ kind, gain: t.gain, lags: t.lags, deadTime: t.deadTime });
  const most = (of: (t: Times & { gain: number }) => number) =>
    near.slice(0, 1).map((first) => model(near.reduce((a, b) => (of(b) > of(a) ? b : a), first)));
  const shares = near.map(({ lags, deadTime }) => lags[0] / Math.max(1e-9, lags[0] + deadTime));
  return {
    model: { kind, gain, ...times },
    lagShare: { least: Math.min(...shares), most: Math.max(...shares) },
    plausible: [...most((t) => t.deadTime + t.lags[1] / 2), ...most((t) => Math.abs(t.gain) / Math.max(1e-6, t.lags[0]))],
    left: Math.sqrt(rest / n),
    score: n * Math.log(Math.max(1e-12, believed / n)) + (net.ranges.length + 2) * Math.log(n),
  };
}

/**
 * A level with its delay split as is likely, within what the record leaves open; the whole of it is what the record tells, and no shorter than the
 * record resolves.
 */
export function likelyLevel({ model }: StepFit, { least, most }: Candidate['lagShare'], { time }: Curve): ProcessModel {
  const between = (nth(time, time.length - 1) - nth(time, 0)) / Math.max(1, time.length - 1);
  const late = Math.max(leastDeadTime, between / 2, model.deadTime + model.lags[0]);
  const lag = Math.min(mostShare, Math.max(least, Math.min(most, likelyShare))) * late;
  return { ...model, lags: [lag, 0], deadTime: late - lag };
}

/** The process fitted each way. @param longest s from the step to the end */
export function fits(c: Curve, longest: number, floor: number): [Candidate, Candidate, Candidate, Candidate] {
  const dead: [number, number] = [0, 0.6 * longest];
  const lagOf = (times: number): [number, number] => [Math.log(longest / 2000), Math.log(times * longest)];
  const withLag = ([deadTime = 0, lag = 0]: readonly number[]): Times => ({ deadTime, lags: [Math.exp(lag), 0] });
  const one = fit(c, 'settling', { ranges: [dead, lagOf(3)], points: 9, times: withLag }, floor);
  // dead time and lags together are known from the first fit far better than each by itself
  const whole = one.model.deadTime + one.model.lags[0];
  const split = ([sum = 0, share = 0, ratio = 0]: readonly number[]): Times => {
    const lags = sum * (1 - share);
    return { deadTime: sum * share, lags: [lags / (1 + ratio), (lags * ratio) / (1 + ratio)] };
  };
  const two = fit(
    c,
    'settling',
    {
      ranges: [
        [0.7 * whole, 1.3 * whole],
        [0, 0.95],
        [0.02, 1],
      ],
      points: 7,
      times: split,
    },
    floor,
  );
  const level = fit(c, 'integrating', { ranges: [dead], points: 11, times: ([deadTime = 0]) => ({ deadTime, lags: [0, 0] }) }, floor);
  const lagged = fit(c, 'integrating', { ranges: [dead, lagOf(0.6)], points: 9, times: withLag }, floor);
  return [one, two, level, lagged];
}
