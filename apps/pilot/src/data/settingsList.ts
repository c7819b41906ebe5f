import type { FileValue } from '@yare/commissioning/settingsFile';
import { groupOf, type Setting } from '@yare/books';
import { isChanged, type MachineModel } from '@yare/commissioning';

export type SettingsFilter = 'all' | 'changed' | 'differing' | 'locked' | 'read';

/** Settings that a search finds by code, name or meaning, and that a filter lets through. Every word must be found. */
export function findSettings(m: MachineModel, search: string, filter: SettingsFilter): Setting[] {
  const words = search.toLowerCase().split(/\s+/).filter(Boolean);
  const passes: Record<SettingsFilter, (s: Setting) => boolean> = {
    all: () => true,
    changed: (s) => isChanged(m.drafted, s),
    differing: (s) => m.differing.includes(s),
    locked: (s) => s.access === 'stopped',
    read: (s) => s.access === 'read',
  };
  return m.drafted.all.filter((s) => {
    if (!passes[filter](s)) return false;
    const group = m.drafted.book.groups.find((g) => g.id === groupOf(s.code))?.name ?? '';
    const text = [s.code, s.name, group, s.help, s.unit, ...(s.options?.map((o) => o.label) ?? [])].join(' ').toLowerCase();
    return words.every((w) => text.includes(w));
  });
}

/** The draft as a file takes it. */
export const fileValues = (m: MachineModel): FileValue[] =>
  m.drafted.all.flatMap((s) => {
    if (s.access === 'read') return [];
    const { value, source } = m.draftOf(s.code);
    const known = m.draft.values[s.code];
    const same = known && known.value === value;
    return [{ code: s.code, value, source, author: same ? known.author : '', at: same ? known.at : '' }];
  });
