import type { Wiring, WiringRevision } from '@yare/contract';
import type { Db } from '../db/connect';
import { json } from '../db/tables';
import type { DocumentKind } from '../documents/documents';
import { notFound } from '../problem';

/** What is wired to a drive as it was last noted; null before the first. */
export async function wiringOf(db: Db, machineId: number): Promise<WiringRevision | null> {
  const row = await db('wiring_revisions').where({ machine_id: machineId }).orderBy('revision', 'desc').first('revision', 'wiring', 'author', 'at');
  return row ? { ...row, at: row.at.toISOString() } : null;
}

export const wiringDocument: DocumentKind<WiringRevision, Wiring, 'edit wiring'> = {
  called: 'the wiring',
  action: 'edit wiring',
  latest: (db, m) => wiringOf(db, m.id),
  append: async (trx, m, revision, author, wiring) => {
    await trx('wiring_revisions').insert({ machine_id: m.id, revision, wiring: json(wiring), author });
    const now = await wiringOf(trx, m.id);
    if (!now) throw notFound('wiring');
    return now;
  },
  told: (before, after) => ({ revision: after.revision, before: before?.wiring ?? null, after: after.wiring }),
};
