import type { SteadyPoint, Straightening, StraightenRefusal } from '@yare/core/loop';
import { formatFigure } from '@yare/core';

/** % of output within which two points are the same one, and slopes over the one in use that are still believed. */
const same = 1;
const believed = { least: 0.1, most: 10 };

/** Steady points by output; of two at nearly the same output the one noted later. */
export function sortedPoints(points: readonly SteadyPoint[]): SteadyPoint[] {
  const out: SteadyPoint[] = [];
  for (const p of points) {
    const at = out.findIndex((q) => Math.abs(q.output - p.output) < same);
    if (at >= 0) out[at] = p;
    else out.push(p);
  }
  return out.sort((a, b) => a.output - b.output);
}

/**
 * How much steeper or flatter the process is elsewhere than where its step was made, by lines between steady points.
 * @param at % of output, where the step was @returns nothing where the points do not tell
 */
export function gainsOver(points: readonly SteadyPoint[], at: number): number[] {
  const p = sortedPoints(points);
  if (p.length < 3) return [];
  const slopes = p.slice(1).map((b, i) => ({ to: b.output, slope: (b.feedback - p[i]!.feedback) / (b.output - p[i]!.output) }));
  const here = (slopes.find((s) => at <= s.to) ?? slopes[slopes.length - 1]!).slope;
  if (Math.abs(here) < 0.02) return [];
  return slopes.map((s) => s.slope / here).filter((r) => r > believed.least && r < believed.most);
}

const refusals: Record<StraightenRefusal, string> = {
  'too few points': 'Note at least three speeds, over the whole range it works in.',
  'turns back':
    'The feedback turns back: at some speeds more output gives less of it. No controller holds that; look at pump, check valve and sensor.',
  flat: 'The feedback hardly moves from the lowest to the highest speed: the sensor does not see what the machine does.',
  hysteresis: 'Up and down give different figures at the same speed: something sticks. Find it before anything is tuned.',
};

/** What a table of steady points says about the feedback. */
export function straighteningText(s: Straightening): { severity: 'good' | 'warning' | 'error'; sentence: string } {
  if (!s.ok) return { severity: s.why === 'too few points' ? 'warning' : 'error', sentence: refusals[s.why] };
  const times = formatFigure(s.slopes, 1);
  if (s.slopes < 1.3)
    return { severity: 'good', sentence: 'The process answers nearly the same at every speed: one set of values suits it everywhere.' };
  return {
    severity: 'good',
    sentence: `The process is ${times} times as steep at one end as at the other: the values below are judged where it is steepest.${s.oneLine ? '' : ' One line does not straighten it.'}`,
  };
}
