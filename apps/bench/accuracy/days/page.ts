import { heldBy } from '../again';
import { pct, quantile } from '../figures';
import type { DaySeen, JudgedDay } from './judgeDay';

/** Errors in % of what truly came. */
interface OfErrors {
  medianErrorPct: number;
  p90ErrorPct: number;
}

/** How well days are foretold one way. */
interface Foretold {
  startsPerHour: OfErrors;
  lowestPressure: OfErrors;
  /** % of days in which it was right whether the pump wakes oftener within an hour than it stands */
  huntRightPct: number;
}

export interface DaysResult extends Foretold {
  count: number;
  /** % of the days that truly hunt */
  huntPct: number;
  /** from plate and settings alone */
  plate: Foretold;
}

/** Starts under one a day count as one: nobody is a third off for a single start. */
const leastStarts = 1;

function errors(all: readonly JudgedDay[], error: (d: JudgedDay) => number): OfErrors {
  const sorted = all.map(error).sort((a, b) => a - b);
  return { medianErrorPct: pct(quantile(sorted, 0.5)), p90ErrorPct: pct(quantile(sorted, 0.9)) };
}

function foretold(all: readonly JudgedDay[], way: (d: JudgedDay) => DaySeen): Foretold {
  return {
    startsPerHour: errors(all, (d) => Math.abs(way(d).starts - d.truth.starts) / Math.max(leastStarts, d.truth.starts)),
    lowestPressure: errors(all, (d) => Math.abs(way(d).lowest - d.truth.lowest) / Math.max(1, d.truth.lowest)),
    huntRightPct: pct(all.filter((d) => way(d).perHour > d.allowed === d.truth.perHour > d.allowed).length / all.length),
  };
}

export const daysOf = (all: readonly JudgedDay[]): DaysResult => ({
  count: all.length,
  huntPct: pct(all.filter((d) => d.truth.perHour > d.allowed).length / all.length),
  ...foretold(all, (d) => d.fitted),
  plate: foretold(all, (d) => d.plate),
});

/** docs/accuracy-days.md. */
export function daysPage(all: readonly JudgedDay[], seed: number): string {
  const r = daysOf(all);
  const row = (name: string, f: Foretold) =>
    `| ${[name, `${f.startsPerHour.medianErrorPct} / ${f.startsPerHour.p90ErrorPct}`, `${f.lowestPressure.medianErrorPct} / ${f.lowestPressure.p90ErrorPct}`, f.huntRightPct].join(' | ')} |`;
  return `# How well a day of sleep and wake is foretold

Made by \`npm run accuracy -- --part days\`; never edited by hand. Seed ${seed}, ${all.length} days of as many pumps, every one of them **simulated**; ${all.filter((d) => !d.wasFitted).length} could
not be fitted. ${heldBy('days', (n) => all[n])}.

Each day is lived through with the drive's own terminals, loop, sleep and ramps on the bench's laws of pump, pipe, taps and transmitter (apps/bench/truth): curves
bent otherwise than the handbook's, water with its own inertia, an accumulator of unknown size, a sensor with noise and drift, on another day than the constants were drawn on.
The motor follows its frequency less its slip; what its windings do within a second is left out. The look-ahead knows the plate and what a person at the pump finds out first: a step
test, some speeds against the shut valve, and one draw it may sleep through, held and then watched while the pressure falls. Then a day of quarter hours is foretold:
a leak at night, shifts, somebody who washes. Demands are known as they flow at the set point. Starts are those out of sleep; a pump hunts when it wakes oftener within an hour than its
motor and pump stand.

Each cell is the median error / the 90th percentile, in % of what came. Wanted: medians within 10 %, hunting foretold rightly in 95 %. ${r.huntPct} % of the days hunt.

|  | starts an hour | lowest pressure | hunting foretold rightly, % |
|---|---|---|---|
${row('with the process fitted', r)}
${row('from the plate alone', r.plate)}
`;
}
