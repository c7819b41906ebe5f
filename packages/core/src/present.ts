/** What has to be there by now: the value itself, or an error where it is missing. */
export function present<T>(value: T | null | undefined): T {
  if (value === null || value === undefined) throw new Error('a value that has to be there is missing');
  return value;
}
