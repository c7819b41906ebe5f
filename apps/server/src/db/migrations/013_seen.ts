import type { Knex } from 'knex';

/** What the server watches machines for, what it saw and nobody has counted yet, and of a proof what was seen, as figures and codes. */
export async function up(db: Knex): Promise<void> {
  await db.schema.createTable('watched', (t) => {
    t.integer('machine_id').primary().references('machines.id');
    t.timestamp('until').notNullable();
  });
  await db.schema.createTable('seen', (t) => {
    t.integer('machine_id').notNullable().references('machines.id');
    t.text('watch').notNullable();
    t.text('grounds').notNullable();
    t.jsonb('found').notNullable();
    t.timestamp('at').notNullable().defaultTo(db.fn.now());
    t.primary(['machine_id', 'watch']);
  });
  // proofs are history: what is added to their rows is empty
  await db.raw('alter table proofs add column facts jsonb');
}

export async function down(): Promise<void> {
  throw new Error('Migrations run forward only.');
}
