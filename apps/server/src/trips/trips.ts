import { bookById } from '@yare/books';
import { actCodes, acts, type TripDetail, type TripEntry, type TripNew, type TripSnapshot } from '@yare/contract';
import type { Db } from '../db/connect';
import { json, type MachineRow, type TripRow } from '../db/tables';
import { notFound } from '../problem';

type Tagged = TripRow & { tag: string };
const tagged = (db: Db) => db('trips').join('machines', 'machines.id', 'trips.machine_id').select('trips.*', 'machines.tag as tag');

const entryOf = (r: Tagged): TripEntry => ({
  ...{ id: r.id, tag: r.tag, source: r.source, code: r.code, cause: r.cause, name: r.name, at: r.at.toISOString(), seen: r.seen, closed: r.closed },
});

/** Days before a trip in which what was done at the machine may have led to it, and in which it counts as the same trip again. */
const lately = 14;
const repeating = 30;
/** s within which machines are taken to have tripped together. */
const together = 60;
const day = 86_400_000;

/** What somebody does at a machine that may lead to a trip, or belongs to its story; a survey has an older name in older logs. */
const lateActions = [...actCodes.filter((code) => acts[code].lately), 'survey'];

/** Newest first, of one machine or all; open ones alone where asked. */
export async function listTrips(db: Db, of: { machineId?: number; open?: boolean; limit: number }): Promise<TripEntry[]> {
  const q = tagged(db)
    .orderBy([
      { column: 'trips.at', order: 'desc' },
      { column: 'trips.id', order: 'desc' },
    ])
    .limit(of.limit);
  if (of.machineId !== undefined) void q.where('trips.machine_id', of.machineId);
  if (of.open) void q.whereNull('trips.closed');
  return (await q).map(entryOf);
}

/** @throws ProblemError 404 */
export async function tripRow(db: Db, id: number): Promise<Tagged> {
  const row = await tagged(db).where('trips.id', id).first();
  if (!row) throw notFound(`trip ${id}`);
  return row;
}

/** A trip with what led up to it. @throws ProblemError 404 */
export async function tripDetail(db: Db, id: number): Promise<TripDetail> {
  const row = await tripRow(db, id);
  const machine = await db('machines').where({ id: row.machine_id }).first();
  const events = await db('audit_events')
    .where({ tag: row.tag })
    .whereIn('action', lateActions)
    .where('at', '<', row.at)
    .where('at', '>', new Date(row.at.getTime() - lately * day))
    .whereRaw("coalesce(detail->>'step', 'done') = 'done'")
    .orderBy('id', 'desc')
    .limit(8);
  const others = await tagged(db)
    .whereNot('trips.machine_id', row.machine_id)
    .whereBetween('trips.at', [new Date(row.at.getTime() - together * 1000), new Date(row.at.getTime() + together * 1000)]);
  const [{ count: repeats = 0 } = {}] = await db('trips')
    .where({ machine_id: row.machine_id, cause: row.cause })
    .where('id', '<', row.id)
    .where('at', '>', new Date(row.at.getTime() - repeating * day))
    .count<Array<{ count: string | number }>>('id as count');
  return {
    entry: entryOf(row),
    ...{
      snapshot: row.snapshot,
      afterwards: row.afterwards,
      inDrive: row.in_drive,
      trendId: row.trend_id,
      traceId: row.trace_id,
      trendTrippedAt: row.trend_tripped_at,
      answers: row.answers,
    },
    lately: events.map((e) => ({ at: e.at.toISOString(), author: e.author, action: e.action, detail: e.detail })),
    others: [...new Set(others.map((o) => o.tag))],
    repeats: Number(repeats),
    note: machine?.note ?? '',
  };
}

export interface FoundTrip {
  source: TripEntry['source'];
  code: number | null;
  snapshot: TripSnapshot;
  at?: Date;
  seen?: boolean;
  answers?: TripNew['answers'];
  inDrive?: Record<string, number> | null;
  seenIn?: { recordingId: number; at: number };
}

/** Puts a trip on record and gives its number. */
export async function storeTrip(db: Db, m: MachineRow, t: FoundTrip): Promise<number> {
  const known = bookById(m.book_id).trips.find((x) => x.code === t.code);
  const name = known?.name ?? (t.code === null ? 'Trip, code not read' : `Code ${t.code}`);
  const [row] = await db('trips')
    .insert({
      ...{ machine_id: m.id, source: t.source, code: t.code, cause: known?.cause ?? null, name, seen: t.seen ?? true },
      ...(t.at && { at: t.at }),
      ...(t.seenIn && { trend_id: t.seenIn.recordingId, trend_tripped_at: t.seenIn.at }),
      ...{ snapshot: json(t.snapshot), answers: json(t.answers ?? {}), in_drive: t.inDrive ? json(t.inDrive) : null, afterwards: null, closed: null },
    })
    .returning('id');
  if (!row) throw new Error('The database stored no trip.');
  return row.id;
}
