import { heldBy } from '../again';
import { causes } from '@yare/core/trips';
import type { JudgedTrip } from './judge';

type Way = 'withRecording' | 'snapshotOnly' | 'afterOneMeasurement';
const ways: readonly Way[] = ['withRecording', 'snapshotOnly', 'afterOneMeasurement'];

const share = (all: readonly JudgedTrip[], is: (t: JudgedTrip) => boolean): number =>
  all.length === 0 ? 0 : Math.round((1000 * all.filter(is).length) / all.length) / 10;
const within =
  (way: Way, most: number) =>
  (t: JudgedTrip): boolean =>
    t[way].rank > 0 && t[way].rank <= most;

export interface TripsResult {
  trips: number;
  withRecording: { top1Pct: number; top3Pct: number };
  snapshotOnly: { top1Pct: number; top3Pct: number };
  afterOneMeasurement: { top1Pct: number; top3Pct: number };
  /** of the first causes said with at least nine in ten, how many were right */
  surePct: number;
}

const led = (all: readonly JudgedTrip[]): JudgedTrip[] => all.filter((t) => t.trip !== null);

/** How often the right cause stands first, and within three. */
export function tripsOf(judged: readonly JudgedTrip[]): TripsResult {
  const all = led(judged);
  const of = (way: Way) => ({ top1Pct: share(all, within(way, 1)), top3Pct: share(all, within(way, 3)) });
  const sure = all.filter((t) => t.withRecording.probability >= 0.9);
  return {
    trips: all.length,
    ...{ withRecording: of('withRecording'), snapshotOnly: of('snapshotOnly'), afterOneMeasurement: of('afterOneMeasurement') },
    surePct: share(sure, within('withRecording', 1)),
  };
}

const names: Record<Way, string> = {
  withRecording: 'with the recording',
  snapshotOnly: 'code and record alone',
  afterOneMeasurement: 'recording and the one measurement asked for',
};

/** What was taken for what: each true cause with the first ones that were said. */
function confusion(all: readonly JudgedTrip[]): string {
  const truths = causes.map((c) => c.id).filter((id) => all.some((t) => t.cause === id));
  const row = (truth: string): string => {
    const of = all.filter((t) => t.cause === truth);
    const said = new Map<string, number>();
    for (const t of of) said.set(t.withRecording.first, (said.get(t.withRecording.first) ?? 0) + 1);
    const list = [...said].sort((a, b) => b[1] - a[1]).map(([id, n]) => `${id} ${n}`);
    return `| ${truth} | ${of.length} | ${[...new Set(of.map((t) => t.trip))].join(', ')} | ${list.join(', ')} | ${share(of, within('withRecording', 1))} | ${share(of, within('afterOneMeasurement', 1))} |`;
  };
  return ['| cause | trips | seen as | said first | right % | after one measurement % |', '|---|---|---|---|---|---|', ...truths.map(row)].join('\n');
}

/** The page of the documents on trips. */
export function tripsPage(judged: readonly JudgedTrip[], seed: number): string {
  const r = tripsOf(judged);
  const all = led(judged);
  const spared = judged.reduce((n, t) => n + t.spared, 0);
  const line = (way: Way) => `| ${names[way]} | ${r[way].top1Pct} | ${r[way].top3Pct} |`;
  return `# Accuracy of the causes of trips

Made by \`npm run accuracy -- --part trips --seed ${seed}\`; never edited by hand; ${r.trips} trips, every one of them **simulated**; ${spared} more machines
were led into the same and did not trip. ${heldBy('trips', (n) => judged[n])}.

Each machine of the bench is led to its trip by a fault of the bench or by wrong settings. The application is told what the link tells: the record in the drive's
trip memory, its settings, the two seconds the drive keeps where its family does, and what a link that is asked once a second said before and after. The
library's likelihoods were written from common practice and tried on other seeds (3 to 5); none of them is fitted to these trips. Faults of the bench that lead to no trip by themselves (leads
changed over, a leaking check valve, a clogged filter, a motor fan that is blocked for minutes and not for hours) are not among them.

|  | right cause first, % | within three, % |
|---|---|---|
${ways.map(line).join('\n')}

Wanted with the recording: 90 first, 98 within three. Where it gives the first cause nine chances in ten or more, it is right in ${r.surePct} %.

The one measurement is the one the application asks for; its answer is what a person would read at that machine of the bench after the trip.

## What was taken for what

${confusion(all)}
`;
}
