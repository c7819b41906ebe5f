import type { DriveSettings } from '@yare/books';
import { decode, inForce } from '../command/decode';
import { presetTable } from '../command/presets';
import { reallyRuns, type Observer } from './observer';

/** Hz at which each preset was seen to run, by its number. */
export type PresetsFound = Readonly<Record<number, number>>;

/** Hz from its preset at which a speed counts as reached, and s it has to stay there. */
const within = 0.2;
const lasts = 1;

/** The real switches, turned while it runs: a preset counts once the output has stood at it. */
export function presetsObserver(inDrive: DriveSettings): Observer<{ preset: number; since: number } | null, PresetsFound> {
  const given = new Map(presetTable(inDrive).rows.map((r) => [r.number, r.given]));
  return {
    begin: null,
    none: {},
    look(pending, found, s) {
      if (!reallyRuns(s)) return { pending: null, found };
      const decoded = decode(inDrive, s);
      const preset = decoded.told.speed === 'preset' ? inForce(inDrive, decoded).preset : 0;
      const wanted = given.get(preset) ?? null;
      if (preset <= 0 || wanted === null || Math.abs(s.outputFrequency - wanted) >= within) return { pending: null, found };
      const since = pending?.preset === preset ? pending.since : s.at;
      const stood = s.at - since >= lasts * 1000;
      return { pending: { preset, since }, found: stood && found[preset] === undefined ? { ...found, [preset]: s.outputFrequency } : found };
    },
  };
}
