import type { DriveSettings, Setting } from '@yare/books';
import { clampReference, InputJob, limitedBy, SpeedSource, type Limited } from '@yare/core';

/** One selection of the preset contacts. */
export interface PresetRow {
  /** 0 with all contacts open: what the source itself gives, the keypad's figure where the presets are the source */
  number: number;
  /** by contact, lowest first */
  closed: boolean[];
  setting: Setting | null;
  /** Hz, signed; null where another source gives it */
  asked: number | null;
  given: number | null;
  limited: Limited | null;
  /** preset that gives the same speed */
  alike: number | null;
}

/** The contacts that choose presets, and what each selection gives. */
export interface PresetTable {
  /** bit, terminal and job setting of each contact, lowest bit first */
  contacts: Array<{ bit: number; input: number; setting: Setting }>;
  rows: PresetRow[];
  /** presets with a speed that no selection reaches */
  unreached: number[];
}

const bits = [InputJob.presetBit0, InputJob.presetBit1, InputJob.presetBit2, InputJob.presetBit3] as const;
/** Hz by which two speeds must differ to be two. */
const alikeWithin = 0.05;

/** What the preset contacts of a mode choose. */
export function presetTable(d: DriveSettings, mode: 'remote' | 'local' = 'remote'): PresetTable {
  const { command } = d.controls();
  const jobs = mode === 'local' ? command.localJobs : command.jobs;
  const contacts = bits.flatMap((job, bit) => {
    const input = jobs.indexOf(job);
    const setting = d.inputs[input];
    return setting ? [{ bit, input, setting }] : [];
  });
  const { speed } = mode === 'local' ? command.local : command.remote;
  const open = speed === SpeedSource.presets || speed === SpeedSource.keypad ? command.keypadSpeed : null;
  const rows = Array.from({ length: 2 ** contacts.length }, (_, n): PresetRow => {
    const closed = contacts.map((_c, i) => ((n >> i) & 1) === 1);
    const number = contacts.reduce((sum, c, i) => sum + (closed[i] ? 1 << c.bit : 0), 0);
    const asked = number === 0 ? open : (command.presets[number - 1] ?? 0);
    const given = asked === null ? null : clampReference(command.limits, asked);
    const limited = asked === null || given === null ? null : limitedBy(command.limits, asked, given);
    return { number, closed, setting: d.find(`preset${number}`) ?? null, asked, given, limited, alike: null };
  });
  for (const row of rows)
    row.alike =
      rows.find((r) => r.number < row.number && r.given !== null && row.given !== null && Math.abs(r.given - row.given) < alikeWithin)?.number ??
      null;
  const reached = new Set(rows.map((r) => r.number));
  const unreached = command.presets.flatMap((hertz, i) => (hertz !== 0 && !reached.has(i + 1) ? [i + 1] : []));
  return { contacts, rows, unreached };
}
