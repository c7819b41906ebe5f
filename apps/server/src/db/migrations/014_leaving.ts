import type { Knex } from 'knex';

/** Who left a machine with stages unproved: no proof any more. What was told before stages were kept stays as its text. */
export async function up(db: Knex): Promise<void> {
  await db.schema.createTable('leavings', (t) => {
    t.integer('machine_id').primary().references('machines.id');
    t.text('author').notNullable();
    t.timestamp('at').notNullable().defaultTo(db.fn.now());
    t.jsonb('stages').notNullable();
    t.text('told').nullable();
  });
  await db.raw(`
    insert into leavings (machine_id, author, at, stages, told)
    select machine_id, author, at, '[]', measured from (
      select distinct on (machine_id) * from proofs where stage = 'plan' and item = 'left' order by machine_id, id desc
    ) as newest where outcome = 'failed'`);
  await db.raw('drop index proofs_left');
}

export async function down(): Promise<void> {
  throw new Error('Migrations run forward only.');
}
