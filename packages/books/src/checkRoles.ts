import type { DriveBook, SettingDefinition } from '@yare/contract';
import { requiredRoles, roleEntry, type RoleUnit } from '@yare/core';

/** What is wrong with the role of a setting, and the line of the book it stands in, from 1; 0 where the book is not written a line a figure. */
export interface RoleFault {
  line: number;
  code: string;
  fault: 'no such role' | 'role twice' | 'unit' | 'no choices' | 'no such choice';
  /** the role, the unit or the choice that is wrong */
  what: string;
}

/** Units a book may state a role's figure in: {@link DriveSettings} knows the factor. Shares may stand as percent, speeds by the motor's pole pairs. */
const statedIn: Readonly<Record<RoleUnit, readonly string[]>> = {
  Hz: ['Hz', 'rpm'],
  s: ['s', '1/min'],
  A: ['A', '%'],
  V: ['V'],
  W: ['W', 'kW'],
  Ω: ['Ω', 'mΩ'],
  rpm: ['rpm'],
  kHz: ['kHz'],
  h: ['h'],
  min: ['min'],
  share: ['%'],
  number: ['', '%'],
};

function faultsOf(s: SettingDefinition, before: ReadonlySet<string>): Array<Pick<RoleFault, 'fault' | 'what'>> {
  if (s.role === undefined) return [];
  const entry = roleEntry(s.role);
  if (!entry) return [{ fault: 'no such role', what: s.role }];
  const twice: Array<Pick<RoleFault, 'fault' | 'what'>> = before.has(s.role) ? [{ fault: 'role twice', what: s.role }] : [];
  if (entry.kind === 'figure') return statedIn[entry.unit].includes(s.unit) ? twice : [...twice, { fault: 'unit', what: s.unit }];
  if (!s.options) return [...twice, { fault: 'no choices', what: s.role }];
  const known = Object.values(entry.choices);
  const strange = s.options.filter((o) => !known.includes(o.means ?? o.value));
  return [...twice, ...strange.map((o) => ({ fault: 'no such choice' as const, what: o.label }))];
}

/**
 * Holds the roles of a book against the catalogue: a misspelt one would be a control that is not there.
 * @param text the book as it is written, where the lines are counted
 * @returns faults in the order of the lines, and the roles every family must have and this one lacks
 */
export function checkRoles(book: Pick<DriveBook, 'settings'>, text: string): { faults: RoleFault[]; lacking: string[] } {
  // every role stands in a line of its own, in the order of the settings
  const lines = text.split('\n').flatMap((l, i) => (/^\s*"role":/.test(l) ? [i + 1] : []));
  const seen = new Set<string>();
  const faults = book.settings
    .filter((s) => s.role !== undefined)
    .flatMap((s, i) => {
      const found = faultsOf(s, seen).map((f) => ({ line: lines[i] ?? 0, code: s.code, ...f }));
      seen.add(s.role ?? '');
      return found;
    });
  return { faults, lacking: requiredRoles.filter((r) => !seen.has(r)) };
}
