import { largestOf } from '../extremes';
import type { Straight } from '../controls/feedback';
import type { LoopRecord } from './thin';
import { nth } from '../present';

/** A steady point of the process: output in % of maximum frequency, feedback in % of the sensor's range, on the way up or down. */
export interface SteadyPoint {
  output: number;
  feedback: number;
  /** −1 down, 1 up, 0 where nobody noted it */
  way?: -1 | 0 | 1;
}

/** Gain and offset of a drive, and how well they do. */
export interface Straightened extends Straight {
  /** % of the range: what each point is off after it */
  left: number[];
  mostLeft: number;
}

export type StraightenRefusal = 'too few points' | 'turns back' | 'flat' | 'hysteresis';

export type Straightening =
  | {
      ok: true;
      fit: Straightened;
      /** % of the range: what the raw feedback is off from the output at most */
      mostRaw: number;
      /** % of the range between the ways up and down at the same output, at most */
      hysteresis: number;
      /** slope of the raw curve at its steepest over that at its flattest */
      slopes: number;
      /** whether it is worth it, and whether one line is enough */
      worth: boolean;
      oneLine: boolean;
      /** two lines that meet, where one is not enough */
      bend: { at: number; below: Straightened; above: Straightened } | null;
    }
  | { ok: false; why: StraightenRefusal; hysteresis: number };

/** Points a line has to have, and % of the range: rise that is none, hysteresis no line cures, and what may be left of a straight feedback. */
const leastPoints = 3;
const flat = 2;
const mostHysteresis = 5;
const straightEnough = 3;

/** Feedback → output by least squares: output = gain · (feedback + offset). */
function line(points: readonly SteadyPoint[]): Straightened {
  const n = points.length;
  let [sx, sy, sxx, sxy] = [0, 0, 0, 0];
  for (const { feedback: x, output: y } of points) {
    sx += x;
    sy += y;
    sxx += x * x;
    sxy += x * y;
  }
  const below = n * sxx - sx * sx;
  const gain = below > 0 ? (n * sxy - sx * sy) / below : 1;
  const offset = (sy - gain * sx) / (n * gain);
  const left = points.map((p) => gain * (p.feedback + offset) - p.output);
  return { gain, offset, left, mostLeft: largestOf(left.map(Math.abs)) };
}

/** Feedback at an output, on points sorted by output, by lines between them. */
function between(points: readonly SteadyPoint[], output: number): number | null {
  const i = points.findIndex((p) => p.output >= output);
  if (i < 0 || (i === 0 && nth(points, 0).output > output)) return null;
  const b = nth(points, i);
  if (i === 0 || b.output === output) return b.feedback;
  const a = nth(points, i - 1);
  return a.feedback + ((output - a.output) / (b.output - a.output)) * (b.feedback - a.feedback);
}

/** % of the range between up and down at the same output, at most; 0 where only one way was gone. */
function hysteresisOf(points: readonly SteadyPoint[]): number {
  const way = (w: 1 | -1) => points.filter((p) => p.way === w).sort((a, b) => a.output - b.output);
  const [up, down] = [way(1), way(-1)];
  let widest = 0;
  for (const p of up) {
    const other = between(down, p.output);
    if (other !== null) widest = Math.max(widest, Math.abs(other - p.feedback));
  }
  return widest;
}

/** Points sorted by output, those of the same output made one. */
export function mergedPoints(points: readonly SteadyPoint[]): SteadyPoint[] {
  const out: Array<{ output: number; feedback: number; count: number }> = [];
  for (const p of [...points].sort((a, b) => a.output - b.output)) {
    const last = out[out.length - 1];
    if (last && p.output - last.output < 0.5) {
      last.feedback = (last.feedback * last.count + p.feedback) / (last.count + 1);
      last.output = (last.output * last.count + p.output) / (last.count + 1);
      last.count++;
    } else out.push({ output: p.output, feedback: p.feedback, count: 1 });
  }
  return out.map(({ output, feedback }) => ({ output, feedback }));
}

/**
 * Straightens a bent feedback: gain and offset with which feedback % follows output % by least squares over steady points. Says when the curve turns
 * back, when up and down differ, when it is not worth it, and when one line cannot do it.
 * @param noise % of the range, of the feedback
 */
export function straighten(points: readonly SteadyPoint[], noise = 0.2): Straightening {
  const hysteresis = hysteresisOf(points);
  const refuse = (why: StraightenRefusal): Straightening => ({ ok: false, why, hysteresis });
  const p = mergedPoints(points);
  if (p.length < leastPoints) return refuse('too few points');
  const rise = nth(p, p.length - 1).feedback - nth(p, 0).feedback;
  if (Math.abs(rise) < Math.max(flat, 4 * noise)) return refuse('flat');
  const slopes = p.slice(1).map((b, i) => (b.feedback - nth(p, i).feedback) / (b.output - nth(p, i).output));
  if (slopes.some((s, i) => s * rise < 0 && Math.abs(nth(p, i + 1).feedback - nth(p, i).feedback) > 3 * noise)) return refuse('turns back');
  if (hysteresis > mostHysteresis) return refuse('hysteresis');
  const fit = line(p);
  const mostRaw = largestOf(p.map((x) => Math.abs(x.feedback - x.output)));
  const sizes = slopes.map(Math.abs).filter((s) => s > 1e-6);
  let bend: Extract<Straightening, { ok: true }>['bend'] = null;
  for (let i = 2; i <= p.length - 3; i++) {
    const [below, above] = [line(p.slice(0, i + 1)), line(p.slice(i))];
    const worst = Math.max(below.mostLeft, above.mostLeft);
    if (!bend || worst < Math.max(bend.below.mostLeft, bend.above.mostLeft)) bend = { at: nth(p, i).output, below, above };
  }
  const oneLine = fit.mostLeft <= Math.max(straightEnough, 3 * noise);
  return {
    ...{ ok: true as const, fit, mostRaw, hysteresis, oneLine },
    slopes: sizes.length > 0 ? Math.max(...sizes) / Math.min(...sizes) : Infinity,
    worth: mostRaw > Math.max(straightEnough, 3 * noise) && fit.mostLeft < 0.6 * mostRaw,
    bend: oneLine ? null : bend,
  };
}

/** s a speed has to stand to be a steady point, s of it that are believed, % of output within which it stands; s it takes to come to rest. */
const standing = { least: 12, believed: 4, within: 0.4 };

/**
 * Steady points of a recording in which the output stood at several figures one after another: of each stretch that is long enough the mean of its end.
 * What still moves there is left out.
 */
export function steadyPointsOf(record: LoopRecord, noise = 0.2): SteadyPoint[] {
  const { time, output, feedback } = record;
  const n = time.length;
  const out: SteadyPoint[] = [];
  const mean = (from: number, to: number) => {
    let [sum, count] = [0, 0];
    for (let i = 0; i < n; i++)
      if (nth(time, i) >= from && nth(time, i) < to) {
        sum += nth(feedback, i);
        count++;
      }
    return count > 0 ? sum / count : NaN;
  };
  for (let i = 0; i < n;) {
    let j = i;
    while (j + 1 < n && Math.abs(nth(output, j + 1) - nth(output, i)) <= standing.within) j++;
    const [begin, end] = [nth(time, i), nth(time, j)];
    if (end - begin >= standing.least) {
      const last = mean(end - standing.believed, end);
      const moved = Math.abs(last - mean(end - 2 * standing.believed, end - standing.believed));
      const before = out[out.length - 1];
      if (moved <= Math.max(0.3, 2 * noise))
        out.push({ output: nth(output, j), feedback: last, way: !before ? 0 : nth(output, j) > before.output ? 1 : -1 });
    }
    i = j + 1;
  }
  return out;
}
