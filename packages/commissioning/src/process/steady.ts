import { mergedPoints, type SteadyPoint, type Straightening, type StraightenRefusal } from '@yare/core/loop';
import { formatFigure, largestOf, smallestOf, type ProcessSensor, nth } from '@yare/core';
import { say } from '@yare/words/process';

/** % of output within which two points are the same one, and slopes over the one in use that are still believed. */
const same = 1;
const believed = { least: 0.1, most: 10 };

/** Steady points by output; of two at nearly the same output, come to from the same side, the one noted later. */
export function sortedPoints(points: readonly SteadyPoint[]): SteadyPoint[] {
  const out: SteadyPoint[] = [];
  for (const p of points) {
    const at = out.findIndex((q) => Math.abs(q.output - p.output) < same && (q.way ?? 0) === (p.way ?? 0));
    if (at >= 0) out[at] = p;
    else out.push(p);
  }
  return out.sort((a, b) => a.output - b.output);
}

/** Slopes of the lines between steady points, each with the output it reaches to. */
function slopesOf(points: readonly SteadyPoint[]): Array<{ to: number; slope: number }> {
  const p = mergedPoints(points);
  if (p.length < 3) return [];
  return p.slice(1).map((b, i) => ({ to: b.output, slope: (b.feedback - nth(p, i).feedback) / (b.output - nth(p, i).output) }));
}

/** % of the range that the feedback moves for each % of output, at an output in %; null where the points do not tell. */
export function slopeAt(points: readonly SteadyPoint[], at: number): number | null {
  const slopes = slopesOf(points);
  return (slopes.find((s) => at <= s.to) ?? slopes[slopes.length - 1])?.slope ?? null;
}

/**
 * How much steeper or flatter the process is elsewhere than where its step was made, by lines between steady points.
 * @param at % of output, where the step was @returns nothing where the points do not tell
 */
export function gainsOver(points: readonly SteadyPoint[], at: number): number[] {
  const here = slopeAt(points, at);
  if (here === null || Math.abs(here) < 0.02) return [];
  return slopesOf(points)
    .map((s) => s.slope / here)
    .filter((r) => r > believed.least && r < believed.most);
}

const refusals: Record<StraightenRefusal, string> = {
  'too few points': say.noteAtLeastThreeSpeeds,
  'turns back': say.theFeedbackTurnsBackAt,
  flat: say.theFeedbackHardlyMovesFrom,
  hysteresis: say.upAndDownGiveDifferent,
};

const percent = (x: number, decimals = 1): string => formatFigure(x, decimals);

/** What a table of steady points says about the feedback, and whether straightening it is worth it. */
export function straighteningText(s: Straightening): { severity: 'good' | 'warning' | 'error'; sentence: string } {
  if (!s.ok) return { severity: s.why === 'too few points' ? 'warning' : 'error', sentence: refusals[s.why] };
  const steep = s.slopes < 1.3 ? say.theProcessAnswersNearlyThe : say.theProcessIsTimesAs({ slopes: s.slopes });
  const hysteresis = s.hysteresis > 1 ? say.upAndDownDifferBy({ percent: percent(s.hysteresis) }) : '';
  return { severity: 'good', sentence: `${steep}${hysteresis} ${worthText(s)}` };
}

/** What one line would do for the feedback. */
function worthText({ fit, mostRaw, oneLine, worth, bend }: Extract<Straightening, { ok: true }>): string {
  if (!worth && oneLine) return say.straighteningIsNotWorthIt({ percent: percent(mostRaw) });
  if (oneLine) return say.oneLineBringsItFrom({ percent: percent(mostRaw), percent2: percent(fit.mostLeft) });
  const two = bend
    ? say.twoLinesThatMeetAt({ percent: percent(bend.at, 0), percent2: percent(Math.max(bend.below.mostLeft, bend.above.mostLeft)) })
    : '';
  return say.oneLineCannotStraightenIt({ percent: percent(fit.mostLeft), two });
}

/** % of output at which the feedback stood at a figure, by lines between the steady points; null where they do not reach it. */
export function outputFor(points: readonly SteadyPoint[], feedback: number): number | null {
  const p = mergedPoints(points);
  for (let i = 1; i < p.length; i++) {
    const [a, b] = [nth(p, i - 1), nth(p, i)];
    const share = (feedback - a.feedback) / (b.feedback - a.feedback);
    if (share >= 0 && share <= 1) return a.output + share * (b.output - a.output);
  }
  return null;
}

/** % of the range between which the steady points tell, where what is held lies outside of it; null where it lies within, or nothing is told. */
export function rangeThatLacks(points: readonly SteadyPoint[], held: number): { low: number; high: number } | null {
  if (points.length < 2 || outputFor(points, held) !== null) return null;
  const all = points.map((p) => p.feedback);
  return { low: smallestOf(all), high: largestOf(all) };
}

/** Pairs of figures somebody typed or pasted: a line each, speed and feedback; a decimal comma where something else parts the two. */
export function readPairs(text: string): { ok: true; pairs: Array<[number, number]> } | { ok: false; sentence: string } {
  const pairs: Array<[number, number]> = [];
  const lines = text.split(/\r?\n/).filter((l) => l.trim() !== '');
  for (const [i, line] of lines.entries()) {
    const byOther = line
      .trim()
      .split(/[;\t|]|\s+/)
      .filter((c) => c !== '');
    const cells = byOther.length >= 2 ? byOther.map((c) => c.replace(/,$/, '').replace(',', '.')) : line.split(',');
    const [a, b] = cells.map((c) => Number(c.trim().replace('−', '-')));
    if (cells.length === 2 && a !== undefined && b !== undefined && Number.isFinite(a) && Number.isFinite(b)) pairs.push([a, b]);
    // words over the first figures are a heading
    else if (i > 0 || lines.length === 1) return { ok: false, sentence: say.lineIsNotASpeed({ i: i + 1, line: line.trim().slice(0, 40) }) };
  }
  return pairs.length > 0 ? { ok: true, pairs } : { ok: false, sentence: say.noFiguresWereFoundEnter };
}

/** A gauge read beside what the drive saw: sensor's unit, and % of its range. */
export interface AtGauge {
  gauge: number;
  seen: number;
}

export interface GaugeCheck {
  /** % of the range by which the sensor reads high, at each point */
  off: number[];
  /** % of the range that may be off */
  allowed: number;
  /** the points lie far enough from each other to tell */
  apart: boolean;
  /** a range of round figures with which both points would agree; null where none does or none is needed */
  fits: { low: number; high: number } | null;
}

/** % of the range a gauge and a transmitter may differ by (common practice: a gauge of class 1.6), and how far apart the points have to lie. */
const gaugeAllowed = 1.6;
const apartBy = 20;
/** Ranges transmitters are sold with. */
const soldRanges = [1, 1.6, 2, 2.5, 3, 4, 5, 6, 7.5, 8, 10, 12, 15, 16, 20, 25, 30, 40, 50, 60, 75, 80, 100];

/** A sensor against a gauge at two points; null before there are two. */
export function gaugeCheck(points: readonly AtGauge[], { low, high }: Pick<ProcessSensor, 'low' | 'high'>): GaugeCheck | null {
  const [a, b] = points;
  if (!a || !b) return null;
  const span = high - low;
  const off = [a, b].map((p) => p.seen - (100 * (p.gauge - low)) / span);
  const apart = Math.abs(a.seen - b.seen) >= apartBy;
  const worst = Math.max(...off.map(Math.abs));
  if (!apart || worst <= gaugeAllowed) return { off, allowed: gaugeAllowed, apart, fits: null };
  // what 0 and 100 % would have to be
  const perPercent = (b.gauge - a.gauge) / (b.seen - a.seen);
  const begins = a.gauge - a.seen * perPercent;
  const ends = begins + 100 * perPercent;
  const decade = 10 ** Math.floor(Math.log10(Math.max(1e-9, Math.abs(ends))));
  const round = soldRanges.map((r) => (r * decade) / (ends < 0 ? -1 : 1)).concat(soldRanges.map((r) => (r * decade) / 10));
  const nearest = round.reduce((x, r) => (Math.abs(r - ends) < Math.abs(x - ends) ? r : x));
  const start = Math.abs(begins - low) < 0.03 * Math.abs(ends) ? low : Math.abs(begins) < 0.03 * Math.abs(ends) ? 0 : null;
  const agrees = start !== null && Math.abs(nearest - ends) < 0.03 * Math.abs(ends);
  return { off, allowed: gaugeAllowed, apart, fits: agrees ? { low: start, high: Number(nearest.toPrecision(6)) } : null };
}

/** What a check against a gauge came to. */
export function gaugeText(c: GaugeCheck, { low, high, unit }: ProcessSensor): { severity: 'good' | 'warning' | 'error'; sentence: string } {
  if (!c.apart)
    return {
      severity: 'warning',
      sentence: say.theTwoPointsLieToo({ apartBy }),
    };
  const [a = 0, b = 0] = c.off;
  const said = (x: number) => say.low({ abs: Math.abs(x), x });
  const worst = Math.max(Math.abs(a), Math.abs(b));
  if (worst <= c.allowed) return { severity: 'good', sentence: say.theSensorAgreesWithThe({ said: said(a), said2: said(b), allowed: c.allowed }) };
  const why = c.fits
    ? say.itReadsLikeASensor({ low: c.fits.low, high: c.fits.high, unit, low2: low, high2: high })
    : Math.abs(a - b) < c.allowed
      ? say.bothAreOffByThe
      : say.lookAtItsRangeAt;
  return {
    severity: 'error',
    sentence: say.theSensorReadsAtThe({ said: said(a), said2: said(b), allowed: c.allowed, why }),
  };
}
