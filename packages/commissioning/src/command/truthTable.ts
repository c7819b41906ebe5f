import type { DriveSettings } from '@yare/books';
import { InputJob } from '@yare/core';
import { say } from '@yare/words/command';
import { resolveRow } from './enumerate';
import { restsClosed } from './quiet';
import { hz, inputIds } from './words';

/** Jobs that have a say in whether it runs and which way. */
const starting: readonly InputJob[] = [
  InputJob.runForward,
  InputJob.runReverse,
  InputJob.startPulse,
  InputJob.reversePulse,
  InputJob.stopOpens,
  InputJob.direction,
  InputJob.hand,
  InputJob.auto,
  InputJob.local,
  InputJob.enable,
  InputJob.jogForward,
  InputJob.jogReverse,
];
/** More contacts than this make a table nobody reads. */
const mostContacts = 5;

export interface TruthTable {
  /** terminals of its columns */
  terminals: string[];
  rows: Array<{ closed: boolean[]; runs: boolean; outcome: string }>;
}

/** What comes of every combination of the contacts that start, stop and choose, closed from all open; everything else is at rest. */
export function truthTable(d: DriveSettings): TruthTable {
  const { command } = d.controls();
  const columns = command.jobs.flatMap((job, i) => (starting.includes(job) ? [i] : [])).slice(0, mostContacts);
  const rest = command.jobs.map((job) => restsClosed.includes(job) || (job === InputJob.externalTrip && !command.externalTripOpenIsHealthy));
  const rows = Array.from({ length: 2 ** columns.length }, (_, n) => {
    const closed = columns.map((_c, i) => ((n >> i) & 1) === 1);
    const all = rest.map((r, i) => (columns.includes(i) ? closed[columns.indexOf(i)] === true : r));
    const r = resolveRow(command, all);
    const way = r.reference !== null && r.reference < 0 ? 'backward' : 'forward';
    const at = r.reference === null ? say.atWhatTheProcessAsks : hz(Math.abs(r.reference));
    return {
      closed,
      runs: r.run && r.reference !== 0,
      outcome: !r.run ? 'stands' : r.reference === 0 ? say.isToldToRunStands : say.runs({ way, at }),
    };
  });
  return { terminals: columns.map((i) => inputIds(d)[i] ?? ''), rows };
}
