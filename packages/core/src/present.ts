/** What has to be there by now: the value itself, or an error where it is missing. */
export function present<T>(value: T | null | undefined): T {
  if (value === null || value === undefined) throw new Error('a value that has to be there is missing');
  return value;
}

/**
 * An element that has to be there, counted from 0. Called from everywhere it reads arrays of every kind, which is slow: where a loop runs through
 * samples, `xs[i] ?? NaN` stands instead.
 * @throws RangeError past either end
 */
export function nth<T>(xs: ArrayLike<T>, i: number): T {
  const x = xs[i];
  if (x === undefined) throw new RangeError(`no element ${i} of ${xs.length}`);
  return x;
}
