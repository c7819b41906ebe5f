import type { TripCause } from '../drive';
import type { Cause, RemedyKind } from './cause';
import { busCauses } from './busCauses';
import { motorCauses } from './motorCauses';
import { measurements, type Measurement, type MeasurementId } from './measurements';
import { mechanicalCauses } from './mechanicalCauses';
import { observe, type ObservationId, type Seen } from './observations';
import { processCauses } from './processCauses';
import type { TripCase } from './tripCase';
import { usually } from './usual';

/** Whatever the library does not know of: everything looks as it usually does. Its share of all causes of a trip is common practice. */
export const noneOfThese = 'none of these';
const shareOfNone = 0.08;
const none = (trip: TripCause): Cause => ({ id: noneOfThese, trips: [trip], often: 0, expects: {}, remedy: 'at the machine' });

export const causes: readonly Cause[] = [...busCauses, ...motorCauses, ...mechanicalCauses, ...processCauses];

type FactId = ObservationId | MeasurementId;

/** One thing seen that speaks for a cause or against it. */
export interface Evidence {
  id: FactId;
  seen: Seen;
  /** bits by which it is more likely under this cause than under the others; below zero it speaks against it */
  bits: number;
}

export interface RankedCause {
  /** of the library's cause */
  id: string;
  remedy: RemedyKind;
  /** the trip it would have come about by: the case's own, or the likeliest where nobody has read the display */
  trip: TripCause;
  /** 0 to 1, of all that are possible */
  probability: number;
  /** strongest first */
  evidence: Evidence[];
}

/** A measurement that is still to be taken, and what it is worth. */
export interface NextMeasurement {
  id: MeasurementId;
  what: Measurement;
  /** expected gain of information, bits (Lindley 1956: entropy before less mean entropy after) */
  gain: number;
  /** gain over what it costs in time and care */
  worth: number;
}

export interface Diagnosis {
  /** likeliest first */
  ranked: RankedCause[];
  /** bits still open */
  entropy: number;
  /** most worth first */
  next: NextMeasurement[];
  seen: Partial<Record<FactId, Seen>>;
}

/**
 * What is seen of one machine is not independent: a stop too short shows in torque, bus and ramp at once. Each fact counts for this share of what it
 * would if it stood alone (a tempered likelihood; the share is common practice).
 */
const tempered = 0.75;
/** An answer that says that nothing could be told. */
export const tellsNothing = 'held by its brake';
/** No outcome is taken as impossible. */
const least = 0.004;

/** Share of cases in which a cause is seen with an outcome. */
export function likelihood(cause: Cause, id: FactId, outcome: string): number {
  if (outcome === tellsNothing) return least;
  const own = cause.expects[id];
  const all = usually[id];
  if (!own) return Math.max(least, all[outcome] ?? least);
  const named = own[outcome];
  if (named !== undefined) return Math.max(least, named);
  const rest = 1 - Object.values(own).reduce((a, p) => a + p, 0);
  const unnamed = Object.keys(all).filter((o) => own[o] === undefined && o !== tellsNothing).length;
  return Math.max(least, rest / Math.max(1, unnamed));
}

/** Shannon entropy in bits. */
export const entropyOf = (p: readonly number[]): number => p.reduce((h, x) => (x > 0 ? h - x * Math.log2(x) : h), 0);

const normal = (weights: readonly number[]): number[] => {
  const sum = weights.reduce((a, w) => a + w, 0);
  return weights.map((w) => (sum > 0 ? w / sum : 1 / weights.length));
};

/** Probabilities of hypotheses after an outcome. @param p before it @param given likelihood of the outcome under each */
export const after = (p: readonly number[], given: readonly number[]): number[] => normal(p.map((x, i) => x * (given[i] ?? 0)));

/**
 * Expected gain of information in bits of an experiment: the entropy of the hypotheses less its mean after the outcome is known (Lindley, *On a measure of the
 * information provided by an experiment*, 1956).
 * @param table for each outcome its likelihood under each hypothesis
 */
export function informationGain(p: readonly number[], table: readonly (readonly number[])[]): number {
  const mean = table.reduce((h, given) => {
    const chance = p.reduce((a, x, i) => a + x * (given[i] ?? 0), 0);
    return h + chance * entropyOf(after(p, given));
  }, 0);
  return Math.max(0, entropyOf(p) - mean);
}

/** What a step between states costs beside time: a live panel and a turning machine ask for care, isolating for a permit (common practice). */
const care: Record<Measurement['state'], number> = { 'as it is': 1, running: 0.85, 'live panel': 0.8, isolated: 0.7 };
/** min in which half of a measurement's worth is gone: at night nobody waits. */
const patience = 6;

function candidatesOf(c: TripCase): Array<{ cause: Cause; trip: TripCause }> {
  const possible = causes.filter((x) => x.can?.(c) ?? true);
  const { cause: trip } = c;
  if (trip !== null) return possible.filter((x) => x.trips.includes(trip)).map((cause) => ({ cause, trip }));
  return possible.flatMap((cause) => cause.trips.slice(0, 1).map((first) => ({ cause, trip: first })));
}

const answered = (c: TripCase): Partial<Record<MeasurementId, Seen>> =>
  Object.fromEntries(
    (Object.keys(measurements) as MeasurementId[]).flatMap((id) => {
      const outcome = c.answers[id];
      return outcome === undefined ? [] : [[id, { outcome, figures: {} }] as const];
    }),
  );

/** What is worth measuring next: whatever separates the causes that are left, soonest and with least care. */
function nextOf(list: readonly Cause[], p: readonly number[], taken: Partial<Record<FactId, Seen>>): NextMeasurement[] {
  return (Object.entries(measurements) as Array<[MeasurementId, Measurement]>)
    .filter(([id]) => taken[id] === undefined && list.some((x) => x.expects[id] !== undefined))
    .map(([id, what]) => {
      const table = Object.keys(usually[id])
        .filter((o) => o !== tellsNothing)
        .map((o) => list.map((x) => likelihood(x, id, o)));
      const gain = informationGain(p, table);
      return { id, what, gain, worth: (gain * care[what.state]) / (1 + what.minutes / patience) };
    })
    .filter((n) => n.gain > 0.01)
    .sort((a, b) => b.worth - a.worth);
}

/** Ranks everything that can have led to a trip by all that is known of it: naive Bayes over the library's causes, its likelihoods as data. */
export function diagnose(c: TripCase): Diagnosis {
  const facts: Partial<Record<FactId, Seen>> = { ...observe(c), ...answered(c) };
  const known = candidatesOf(c);
  const often = ({ cause, trip }: (typeof known)[number]): number => cause.oftenFor?.[trip] ?? cause.often;
  const others = known.reduce((a, x) => a + often(x), 0);
  const trip = c.cause ?? known[0]?.trip ?? 'settingsConflict';
  const list = [...known, { cause: { ...none(trip), often: (shareOfNone / (1 - shareOfNone)) * (others || 1) }, trip }];
  const named = Object.entries(facts).filter(
    ([id, s]) => s.outcome !== tellsNothing && list.some(({ cause }) => cause.expects[id as FactId] !== undefined),
  ) as Array<[FactId, Seen]>;
  const weight = (id: FactId): number => (id in measurements || c.answers[id] !== undefined ? 1 : tempered);
  const p = normal(list.map((x) => named.reduce((w, [id, s]) => w * likelihood(x.cause, id, s.outcome) ** weight(id), often(x))));
  const evidenceOf = (cause: Cause, i: number): Evidence[] =>
    named
      .map(([id, s]): Evidence => {
        const given = likelihood(cause, id, s.outcome);
        const left = 1 - (p[i] ?? 0);
        // against the others as likely as they are; where none is left, against how it usually is
        const rest = list.reduce((a, x, k) => (k === i ? a : a + (p[k] ?? 0) * likelihood(x.cause, id, s.outcome)), 0);
        const elsewhere = left > 1e-6 ? rest / left : (usually[id][s.outcome] ?? least);
        return { id, seen: s, bits: Math.log2(given / Math.max(least, elsewhere)) };
      })
      .filter((e) => Math.abs(e.bits) > 0.35)
      .sort((a, b) => Math.abs(b.bits) - Math.abs(a.bits));
  const ranked = list
    .map(({ cause, trip }, i): RankedCause => ({ id: cause.id, remedy: cause.remedy, trip, probability: p[i] ?? 0, evidence: evidenceOf(cause, i) }))
    .sort((a, b) => b.probability - a.probability);
  return {
    ranked,
    entropy: entropyOf(p),
    next: nextOf(
      list.map((x) => x.cause),
      p,
      facts,
    ),
    seen: facts,
  };
}
