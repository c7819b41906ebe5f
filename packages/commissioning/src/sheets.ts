import { storedValue, type DriveSettings, type Setting } from '@yare/books';

/** Settings whose draft, as the drive would store it, is not what the drive holds; what can only be read is left out. */
export const differing = (draft: DriveSettings, inDrive: DriveSettings): Setting[] =>
  draft.all.filter((s) => s.access !== 'read' && storedValue(s, draft.value(s)) !== storedValue(s, inDrive.value(s)));

/** Settings that are not as from the factory, as the drive would store them. */
export const notAsFactory = (settings: DriveSettings): Setting[] => settings.all.filter((s) => isChanged(settings, s));

export const isChanged = (settings: DriveSettings, s: Setting): boolean =>
  s.access !== 'read' && storedValue(s, settings.value(s)) !== settings.factory(s);

type Revision = { at: string };

/**
 * Which of draft and drive was changed last, where they differ. A drive that still is as it was found was not changed since: the draft is
 * what was worked on.
 */
export const newerOf = (draft: Revision, inDrive: Revision, asFound: Revision | null): 'draft' | 'drive' =>
  draft.at > inDrive.at || inDrive.at === asFound?.at ? 'draft' : 'drive';

/** Values of a sheet by code. */
export const figuresOf = (values: Readonly<Record<string, { value: number }>>): Record<string, number> =>
  Object.fromEntries(Object.entries(values).map(([code, v]) => [code, v.value]));
