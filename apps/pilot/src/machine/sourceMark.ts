import type { Source } from '@yare/contract';

/** Marks of where a value came from, set in the margin. */
export const sourceMark: Record<Source, string> = {
  factory: 'F',
  plate: 'P',
  'worked out': 'W',
  chosen: 'C',
  measured: 'M',
  'read from drive': 'R',
  imported: 'I',
};
