import type { Knex } from 'knex';

/** What is wired to a drive, as revisions. */
export async function up(db: Knex): Promise<void> {
  await db.schema.createTable('wiring_revisions', (t) => {
    t.increments('id');
    t.integer('machine_id').notNullable().references('machines.id');
    t.integer('revision').notNullable();
    t.jsonb('wiring').notNullable();
    t.text('author').notNullable();
    t.timestamp('at').notNullable().defaultTo(db.fn.now());
    t.unique(['machine_id', 'revision']);
  });
  await db.raw('CREATE TRIGGER history BEFORE UPDATE OR DELETE ON wiring_revisions FOR EACH ROW EXECUTE FUNCTION refuse_change()');
}

export async function down(): Promise<void> {
  throw new Error('Migrations run forward only.');
}
