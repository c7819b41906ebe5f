import type { Knex } from 'knex';

/**
 * The older of two accounts of each write goes: what it holds from before the jobs were kept moves over to them.
 */
export async function up(db: Knex): Promise<void> {
  await db.raw(`INSERT INTO write_jobs (machine_id, draft_revision, state, sentence, lines, author, at)
    SELECT w.machine_id, 0, w.outcome, 'Written before more of it was kept than its lines.', w.lines, w.author, w.at FROM writes w
    WHERE w.at < coalesce((SELECT min(j.at) FROM write_jobs j WHERE j.machine_id = w.machine_id), 'infinity')`);
  await db.schema.dropTable('writes');
}

export async function down(): Promise<void> {
  throw new Error('Migrations run forward only.');
}
