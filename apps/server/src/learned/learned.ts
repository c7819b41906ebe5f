import type { LearnedRevision } from '@yare/contract';
import type { Db } from '../db/connect';

/** The newest of what was learned; null when nothing was yet. */
export async function learnedOf(db: Db, machineId: number): Promise<LearnedRevision | null> {
  const row = await db('learned_revisions').where({ machine_id: machineId }).orderBy('revision', 'desc').first();
  if (!row) return null;
  const { revision, values, recording_id: recordingId, also_recording_id: alsoRecordingId, author, at } = row;
  return { revision, values, recordingId, alsoRecordingId, author, at: at.toISOString() };
}
