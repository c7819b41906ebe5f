import type { DriveSettings } from '@yare/books';
import { InputJob, resolveCommand, wakingMemory, type CommandInputs, type CommandMode, type CommandSettings, type Resolution } from '@yare/core';
import { quietInputs, restsClosed } from './quiet';

/** Contacts of the inputs as a number: bit 0 is the first input. */
export type Row = number;

/** What a drive with these settings does at every combination of its contacts, closed from all open while everything else is well. */
export interface Enumeration {
  inputs: number;
  /** by row */
  rows: readonly Resolution[];
  /** modes that can come about at all */
  modes: readonly CommandMode[];
}

export const contactsAt = (row: Row, inputs: number): boolean[] => Array.from({ length: inputs }, (_, i) => ((row >> i) & 1) === 1);

/** The contacts before anybody closes one: stops and enables are closed already where the row closes them. */
function openFor(s: CommandSettings, closed: readonly boolean[]): boolean[] {
  return closed.map((is, i) => is && (restsClosed.includes(s.jobs[i] ?? 0) || s.jobs[i] === InputJob.local));
}

/** What the drive does at one combination. @param change of what is well otherwise */
export function resolveRow(s: CommandSettings, closed: readonly boolean[], change: Partial<CommandInputs> = {}): Resolution {
  const inputs = { ...quietInputs, ...change };
  const first = resolveCommand(s, { ...inputs, closed: openFor(s, closed) }, wakingMemory(false), 0.01);
  return resolveCommand(s, { ...inputs, closed }, first.memory, 0.01);
}

/** The last few that were worked out, newest last: a page asks again for every figure that is typed elsewhere. */
const known: Array<{ key: string; of: Enumeration }> = [];
const mostKnown = 6;

/** Every mode and every combination of the inputs. */
export function enumerateCommand(settings: DriveSettings): Enumeration {
  const { command } = settings.controls();
  const key = JSON.stringify(command);
  const before = known.find((k) => k.key === key);
  if (before) return before.of;
  const of = enumerateAll(command);
  known.push({ key, of });
  if (known.length > mostKnown) known.shift();
  return of;
}

function enumerateAll(command: CommandSettings): Enumeration {
  const inputs = command.jobs.length;
  const rows = Array.from({ length: 2 ** inputs }, (_, row) => resolveRow(command, contactsAt(row, inputs)));
  return { inputs, rows, modes: [...new Set(rows.map((r) => r.mode))] };
}

/** What of a resolution an input can change, as one text. */
const effect = (r: Resolution): string =>
  [r.mode, r.run, r.start, r.speed, r.preset, r.run ? r.reference : '', r.secondRamp, r.externalTrip, r.flow, r.memory.reset].join(' ');

/** Inputs that have a job in a mode and never change anything there. */
export function idleInputs(e: Enumeration, jobs: readonly InputJob[], mode: CommandMode): number[] {
  const effects = e.rows.map(effect);
  return jobs.flatMap((job, i) => {
    if (job === InputJob.notUsed) return [];
    const bit = 1 << i;
    const works = e.rows.some((r, row) => {
      const other = e.rows[row ^ bit];
      return (r.mode === mode || other?.mode === mode) && effects[row] !== effects[row ^ bit];
    });
    return works ? [] : [i];
  });
}
