/** The largest of any number of figures: an hour of samples is more than a call takes as arguments. @returns `none` of an empty list */
export function largestOf(values: ArrayLike<number>, none = -Infinity): number {
  let most = none;
  for (let i = 0; i < values.length; i++) {
    const v = values[i] ?? NaN;
    if (v > most) most = v;
  }
  return most;
}

/** The smallest, likewise. */
export function smallestOf(values: ArrayLike<number>, none = Infinity): number {
  let least = none;
  for (let i = 0; i < values.length; i++) {
    const v = values[i] ?? NaN;
    if (v < least) least = v;
  }
  return least;
}
