import type { Knex } from 'knex';

/** Trips with what their drives remembered of them, and what people made of them. */
export async function up(db: Knex): Promise<void> {
  await db.schema.createTable('trips', (t) => {
    t.increments('id');
    t.integer('machine_id').notNullable().references('machines.id');
    t.text('source').notNullable();
    t.integer('code');
    t.text('cause');
    t.text('name').notNullable();
    t.timestamp('at').notNullable().defaultTo(db.fn.now());
    t.boolean('seen').notNullable().defaultTo(true);
    t.jsonb('snapshot').notNullable();
    t.jsonb('afterwards');
    t.jsonb('in_drive');
    t.integer('trend_id').references('recordings.id');
    t.integer('trace_id').references('recordings.id');
    t.jsonb('answers').notNullable().defaultTo('{}');
    t.jsonb('closed');
    t.index(['machine_id', 'id']);
  });
  await db.schema.alterTable('machines', (t) => {
    // how many trips its drive said there ever were, when it was last asked
    t.integer('trips_counted');
    t.text('note').notNullable().defaultTo('');
  });
}

export async function down(): Promise<void> {
  throw new Error('Migrations run forward only.');
}
