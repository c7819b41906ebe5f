import type { Knex } from 'knex';

/** Rows of these tables are history: the database itself refuses to change or delete them. */
const immutable = ['plate_revisions', 'sheet_revisions', 'audit_events', 'recording_chunks', 'writes'];

export async function up(db: Knex): Promise<void> {
  await db.schema.createTable('machines', (t) => {
    t.increments('id');
    t.text('tag').notNullable().unique();
    t.text('name').notNullable();
    t.text('site').notNullable();
    t.text('area').notNullable();
    t.text('book_id').notNullable();
    t.text('size').notNullable();
    t.integer('region').notNullable();
    t.jsonb('supply').notNullable();
    t.jsonb('driven').notNullable();
    t.integer('unit').notNullable();
  });
  await db.schema.createTable('plate_revisions', (t) => {
    t.increments('id');
    t.integer('machine_id').notNullable().references('machines.id');
    t.integer('revision').notNullable();
    t.jsonb('plate').notNullable();
    t.text('author').notNullable();
    t.timestamp('at').notNullable().defaultTo(db.fn.now());
    t.unique(['machine_id', 'revision']);
  });
  await db.schema.createTable('sheet_revisions', (t) => {
    t.increments('id');
    t.integer('machine_id').notNullable().references('machines.id');
    t.text('kind').notNullable();
    t.integer('revision').notNullable();
    t.jsonb('values').notNullable();
    t.text('author').notNullable();
    t.timestamp('at').notNullable().defaultTo(db.fn.now());
    t.unique(['machine_id', 'kind', 'revision']);
  });
  await db.schema.createTable('audit_events', (t) => {
    t.increments('id');
    t.timestamp('at').notNullable().defaultTo(db.fn.now());
    t.text('author').notNullable();
    t.text('action').notNullable();
    t.text('tag');
    t.jsonb('detail').notNullable();
  });
  await db.schema.createTable('writes', (t) => {
    t.increments('id');
    t.integer('machine_id').notNullable().references('machines.id');
    t.timestamp('at').notNullable().defaultTo(db.fn.now());
    t.text('author').notNullable();
    t.text('outcome').notNullable();
    t.jsonb('lines').notNullable();
  });
  await recordingTables(db);
  await db.raw(`CREATE FUNCTION refuse_change() RETURNS trigger LANGUAGE plpgsql AS $$
    BEGIN RAISE EXCEPTION 'rows of % are history and are never changed', TG_TABLE_NAME; END $$`);
  for (const table of immutable) {
    await db.raw(`CREATE TRIGGER history BEFORE UPDATE OR DELETE ON ${table} FOR EACH ROW EXECUTE FUNCTION refuse_change()`);
  }
}

async function recordingTables(db: Knex): Promise<void> {
  await db.schema.createTable('recordings', (t) => {
    t.increments('id');
    t.integer('machine_id').notNullable().references('machines.id');
    t.text('title').notNullable();
    t.text('author').notNullable();
    t.timestamp('started_at').notNullable();
    t.double('duration').notNullable().defaultTo(0);
    t.integer('samples').notNullable().defaultTo(0);
    t.boolean('complete').notNullable().defaultTo(false);
    t.jsonb('channels').notNullable();
    t.index(['machine_id', 'id']);
  });
  await db.schema.createTable('recording_marks', (t) => {
    t.increments('id');
    t.integer('recording_id').notNullable().references('recordings.id');
    t.double('time').notNullable();
    t.text('label').notNullable();
    t.text('author').notNullable();
  });
  await db.schema.createTable('recording_chunks', (t) => {
    t.integer('recording_id').notNullable().references('recordings.id');
    t.integer('sequence').notNullable();
    t.text('channel').notNullable();
    t.binary('data').notNullable();
    t.primary(['recording_id', 'channel', 'sequence']);
  });
}

export async function down(): Promise<void> {
  throw new Error('Migrations run forward only.');
}
