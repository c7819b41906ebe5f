import type { DriveBook } from '@yare/contract';
import { roleValue, storedValue, type Setting } from './book';

type Values = Readonly<Record<string, number>>;

/**
 * The value a setting takes so that its role has a figure in the model's unit and numbering; on the setting's step. Null when the family
 * has no such choice.
 */
export function settingValue(book: DriveBook, size: string, s: Setting, inRole: number, values: Values): number | null {
  if (s.options) return s.options.find((o) => (o.means ?? o.value) === inRole)?.value ?? null;
  // a figure's role is a plain multiple of it, so one tells the factor
  return storedValue(s, inRole / roleValue(book, size, { ...s, options: undefined }, 1, values));
}
