import { bookById, DriveSettings } from '@yare/books';
import { differing, figuresOf, newerOf } from '@yare/commissioning';
import type { MachineSummary } from '@yare/contract';
import type { Db } from '../db/connect';
import type { MachineRow } from '../db/tables';
import { leavingOf } from '../leaving/leaving';
import { nameOf } from './machines';

/** A row of every machine by its machine's id. */
const byMachine = <R extends { machine_id: number }>(rows: readonly R[]): Map<number, R> => new Map(rows.map((r) => [r.machine_id, r]));

/** Every machine with what the plant page tells of it: one question a table, however many machines there are. */
export async function plantList(db: Db): Promise<MachineSummary[]> {
  const newest = (kind: 'draft' | 'in drive' | 'as found') =>
    db('sheets as s')
      .join('machines as m', (on) => on.on('m.id', 's.machine_id').on('m.drive_revision', 's.drive_revision'))
      .where('s.kind', kind)
      .select<Array<Newest & { machine_id: number }>>('s.machine_id', 's.values', 's.at');
  const [machines, plates, drafts, inDrive, asFound, left, open] = await Promise.all([
    db('machines').orderBy('id'),
    db('plate_revisions')
      .distinctOn('machine_id')
      .orderBy([{ column: 'machine_id' }, { column: 'revision', order: 'desc' }]),
    newest('draft'),
    newest('in drive'),
    newest('as found'),
    db('leavings'),
    db('trips').whereNull('closed').groupBy('machine_id').select('machine_id').count<Array<{ machine_id: number; count: string }>>('id as count'),
  ]);
  const of = {
    plates: byMachine(plates),
    drafts: byMachine(drafts),
    inDrive: byMachine(inDrive),
    asFound: byMachine(asFound),
    left: byMachine(left),
    open: byMachine(open),
  };
  return machines.map((m) => {
    const plate = of.plates.get(m.id)?.plate;
    const gone = of.left.get(m.id);
    return {
      ...nameOf(m),
      plate: { power: plate?.power ?? 0, powerUnit: plate?.powerUnit ?? 'kW' },
      voltage: m.supply.voltage,
      openTrips: Number(of.open.get(m.id)?.count ?? 0),
      ...standing(m, of.drafts.get(m.id), of.inDrive.get(m.id), of.asFound.get(m.id)),
      left: gone ? leavingOf(gone) : null,
    };
  });
}

type Newest = { values: Record<string, { value: number }>; at: Date };
const dated = ({ at }: Newest) => ({ at: at.toISOString() });

/** In how many settings draft and drive differ, and which was changed last. */
function standing(m: MachineRow, draft?: Newest, inDrive?: Newest, asFound?: Newest): Pick<MachineSummary, 'differences' | 'newer'> {
  if (!draft || !inDrive) return { differences: null, newer: null };
  const drafted = new DriveSettings(bookById(m.book_id), m.size, figuresOf(draft.values), m.region);
  const differences = differing(drafted, drafted.with(figuresOf(inDrive.values))).length;
  return { differences, newer: differences > 0 ? newerOf(dated(draft), dated(inDrive), asFound ? dated(asFound) : null) : null };
}
