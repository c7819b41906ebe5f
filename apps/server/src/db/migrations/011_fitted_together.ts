import type { Knex } from 'knex';

/** A model may be fitted to two runs together. */
export async function up(db: Knex): Promise<void> {
  await db.schema.alterTable('learned_revisions', (t) => {
    t.integer('also_recording_id').references('recordings.id');
  });
}

export async function down(): Promise<void> {
  throw new Error('Migrations run forward only.');
}
