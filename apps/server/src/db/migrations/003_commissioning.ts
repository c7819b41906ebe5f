import type { Knex } from 'knex';

/** What commissioning leaves behind: survey, proofs, photos, motors kept for the next machine, short lists, locks, writes as they go. */
export async function up(db: Knex): Promise<void> {
  const machine = (t: Knex.CreateTableBuilder) => t.integer('machine_id').notNullable().references('machines.id');
  const signed = (t: Knex.CreateTableBuilder) => {
    t.text('author').notNullable();
    t.timestamp('at').notNullable().defaultTo(db.fn.now());
  };
  await db.schema.alterTable('machines', (t) => {
    t.integer('drive_revision').notNullable().defaultTo(1);
  });
  // sheets of another drive that stood there before stay in the history and out of the way
  await db.schema.alterTable('sheet_revisions', (t) => {
    t.integer('drive_revision').notNullable().defaultTo(1);
  });
  await db.schema.createTable('survey_revisions', (t) => {
    t.increments('id');
    machine(t);
    t.integer('revision').notNullable();
    t.jsonb('survey').notNullable();
    signed(t);
    t.unique(['machine_id', 'revision']);
  });
  await db.schema.createTable('proofs', (t) => {
    t.increments('id');
    machine(t);
    t.text('stage').notNullable();
    t.text('item').notNullable();
    t.text('outcome').notNullable();
    t.text('expected').notNullable();
    t.text('measured').notNullable();
    t.jsonb('relied').notNullable();
    signed(t);
    t.index(['machine_id', 'stage', 'item', 'id']);
  });
  await db.schema.createTable('photos', (t) => {
    t.increments('id');
    machine(t);
    t.text('type').notNullable();
    t.binary('data').notNullable();
    signed(t);
  });
  await db.schema.createTable('motors', (t) => {
    t.increments('id');
    t.text('name').notNullable().unique();
    t.jsonb('plate').notNullable();
    signed(t);
  });
  await db.schema.createTable('short_lists', (t) => {
    t.increments('id');
    t.text('book_id').notNullable();
    t.text('name').notNullable();
    t.jsonb('codes').notNullable();
    signed(t);
    t.unique(['book_id', 'name']);
  });
  await db.schema.createTable('settings_locks', (t) => {
    t.integer('machine_id').primary().references('machines.id');
    t.text('salt').notNullable();
    t.text('hash').notNullable();
    signed(t);
  });
  await db.schema.createTable('write_jobs', (t) => {
    t.increments('id');
    machine(t);
    t.integer('draft_revision').notNullable();
    t.text('state').notNullable();
    t.text('sentence').notNullable();
    t.jsonb('lines').notNullable();
    signed(t);
    t.index(['machine_id', 'id']);
  });
  for (const table of ['survey_revisions', 'proofs', 'photos'])
    await db.raw(`CREATE TRIGGER history BEFORE UPDATE OR DELETE ON ${table} FOR EACH ROW EXECUTE FUNCTION refuse_change()`);
}

export async function down(): Promise<void> {
  throw new Error('Migrations run forward only.');
}
