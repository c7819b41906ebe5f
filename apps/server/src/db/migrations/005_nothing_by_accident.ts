import type { Knex } from 'knex';

/** Paired devices and their codes, who is behind an event, pauses of the settings lock; photos can be removed. */
export async function up(db: Knex): Promise<void> {
  await db.schema.createTable('devices', (t) => {
    t.increments('id');
    t.text('name').notNullable();
    t.text('token_hash').notNullable().unique();
    t.text('address').notNullable();
    t.timestamp('paired_at').notNullable().defaultTo(db.fn.now());
    t.timestamp('last_used').notNullable().defaultTo(db.fn.now());
    t.timestamp('put_out_at');
    t.text('put_out_by');
  });
  await db.schema.createTable('pairing_codes', (t) => {
    t.increments('id');
    t.text('code_hash').notNullable();
    t.timestamp('expires').notNullable();
    t.integer('tries').notNullable().defaultTo(0);
    t.timestamp('used_at');
  });
  await db.schema.alterTable('audit_events', (t) => {
    t.text('device');
    t.text('address');
  });
  await db.schema.alterTable('settings_locks', (t) => {
    t.integer('wrong').notNullable().defaultTo(0);
    t.timestamp('not_before');
  });
  // a photo takes room and may show what it should not: it can go, and the log says so
  await db.raw('DROP TRIGGER history ON photos');
}

export async function down(): Promise<void> {
  throw new Error('Migrations run forward only.');
}
