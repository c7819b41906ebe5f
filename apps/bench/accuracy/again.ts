import { createHash } from 'node:crypto';
import { judgeAdvice } from './advice/judge';
import { judgeDay } from './days/judgeDay';
import { judgeLoop } from './loops/judge';
import { judgeNth } from './oneMachine';
import { judgeTrip } from './trips/judge';

/** How each part judges the n-th of a seed. */
export const judges = { lookahead: judgeNth, loops: judgeLoop, days: judgeDay, trips: judgeTrip, advice: judgeAdvice } as const;
export type Part = keyof typeof judges;

/** The seed the pages are made with. */
export const publishedSeed = 7;

const first = (count: number) => Array.from({ length: count }, (_, n) => n);
/** Those of a page, by number, that the tests judge again each time: some of every kind and family, as many as their time allows. */
export const judgedAgain = {
  lookahead: [1],
  loops: first(3),
  days: [24],
  trips: [0, 6, 9, 15, 20, 30, 40, 45],
  advice: first(12),
} as const satisfies Record<Part, readonly number[]>;

/** Digits of a figure that another processor's last bit does not move. */
const digits = 6;

/** What some judged ones came to, in sixteen letters: others, and a figure of theirs is another. */
export function fingerprint(judged: readonly unknown[]): string {
  const text = JSON.stringify(judged, (_, x: unknown) => (typeof x === 'number' ? Number(x.toPrecision(digits)) : x));
  return createHash('sha256').update(text).digest('hex').slice(0, 16);
}

/** What a page says of how it would be noticed that its figures hold no more. @param nth the judged one of a number; undefined where there are fewer */
export function heldBy(part: Part, nth: (n: number) => unknown): string {
  const held = judgedAgain[part].filter((n) => nth(n) !== undefined);
  const numbers = held.map((n) => n + 1).join(', ');
  return `Judged again by a test: number ${numbers} of them, which came to ${fingerprint(held.map(nth))}; it fails when a figure of theirs is another`;
}
