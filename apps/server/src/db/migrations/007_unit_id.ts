import type { Knex } from 'knex';

/** A unit is what a figure is in; where a drive answers is its Modbus unit identifier. */
export async function up(db: Knex): Promise<void> {
  await db.schema.alterTable('machines', (t) => {
    t.renameColumn('unit', 'unit_id');
  });
}

export async function down(): Promise<void> {
  throw new Error('Migrations run forward only.');
}
