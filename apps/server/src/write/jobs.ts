import type { WriteJob, WriteLine } from '@yare/contract';
import type { Db } from '../db/connect';
import { json, type WriteJobRow } from '../db/tables';

const asJob = ({ id, state, sentence, lines, draft_revision, author, at }: WriteJobRow): WriteJob => ({
  id,
  state,
  sentence,
  lines,
  revision: draft_revision,
  author,
  at: at.toISOString(),
});

/** The newest write of a machine; null before the first. */
export async function latestWrite(db: Db, machineId: number): Promise<WriteJob | null> {
  const row = await db('write_jobs')
    .where({ machine_id: machineId })
    .orderBy([
      { column: 'at', order: 'desc' },
      { column: 'id', order: 'desc' },
    ])
    .first();
  return row ? asJob(row) : null;
}

/** Notes that a write has begun. @returns its number */
export async function beginWrite(db: Db, machineId: number, draftRevision: number, author: string): Promise<number> {
  const [row] = await db('write_jobs')
    .insert({ machine_id: machineId, draft_revision: draftRevision, state: 'writing', sentence: 'Writing…', lines: '[]', author })
    .returning('id');
  if (!row) throw new Error('The database stored no write.');
  return row.id;
}

/** Notes how a write goes, or how it ended. */
export async function noteWrite(
  db: Db,
  id: number,
  { lines, ...rest }: { state?: WriteJob['state']; sentence?: string; lines: readonly WriteLine[] },
): Promise<void> {
  await db('write_jobs')
    .where({ id })
    .update({ ...rest, lines: json(lines) });
}

/** Writes this server did not live to finish: what came of their last line is not known. */
export async function closeInterruptedWrites(db: Db): Promise<void> {
  await db('write_jobs').where({ state: 'writing' }).update({
    state: 'interrupted',
    sentence: 'The server stopped in the middle of this write. What is listed as verified was in the drive then, unkept; go on with the rest.',
  });
}

/** A write whose account was lost with the database, while this server lived on. */
export async function closeForsakenWrite(db: Db, job: WriteJob): Promise<WriteJob> {
  const sentence = 'The server lost its database in the middle of this write. What is listed as verified was in the drive then; go on with the rest.';
  await db('write_jobs').where({ id: job.id, state: 'writing' }).update({ state: 'interrupted', sentence });
  return { ...job, state: 'interrupted', sentence };
}

/** Whether a write broke off in a way that can be gone on with. */
export const canResume = (job: WriteJob | null): job is WriteJob =>
  job !== null && (job.state === 'link lost' || job.state === 'interrupted') && job.lines.length > 0;
