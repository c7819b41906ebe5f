import { largestOf, smallestOf } from '../extremes';
import type { ProcessModel } from './model';
import { fits, likelyLevel, type Curve, type StepFit } from './stepFit';
import { median, noiseOf, thinned, type LoopRecord } from './thin';
import { nth } from '../present';

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

export type StepTest =
  | {
      ok: true;
      /** s, and % of output before and after */
      at: number;
      from: number;
      to: number;
      /** % of output it went back to, past where it began or to it; null for a single step */
      back: number | null;
      /** % of the sensor before and in the end */
      baseline: number;
      final: number;
      /** % of the sensor, one standard deviation, and the least step it is given in */
      noise: number;
      step: number;
      best: StepFit;
      /** what a controller is tuned for: the best, where the record leaves something open as is likely */
      likely: ProcessModel;
      fits: readonly StepFit[];
      hand: ByHand | null;
    }
  | { ok: false; why: StepRefusal; at: number | null; change: number; noise: number };

/** Points a fit is made on. */
const most = 320;
/** % of output that is a step at all; share of it within which a level counts as reached, and of the record that must lie before and after. */
const leastStep = 1;
const reached = 0.15;
const leastBefore = 0.04;
const leastAfter = 0.3;
/** s a level has to be seen before it is let go. */
const leastSeen = 5;
/** Share of the way it ends on that another way has to have been to be a step of its own. */
const leastOther = 0.3;
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

const mean = (a: readonly number[], from: number, to: number): number => {
  let sum = 0;
  for (let i = from; i < to; i++) sum += a[i] ?? NaN;
  return sum / Math.max(1, to - from);
};

/** Seconds after the step at which the curve has gone a share of its way, between the means by a line; null when it has not. */
function reachedAt(c: Curve, from: number, at: number, baseline: number, change: number, share: number): number | null {
  for (let i = Math.max(1, from); i < c.time.length; i++) {
    const [a, b] = [(nth(c.feedback, i - 1) - baseline) / change, (nth(c.feedback, i) - baseline) / change];
    if (b >= share) return nth(c.time, i - 1) + ((share - a) / Math.max(1e-9, b - a)) * (nth(c.time, i) - nth(c.time, i - 1)) - at;
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

/** How the output went: from rest to another figure, and perhaps back past where it began. Indices into the curve. */
type Shape =
  | { ok: true; from: number; to: number; back: number | null; begins: number; arrives: number; leaves: number; at: number }
  | { ok: false; why: StepRefusal; at: number | null };

function shapeOf({ time, output }: Curve): Shape {
  const n = output.length;
  const no = (why: StepRefusal, at: number | null = null): Shape => ({ ok: false, why, at });
  const from = median(output.slice(0, Math.max(3, Math.floor(n / 50))));
  const end = median(output.slice(-Math.max(3, Math.floor(n / 20))));
  const [low, high] = [smallestOf(output), largestOf(output)];
  const ends = Math.abs(end - from) >= leastStep ? Math.sign(end - from) : high - from > from - low ? -1 : 1;
  // what it reached on the other side of where it ends
  const farthest = ends > 0 ? low : high;
  const reversed = Math.abs(farthest - from) >= Math.max(leastStep, leastOther * Math.abs(end - from));
  const to = reversed ? median(output.filter((u) => Math.abs(u - farthest) <= reached * Math.abs(farthest - from))) : end;
  const stepped = to - from;
  if (Math.abs(stepped) < leastStep) return no(high - low >= 2 * leastStep ? 'several steps' : 'no step');
  const near = (goal: number) => (u: number) => Math.abs(u - goal) <= reached * Math.abs(stepped);
  const begins = output.findIndex((u) => Math.abs(u - from) > 0.1 * Math.abs(stepped));
  const arrives = output.findIndex((u, i) => i >= begins && near(to)(u));
  const leaves = reversed ? output.findLastIndex(near(to)) : n - 1;
  const returns = reversed ? output.findIndex((u, i) => i > leaves && near(end)(u)) : n;
  const at = nth(time, Math.max(0, begins - 1));
  const length = nth(time, n - 1) - nth(time, 0);
  // a level is seen before only for a while: its test may take long, and what runs in beside it is found anyway
  const seen = reversed ? Math.min(leastSeen, leastBefore * length) : leastBefore * length;
  if (begins < (reversed ? 3 : leastBefore * n) || at - nth(time, 0) < seen) return no('not at rest before', at);
  const strays = (u: number, i: number) =>
    (i < begins && !near(from)(u)) || (i > arrives && i < leaves && !near(to)(u)) || (i > returns && !near(end)(u));
  // on its way it neither turns back nor rests
  const wavers = (first: number, last: number, way: number) => {
    const steps = output.slice(first + 1, last).map((u, i) => (u - nth(output, first + i)) / way);
    return steps.some((d) => d < -0.1) || steps.filter((d) => d < atRest).length > mostRests;
  };
  if (output.some(strays) || wavers(begins, arrives, stepped) || (reversed && wavers(leaves, returns, end - to))) return no('several steps', at);
  if (nth(time, n - 1) - nth(time, arrives) < leastAfter * length) return no('too short', at);
  return { ok: true, from, to, back: reversed ? end : null, begins, arrives, leaves, at };
}

/** Share of the record before the step that is looked at for where it stood, and noises by which a mean of some samples may be off that. */
const stood = 0.4;
const offRest = 4;
const together = 5;

/** The record without its first part as far as the feedback was still on its way to rest, where enough of a rest follows. */
function fromRest(c: Curve, sigma: number): Curve {
  const shape = shapeOf(c);
  if (!shape.ok || shape.back !== null) return c;
  const { begins } = shape;
  const before = c.feedback.slice(0, begins);
  const rest = mean(before, Math.floor((1 - stood) * begins), begins);
  const change = Math.abs(mean(c.feedback, c.feedback.length - together, c.feedback.length) - rest);
  const band = Math.max((offRest * sigma) / Math.sqrt(together), 0.02 * change);
  let cut = 0;
  for (let i = 0; i + together <= begins; i++) if (Math.abs(mean(before, i, i + together) - rest) > band) cut = i + together;
  // at its very end it is no longer a rest
  if (cut === 0 || cut > (1 - stood) * begins) return c;
  const { time, output, feedback } = c;
  return { ...c, time: time.slice(cut), output: output.slice(cut), feedback: feedback.slice(cut) };
}

/**
 * A step test from its recording: where the output stepped, from what to what, noise, and the process fitted three ways: one lag, two lags, an
 * integrator, each with dead time; the simplest that explains the record is the best. The output need not step sharply: its own ramp is part of what is
 * fitted. A test that says nothing, or something else, is refused with its reason.
 */
export function stepTest(record: LoopRecord): StepTest {
  const { sigma, step } = noiseOf(record.feedback);
  const refuse = (why: StepRefusal, at: number | null = null, change = 0): StepTest => ({ ok: false, why, at, change, noise: sigma });
  if (record.time.length < 60) return refuse('too short');
  const c = fromRest(thinned(record, most), sigma);
  const n = c.time.length;
  if (n < 30) return refuse('too short');
  const shape = shapeOf(c);
  if (!shape.ok) return refuse(shape.why, shape.at);
  const { from, to, back, begins, arrives, leaves, at } = shape;
  const baseline = mean(c.feedback, 0, begins);
  const last = Math.max(3, Math.floor(0.1 * n));
  const final = back === null ? mean(c.feedback, n - last, n) : mean(c.feedback, leaves - 2, leaves + 1);
  const change = final - baseline;
  // what moved before the step, and would have moved in the whole of the test
  const half = Math.floor(begins / 2);
  const perHalf = (2 * (nth(c.time, n - 1) - at)) / Math.max(1e-9, at - nth(c.time, 0));
  const drift = perHalf * (mean(c.feedback, half, begins) - mean(c.feedback, 0, half));
  const perPoint = sigma / Math.sqrt(Math.max(1, record.time.length / n));
  if (Math.abs(change) < leastChange * Math.max(perPoint, step / 2) || Math.abs(change) < 0.2) return refuse('too small', at, change);
  // what runs steadily into or out of a level is found beside its gain when the test goes to both sides
  if (back === null && Math.abs(drift) > mostDrift * Math.abs(change) + 4 * perHalf * perPoint * Math.sqrt(2 / Math.max(1, half)))
    return refuse('not at rest before', at, change);
  const edge = (y: number) => y <= 0.05 || y >= 99.95;
  if (c.feedback.slice(begins).filter(edge).length > 0.05 * n) return refuse('at a limit', at, change);
  const longest = nth(c.time, n - 1) - at;
  const candidates = fits({ ...c, bothSides: back !== null && Math.abs(back - from) >= leastStep }, longest, perPoint);
  let best = candidates[0];
  // there and back is how a level is tested: where it is no level, one of the steps is one too many
  if (back !== null) best = candidates[3].score < candidates[2].score - worthMore ? candidates[3] : candidates[2];
  else
    for (const other of candidates.slice(1)) {
      const simpler = other.model.kind === 'integrating' && best.model.lags[0] > 1.5 * longest;
      if (other.score < best.score - worthMore || (simpler && other.score < best.score + worthMore)) best = other;
    }
  const { model } = best;
  if (model.kind === 'settling') {
    const passed = longest - model.deadTime - (nth(c.time, arrives) - at) / 2;
    const settled = 1 - Math.exp(-passed / Math.max(1e-6, model.lags[0] + model.lags[1]));
    if (settled < leastSettled) return refuse('not settled', at, change);
  }
  if (best.left > mostLeft * Math.abs(change) + 1.5 * perPoint) return refuse(back === null ? 'disturbed' : 'several steps', at, change);
  return {
    ...{ ok: true as const, at, from, to, back, baseline, final, noise: sigma, step },
    best,
    likely: model.kind === 'integrating' ? likelyLevel(best, candidates[3].lagShare, c) : model,
    fits: candidates,
    hand: model.kind === 'settling' ? byHand(c, begins, at, baseline, change) : null,
  };
}
