import type { Db } from '../db/connect';
import type { MachineRow } from '../db/tables';
import { notFound } from '../problem';

export type { MachineRow } from '../db/tables';

/** @throws ProblemError 404 */
export async function machineByTag(db: Db, tag: string): Promise<MachineRow> {
  const row = await db('machines').where({ tag }).first();
  if (!row) throw notFound(`machine ${tag}`);
  return row;
}

/** Locks a machine's row for the rest of the transaction, and gives it as it stands now. @throws ProblemError 404 */
export async function lockMachine(trx: Db, id: number): Promise<MachineRow> {
  const row = await trx('machines').where({ id }).forUpdate().first();
  if (!row) throw notFound('such machine');
  return row;
}

/** What a machine is called, where it stands and which drive it has. */
export const nameOf = (m: MachineRow) => ({ tag: m.tag, name: m.name, site: m.site, area: m.area, bookId: m.book_id, size: m.size });
