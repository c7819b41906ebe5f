import type { PlateRevision, StampedPlate } from '@yare/contract';
import type { Db } from '../db/connect';
import { json, type MachineRow, type PlateRow } from '../db/tables';
import type { DocumentKind } from '../documents/documents';
import { notFound } from '../problem';

const asRevision = ({ revision, plate, author, at }: PlateRow): PlateRevision => ({ revision, plate, author, at: at.toISOString() });

/** The newest plate. @throws ProblemError 404 for a machine without one */
export async function plateOf(db: Db, machineId: number): Promise<PlateRevision> {
  const row = await db('plate_revisions').where({ machine_id: machineId }).orderBy('revision', 'desc').first();
  if (!row) throw notFound('plate of this machine');
  return asRevision(row);
}

/** The plate as it was known at a time; the first one before any, or without one. @param at ISO 8601; null for the first */
export async function plateAt(db: Db, machineId: number, at: string | null): Promise<StampedPlate> {
  const all = () => db('plate_revisions').where({ machine_id: machineId });
  const known = at === null ? undefined : await all().where('at', '<=', at).orderBy('revision', 'desc').first();
  const row = known ?? (await all().orderBy('revision', 'asc').first());
  if (!row) throw notFound('plate of this machine');
  return asRevision(row).plate;
}

/** Appends a revision inside a transaction that holds the machine's row. */
export async function appendPlate(trx: Db, m: Pick<MachineRow, 'id'>, revision: number, author: string, plate: StampedPlate): Promise<PlateRevision> {
  await trx('plate_revisions').insert({ machine_id: m.id, revision, plate: json(plate), author });
  return plateOf(trx, m.id);
}

export const plateDocument: DocumentKind<PlateRevision, StampedPlate, 'edit plate'> = {
  called: 'the plate',
  action: 'edit plate',
  latest: (db, m) => plateOf(db, m.id),
  append: appendPlate,
  told: (before, after) => ({ revision: after.revision, before: before?.plate ?? null, after: after.plate }),
};
