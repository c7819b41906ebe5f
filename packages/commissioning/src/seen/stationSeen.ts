import type { Observer } from './observer';

/** What was seen of the pumps of a station, by their numbers: those that ran together and those left of them; those that went and came at once. */
export interface StationFound {
  staging?: { together: readonly number[]; left: readonly number[] };
  replaced?: { gone: readonly number[]; come: readonly number[] };
}

/** A pump that comes and goes again, and one that takes the place of another. */
export const stationObserver: Observer<{ before: readonly number[]; most: readonly number[] }, StationFound> = {
  begin: { before: [], most: [] },
  none: {},
  look({ before, most }, found, s) {
    const now = s.link === 'up' ? s.pumps : [];
    const gone = before.filter((n) => !now.includes(n));
    const come = now.filter((n) => !before.includes(n));
    if (before.length === 0 || now.length === 0 || (gone.length === 0 && come.length === 0)) return { pending: { before: now, most }, found };
    if (gone.length > 0 && come.length > 0) return { pending: { before: now, most }, found: { ...found, replaced: { gone, come } } };
    if (come.length > 0) return { pending: { before: now, most: now }, found };
    const staged = most.length > now.length;
    return { pending: { before: now, most }, found: staged ? { ...found, staging: { together: most, left: now } } : found };
  },
};
