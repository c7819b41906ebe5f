import type { Knex } from 'knex';

/** Recorders that wait for something, and trips seen in a recording. */
export async function up(db: Knex): Promise<void> {
  await db.schema.alterTable('machines', (t) => {
    t.jsonb('armed');
  });
  await db.schema.alterTable('trips', (t) => {
    t.double('trend_tripped_at');
  });
  await db.schema.alterTable('recordings', (t) => {
    t.text('kind').notNullable().defaultTo('run');
  });
  await db('recordings')
    .whereIn('id', db('trips').whereNotNull('trend_id').select('trend_id'))
    .orWhereIn('id', db('trips').whereNotNull('trace_id').select('trace_id'))
    .update({ kind: 'trip' });
}

export async function down(): Promise<void> {
  throw new Error('Migrations run forward only.');
}
