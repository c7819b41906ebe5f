import { largestOf } from '../extremes';
import { DriveState, stateFromStatusWord } from '../drive';
import { between, lastOf, runBegan } from './samples';
import type { TripCase } from './tripCase';

/** What one look at a case says: an outcome, and the figures it stands on, by what they are. */
export interface Seen {
  outcome: string;
  figures: Readonly<Record<string, number>>;
}

export const seen = (outcome: string, figures: Record<string, number> = {}): Seen => ({ outcome, figures });

export type Look = (c: TripCase) => Seen | null;

/** First band whose end a figure stays below; the last has no end. */
export const banded = (x: number, ...bands: ReadonlyArray<readonly [outcome: string, below: number]>): string =>
  (bands.find(([, below]) => x < below) ?? bands[bands.length - 1] ?? ['', 0])[0];

export const enabled = ({ snapshot: { status } }: TripCase): boolean | null => {
  if (status === null) return null;
  const state = stateFromStatusWord(status);
  return state === DriveState.operationEnabled || state === DriveState.quickStop || state === DriveState.faultReaction;
};

/** Hz at the trip, by the drive. */
export const frequencyOf = (c: TripCase): number | null => c.snapshot.outputFrequency ?? lastOf(c, 'outputFrequency', 0.05);

/** Hz that the machine reached in the run that came to this, as far as anybody knows. */
export function topOf(c: TripCase): number | null {
  const all = [
    ...between(c.trend, 'outputFrequency', Math.max(-300, runBegan(c.trend)), 0),
    ...between(c.trace, 'outputFrequency', -2, 0),
    c.snapshot.outputFrequency ?? 0,
  ];
  const top = largestOf(all.map(Math.abs));
  return top > 3 ? top : null;
}
