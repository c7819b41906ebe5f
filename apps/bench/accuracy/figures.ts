import { lookAheadBand, type BandQuantity } from '@yare/commissioning';
import { quantities, type Quantity } from './quantities';
import { stands, type Judged, type Shown, type Stand } from './oneMachine';

export interface Spread {
  medianPct: number;
  p95Pct: number;
}

/** What stands beside a true figure: an estimate, or the same machine on the other day. */
export type Beside = Stand | 'sameOtherDay';

export interface OfQuantity extends Partial<Record<Beside, Spread>> {
  /** machines that had the figure */
  count: number;
  /** share of them inside the band stated after learning */
  insideBandPct: number;
}

export interface Result {
  quantities: Partial<Record<Quantity, OfQuantity>>;
  /** of what the screens give a band: share of the machines inside it */
  insideBandPct: Partial<Record<BandQuantity, { plate: number; learning: number }>>;
  /** by what it stood on; after learning */
  tripsRightPct: Record<Beside, number>;
  tripDecisionRightPct: number;
  unsafeStops: number;
}

/** A stated band, as a share of the figure foreseen. */
export type Band = (kind: Judged['kind'], learned: boolean, quantity: BandQuantity | Quantity | 'safeStop') => number | null;

export const quantile = (sorted: readonly number[], q: number): number => sorted[Math.min(sorted.length - 1, Math.floor(q * sorted.length))] ?? NaN;
export const pct = (x: number): number => Math.round(x * 10000) / 100;

/** An estimate that could not be made is as wrong as can be. */
const failure = 1;

/** Errors as shares of the true figure, ascending. */
export function errorsOf(all: readonly Judged[], quantity: Quantity, stand: Beside): number[] {
  return all
    .flatMap(({ truth, foreseen, sameOtherDay }) => {
      const true_ = truth[quantity];
      if (true_ === undefined || true_ === 0) return [];
      if (stand === 'sameOtherDay') {
        const then = sameOtherDay.truth[quantity];
        return then === undefined ? [] : [Math.abs(then / true_ - 1)];
      }
      const said = foreseen[stand]?.[quantity];
      return [said === undefined || !Number.isFinite(said) ? failure : Math.abs(said / true_ - 1)];
    })
    .sort((a, b) => a - b);
}

export const bandQuantities = ['peak bus', 'stop time', 'peak current', 'settled speed', 'settled pressure'] as const satisfies BandQuantity[];

/** Errors of what the screens show, of machines that did not trip; ascending. */
export function shownErrors(all: readonly Judged[], quantity: keyof Shown, side: 'plate' | 'learning'): number[] {
  return all
    .flatMap(({ shown, truthTrips }) => {
      const was = shown.truth[quantity];
      const said = shown[side]?.[quantity] ?? null;
      return truthTrips || !was || said === null ? [] : [Math.abs(was / said - 1)];
    })
    .sort((a, b) => a - b);
}

/** How far the true figure lay from the one foreseen, over that; machines that have both. Ascending. */
export function beside(all: readonly Judged[], quantity: Quantity, side: 'plate' | 'learning'): number[] {
  return all
    .flatMap(({ truth, foreseen }) => {
      const [was, said] = [truth[quantity], foreseen[side]?.[quantity]];
      return was === undefined || !said ? [] : [Math.abs(was / said - 1)];
    })
    .sort((a, b) => a - b);
}

/**
 * By so many times what any machine of its kind fell short a stop is lengthened before it is offered, and by so much at least, which is as far as one
 * day's lies from another's. An estimate from the plate is wide as it is.
 */
const further = { plate: 1, learning: 2, least: 0.12 };

/** Share by which the shortest stop foreseen has to be lengthened so that it trips no machine. */
export function safeStopOf(all: readonly Judged[], side: 'plate' | 'learning'): number {
  const short = all.flatMap(({ truth, foreseen }) => {
    const [was, said] = [truth.shortestStop, foreseen[side]?.shortestStop];
    return was === undefined || !said ? [] : [was / said - 1];
  });
  return Math.ceil(Math.max(further.least, further[side] * Math.max(0, ...short)) * 1000) / 1000;
}

/** Share of machines not yet seen that a band is to hold. */
const held = 0.95;

/**
 * The error that a machine not among these stays within with that probability: the k-th of n holds k / (n + 1) of what comes (Wilks, *Annals of
 * Mathematical Statistics* 12, 1941). Of fewer than nineteen it is the largest, which holds a little less. @param sorted ascending
 */
export const bandWidth = (sorted: readonly number[]): number => sorted[Math.min(sorted.length, Math.ceil(held * (sorted.length + 1))) - 1] ?? NaN;

/** Bands by kind of machine as the screens draw them: what nineteen of twenty machines are off at most. */
export function bandsOf(all: readonly Judged[]): Record<string, Record<'estimate' | 'learned', Record<string, number>>> {
  const side = (kind: string, of: 'plate' | 'learning') => {
    const these = all.filter((j) => j.kind === kind);
    const entry = (name: string, errors: readonly number[]) => (errors.length > 0 ? [[name, Math.ceil(bandWidth(errors) * 1000) / 1000]] : []);
    return Object.fromEntries([
      ['safeStop', safeStopOf(these, of)],
      ...bandQuantities.flatMap((q) => entry(q, shownErrors(these, q, of))),
      ...quantities.flatMap((q) => entry(q, beside(these, q, of))),
    ]);
  };
  return Object.fromEntries(
    [...new Set(all.map((j) => j.kind))].map((kind) => [kind, { estimate: side(kind, 'plate'), learned: side(kind, 'learning') }]),
  );
}

/** Each machine, and the bands made from all the others. */
export const besideOthers = (all: readonly Judged[]): Array<{ judged: Judged; band: Band }> =>
  all.map((judged) => {
    const bands = bandsOf(all.filter((j) => j !== judged));
    return { judged, band: (kind, learned, quantity) => bands[kind]?.[learned ? 'learned' : 'estimate'][quantity] ?? null };
  });

/** Share by which what is offered may lie below the true shortest stop. */
const mayLack = 0.03;

/** Whether the stop the screens would offer after learning lies below the true shortest one. */
export function isUnsafe({ kind, truth, foreseen }: Judged, band: Band): boolean {
  const learned = foreseen.learning !== null;
  const said = (foreseen.learning ?? foreseen.plate)?.shortestStop ?? 0;
  return said * (1 + (band(kind, learned, 'safeStop') ?? 0)) < (1 - mayLack) * (truth.shortestStop ?? 0);
}

/** @param band what the screens draw: that of the file that ships, or of other machines than those judged */
export function resultOf(all: readonly Judged[], band: Band = lookAheadBand): Result {
  const spread = (errors: number[]): Spread => ({ medianPct: pct(quantile(errors, 0.5)), p95Pct: pct(quantile(errors, 0.95)) });
  const inside = (quantity: BandQuantity, side: 'plate' | 'learning') => {
    const judged = all.flatMap((j) => {
      const errors = shownErrors([j], quantity, side);
      const width = band(j.kind, side === 'learning', quantity);
      return errors.map((e) => width !== null && e <= width);
    });
    return pct(judged.filter(Boolean).length / judged.length);
  };
  const insideOf = (quantity: Quantity) => {
    const judged = all.flatMap((j) => {
      const width = band(j.kind, true, quantity);
      return j.truth[quantity] === undefined ? [] : beside([j], quantity, 'learning').map((e) => width !== null && e <= width);
    });
    return pct(judged.filter(Boolean).length / judged.length);
  };
  const right = (stand: Stand) => pct(all.filter((j) => j.trips[stand] === j.truthTrips).length / all.length);
  return {
    quantities: Object.fromEntries(
      quantities.flatMap((q) => {
        const count = errorsOf(all, q, 'naive').length;
        return count === 0
          ? []
          : [
              [
                q,
                {
                  count,
                  insideBandPct: insideOf(q),
                  ...Object.fromEntries([...stands, 'sameOtherDay' as const].map((s) => [s, spread(errorsOf(all, q, s))])),
                },
              ],
            ];
      }),
    ),
    insideBandPct: Object.fromEntries(bandQuantities.map((q) => [q, { plate: inside(q, 'plate'), learning: inside(q, 'learning') }])),
    tripsRightPct: {
      ...(Object.fromEntries(stands.map((s) => [s, right(s)])) as Record<Stand, number>),
      sameOtherDay: pct(all.filter((j) => j.sameOtherDay.trips === j.truthTrips).length / all.length),
    },
    tripDecisionRightPct: right('learning'),
    unsafeStops: all.filter((j) => isUnsafe(j, band)).length,
  };
}
