import type { WriteJob, WriteLine } from '@yare/contract';
import type { Db } from './db/connect';

type JobRow = Omit<WriteJob, 'at' | 'revision'> & { at: Date; draft_revision: number };
const asJob = ({ id, state, sentence, lines, draft_revision, author, at }: JobRow): WriteJob => ({
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
  const row = (await db('write_jobs').where({ machine_id: machineId }).orderBy('id', 'desc').first()) as JobRow | undefined;
  return row ? asJob(row) : null;
}

export async function beginWrite(db: Db, machineId: number, draftRevision: number, author: string): Promise<number> {
  const [row] = await db('write_jobs')
    .insert({ machine_id: machineId, draft_revision: draftRevision, state: 'writing', sentence: 'Writing…', lines: '[]', author })
    .returning('id');
  return (row as { id: number }).id;
}

export const noteWrite = (
  db: Db,
  id: number,
  change: { state?: WriteJob['state']; sentence?: string; lines: readonly WriteLine[] },
): Promise<unknown> =>
  db('write_jobs')
    .where({ id })
    .update({ ...change, lines: JSON.stringify(change.lines) });

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
