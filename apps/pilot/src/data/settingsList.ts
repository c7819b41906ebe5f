import type { FileValue } from '@yare/commissioning';
import { factoryValue, groupOf, storedValue, wordsOf, type Setting } from '@yare/books';
import type { MachineModel } from './machineModel';

export type SettingsFilter = 'all' | 'changed' | 'differing' | 'locked' | 'read';

export const isChanged = (m: MachineModel, s: Setting): boolean =>
  s.access !== 'read' && storedValue(s, m.draftOf(s.code).value) !== factoryValue(s, m.machine.region);

/** Settings that a search finds by code, name or meaning, and that a filter lets through. Every word must be found. */
export function findSettings(m: MachineModel, search: string, filter: SettingsFilter): Setting[] {
  const words = search.toLowerCase().split(/\s+/).filter(Boolean);
  return m.settings.filter((s) => {
    const passes =
      filter === 'all' ||
      (filter === 'changed' && isChanged(m, s)) ||
      (filter === 'differing' && m.differing.includes(s)) ||
      (filter === 'locked' && s.access === 'stopped') ||
      (filter === 'read' && s.access === 'read');
    if (!passes) return false;
    const group = m.book.groups.find((g) => g.id === groupOf(s.code))?.name ?? '';
    const text = [s.code, s.name, group, s.help, s.unit, ...(s.options?.map((o) => o.label) ?? [])].join(' ').toLowerCase();
    return words.every((w) => text.includes(w));
  });
}

/** One line of instructions for entering the draft at the drive's own keys. */
export interface KeypadLine {
  code: string;
  name: string;
  /** as the drive shows it: stored, with its decimals; a choice by its number */
  enter: string;
  /** what it means, where the keys show a number */
  means: string;
}

/** What has to be keyed in so that the drive holds the draft: only what differs from the factory's values (or from the drive, once it was read). */
export function keypadList(m: MachineModel): KeypadLine[] {
  const settings = m.inDrive ? m.differing : m.settings.filter((s) => isChanged(m, s));
  return settings.map((s) => {
    const stored = storedValue(s, m.draftOf(s.code).value);
    return {
      code: s.code,
      name: s.name,
      enter: s.options ? String(stored) : `${stored.toFixed(s.decimals)}${s.unit ? ` ${s.unit}` : ''}`,
      means: s.options ? wordsOf(s, stored) : '',
    };
  });
}

/** The draft as a file takes it. */
export const fileValues = (m: MachineModel): FileValue[] =>
  m.settings.flatMap((s) => {
    if (s.access === 'read') return [];
    const { value, source } = m.draftOf(s.code);
    const known = m.draft.values[s.code];
    const same = known && known.value === value;
    return [{ code: s.code, value, source, author: same ? known.author : '', at: same ? known.at : '' }];
  });
