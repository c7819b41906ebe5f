import type { Knex } from 'knex';

/** Machines people put on record: what they drive may be an estimate, and no two drives answer at one address. */
export async function up(db: Knex): Promise<void> {
  await db.schema.alterTable('machines', (t) => {
    t.boolean('driven_estimated').notNullable().defaultTo(false);
    t.unique(['unit']);
  });
}

export async function down(): Promise<void> {
  throw new Error('Migrations run forward only.');
}
