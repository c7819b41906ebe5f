import type { ProcessModel } from './model';
import { median, noiseOf, thinned, type LoopRecord } from './thin';

/** Why a step test cannot be used, by code. */
export type StepRefusal = 'too short' | 'no step' | 'several steps' | 'not at rest before' | 'too small' | 'not settled' | 'disturbed' | 'at a limit';

/** What is read off the curve by hand: seconds from the step to so many % of the change, and the model of the two-point method. */
export interface ByHand {
  t25: number;
  t28: number;
  t63: number;
  t75: number;
  /** from 28.3 and 63.2 % (Smith 1972), and from 25 and 75 % */
  by63: { lag: number; deadTime: number };
  by75: { lag: number; deadTime: number };
}

export interface StepFit {
  model: ProcessModel;
  /** models the record tells hardly from it, of one form: the latest and the quickest */
  plausible: readonly ProcessModel[];
  /** % of the sensor, root mean square left over */
  left: number;
}

export type StepTest =
  | {
      ok: true;
      /** s, and % of output before and after */
      at: number;
      from: number;
      to: number;
      /** % of the sensor before and in the end */
      baseline: number;
      final: number;
      /** % of the sensor, one standard deviation, and the least step it is given in */
      noise: number;
      step: number;
      best: StepFit;
      fits: readonly StepFit[];
      hand: ByHand | null;
    }
  | { ok: false; why: StepRefusal; at: number | null; change: number; noise: number };

/** Points a fit is made on, and rounds and points a side of its search. */
const most = 320;
const rounds = 9;
const nearer = 3.2;
/** % of output that is a step at all; share of it within which a level counts as reached, and of the record that must lie before and after. */
const leastStep = 1;
const reached = 0.15;
const leastBefore = 0.04;
const leastAfter = 0.3;
/** Share of a step between two points that is none, and how many such there may be on its way. */
const atRest = 0.002;
const mostRests = 6;
/** Change of the feedback over its noise below which a test says nothing; and of the change that may be drift before, or be left over. */
const leastChange = 5;
const mostDrift = 0.25;
const mostLeft = 0.1;
/** Share of its final value a settling process has to have come to. */
const leastSettled = 0.88;
/** What another parameter has to gain, as difference of the information criterion (Kass, Raftery 1995: above 10 is very strong). */
const worthMore = 10;

interface Curve {
  time: number[];
  output: number[];
  feedback: number[];
}

/** s by which two stretches of time may differ and still count as one: what rounding leaves. */
const rounding = 1e-9;

/** What a process of gain 1 makes of the recorded output, as deviation from the first. Between samples the output goes by a line. */
function unitAnswer({ time, output }: Curve, kind: ProcessModel['kind'], [long, short]: readonly [number, number], deadTime: number): Float64Array {
  const n = time.length;
  const y = new Float64Array(n);
  const rest = output[0]!;
  let [first, second, before, at, width, byLong, byShort] = [0, 0, 0, 0, -1, 1, 1];
  for (let i = 1; i < n; i++) {
    const dt = time[i]! - time[i - 1]!;
    if (Math.abs(dt - width) > rounding) {
      width = dt;
      byLong = long <= 0 ? 1 : 1 - Math.exp(-dt / long);
      byShort = short <= 0 ? 1 : 1 - Math.exp(-dt / short);
    }
    const late = time[i]! - deadTime;
    while (at + 1 < n && time[at + 1]! <= late) at++;
    const now =
      late <= time[0]! || at + 1 >= n
        ? output[late <= time[0]! ? 0 : at]! - rest
        : output[at]! - rest + ((late - time[at]!) / (time[at + 1]! - time[at]!)) * (output[at + 1]! - output[at]!);
    const driven = (now + before) / 2;
    before = now;
    const was = first;
    first += (driven - first) * byLong;
    if (kind === 'integrating') second += dt * (first + was) * 0.5;
    else second += ((first + was) / 2 - second) * byShort;
    y[i] = kind === 'settling' && short <= 0 ? first : second;
  }
  return y;
}

/** Gain and start by least squares, and the sum of squares left. */
function lineThrough(answer: Float64Array, feedback: readonly number[]): { gain: number; start: number; rest: number } {
  const n = feedback.length;
  let [sx, sy, sxx, sxy] = [0, 0, 0, 0];
  for (let i = 0; i < n; i++) {
    sx += answer[i]!;
    sy += feedback[i]!;
    sxx += answer[i]! ** 2;
    sxy += answer[i]! * feedback[i]!;
  }
  const below = n * sxx - sx * sx;
  const gain = below > 1e-12 ? (n * sxy - sx * sy) / below : 0;
  const start = (sy - gain * sx) / n;
  let rest = 0;
  for (let i = 0; i < n; i++) rest += (feedback[i]! - start - gain * answer[i]!) ** 2;
  return { gain, start, rest };
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
        return Math.max(low, Math.min(high, centre[j]! + half[j]! * ((2 * at) / (points - 1) - 1)));
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

interface Candidate extends StepFit {
  score: number;
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
  const answer = ({ lags, deadTime }: Times) => lineThrough(unitAnswer(c, kind, lags, deadTime), c.feedback);
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
  return {
    model: { kind, gain, ...times },
    plausible: [...most((t) => t.deadTime + t.lags[1] / 2), ...most((t) => Math.abs(t.gain) / Math.max(1e-6, t.lags[0]))],
    left: Math.sqrt(rest / n),
    score: n * Math.log(Math.max(1e-12, believed / n)) + (net.ranges.length + 2) * Math.log(n),
  };
}

/** The process fitted each way. @param longest s from the step to the end */
function fits(c: Curve, longest: number, floor: number): [Candidate, ...Candidate[]] {
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

const mean = (a: readonly number[], from: number, to: number): number => {
  let sum = 0;
  for (let i = from; i < to; i++) sum += a[i]!;
  return sum / Math.max(1, to - from);
};

/** Seconds after the step at which the curve has gone a share of its way, between the means by a line; null when it has not. */
function reachedAt(c: Curve, from: number, at: number, baseline: number, change: number, share: number): number | null {
  for (let i = Math.max(1, from); i < c.time.length; i++) {
    const [a, b] = [(c.feedback[i - 1]! - baseline) / change, (c.feedback[i]! - baseline) / change];
    if (b >= share) return c.time[i - 1]! + ((share - a) / Math.max(1e-9, b - a)) * (c.time[i]! - c.time[i - 1]!) - at;
  }
  return null;
}

function byHand(c: Curve, from: number, at: number, baseline: number, change: number): ByHand | null {
  const [t25, t28, t63, t75] = [0.25, 0.283, 0.632, 0.75].map((s) => reachedAt(c, from, at, baseline, change, s));
  if (t25 == null || t28 == null || t63 == null || t75 == null) return null;
  const lag = 1.5 * (t63 - t28);
  return {
    ...{ t25, t28, t63, t75 },
    by63: { lag, deadTime: t63 - lag },
    by75: { lag: 0.91 * (t75 - t25), deadTime: 1.262 * t25 - 0.262 * t75 },
  };
}

/**
 * A step test from its recording: where the output stepped, from what to what, noise, and the process fitted three ways: one lag, two lags, an
 * integrator, each with dead time; the simplest that explains the record is the best. The output need not step sharply: its own ramp is part of what is
 * fitted. A test that says nothing, or something else, is refused with its reason.
 */
export function stepTest(record: LoopRecord): StepTest {
  const c = thinned(record, most);
  const n = c.time.length;
  const { sigma, step } = noiseOf(record.feedback);
  const refuse = (why: StepRefusal, at: number | null = null, change = 0): StepTest => ({ ok: false, why, at, change, noise: sigma });
  if (n < 30 || record.time.length < 60) return refuse('too short');
  const from = median(c.output.slice(0, Math.max(3, Math.floor(n / 50))));
  const to = median(c.output.slice(-Math.max(3, Math.floor(n / 20))));
  const stepped = to - from;
  if (Math.abs(stepped) < leastStep) {
    const went = Math.max(...c.output) - Math.min(...c.output);
    return refuse(went >= 2 * leastStep ? 'several steps' : 'no step');
  }
  const begins = c.output.findIndex((u) => Math.abs(u - from) > 0.1 * Math.abs(stepped));
  const arrives = c.output.findIndex((u, i) => i >= begins && Math.abs(u - to) <= reached * Math.abs(stepped));
  const at = c.time[Math.max(0, begins - 1)]!;
  const length = c.time[n - 1]! - c.time[0]!;
  if (begins < leastBefore * n || at - c.time[0]! < leastBefore * length) return refuse('not at rest before', at);
  const strays = (u: number, i: number) =>
    (i < begins && Math.abs(u - from) > reached * Math.abs(stepped)) || (i > arrives && Math.abs(u - to) > reached * Math.abs(stepped));
  // on its way it neither turns back nor rests
  const onTheWay = c.output.map((u, i) => (i > begins && i < arrives ? (u - c.output[i - 1]!) / stepped : 1));
  const wavers = onTheWay.some((d) => d < -0.1) || onTheWay.filter((d) => d < atRest).length > mostRests;
  if (c.output.some(strays) || wavers) return refuse('several steps', at);
  if (c.time[n - 1]! - c.time[arrives]! < leastAfter * length) return refuse('too short', at);
  const baseline = mean(c.feedback, 0, begins);
  const final = mean(c.feedback, n - Math.max(3, Math.floor(0.1 * n)), n);
  const change = final - baseline;
  // what moved before the step, and would have moved in the whole of the test
  const half = Math.floor(begins / 2);
  const perHalf = (2 * (c.time[n - 1]! - at)) / Math.max(1e-9, at - c.time[0]!);
  const drift = perHalf * (mean(c.feedback, half, begins) - mean(c.feedback, 0, half));
  const perPoint = sigma / Math.sqrt(Math.max(1, record.time.length / n));
  if (Math.abs(change) < leastChange * Math.max(perPoint, step / 2) || Math.abs(change) < 0.2) return refuse('too small', at, change);
  if (Math.abs(drift) > mostDrift * Math.abs(change) + 4 * perHalf * perPoint * Math.sqrt(2 / Math.max(1, half)))
    return refuse('not at rest before', at, change);
  const edge = (y: number) => y <= 0.05 || y >= 99.95;
  if (c.feedback.slice(begins).filter(edge).length > 0.05 * n) return refuse('at a limit', at, change);
  const longest = c.time[n - 1]! - at;
  const candidates = fits(c, longest, perPoint);
  let best = candidates[0];
  for (const other of candidates.slice(1)) {
    const simpler = other.model.kind === 'integrating' && best.model.lags[0] > 1.5 * longest;
    if (other.score < best.score - worthMore || (simpler && other.score < best.score + worthMore)) best = other;
  }
  const { model } = best;
  if (model.kind === 'settling') {
    const passed = longest - model.deadTime - (c.time[arrives]! - at) / 2;
    const settled = 1 - Math.exp(-passed / Math.max(1e-6, model.lags[0] + model.lags[1]));
    if (settled < leastSettled) return refuse('not settled', at, change);
  }
  if (best.left > mostLeft * Math.abs(change) + 1.5 * perPoint) return refuse('disturbed', at, change);
  return {
    ...{ ok: true as const, at, from, to, baseline, final, noise: sigma, step },
    best,
    fits: candidates,
    hand: model.kind === 'settling' ? byHand(c, begins, at, baseline, change) : null,
  };
}
