import { nth } from './present';

/** The largest of any number of figures: an hour of samples is more than a call takes as arguments. @returns `none` of an empty list */
export function largestOf(values: ArrayLike<number>, none = -Infinity): number {
  let most = none;
  for (let i = 0; i < values.length; i++) if (nth(values, i) > most) most = nth(values, i);
  return most;
}

/** The smallest, likewise. */
export function smallestOf(values: ArrayLike<number>, none = Infinity): number {
  let least = none;
  for (let i = 0; i < values.length; i++) if (nth(values, i) < least) least = nth(values, i);
  return least;
}
