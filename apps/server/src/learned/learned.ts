import type { LearnedRevision } from '@yare/contract';
import type { Db } from '../db/connect';

/** The newest of what was learned; null when nothing was yet. */
export async function learnedOf(db: Db, machineId: number): Promise<LearnedRevision | null> {
  const row = await db('learned_revisions').where({ machine_id: machineId }).orderBy('revision', 'desc').first();
  return row ? { revision: row.revision, values: row.values, recordingId: row.recording_id, author: row.author, at: row.at.toISOString() } : null;
}
