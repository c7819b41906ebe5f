import knex, { type Knex } from 'knex';
import { migrations } from './migrations';

export type Db = Knex;

/** A pool on a PostgreSQL URL. Call `migrate` before anything else uses it. */
export const connect = (url: string): Db => knex({ client: 'pg', connection: url, pool: { min: 0, max: 10 } });

const migrationSource: Knex.MigrationSource<[string, Knex.Migration]> = {
  getMigrations: async () => Object.entries(migrations),
  getMigrationName: ([name]) => name,
  getMigration: async ([, migration]) => migration,
};

/** Brings the schema up to date: forward only. */
export async function migrate(db: Db): Promise<void> {
  await db.migrate.latest({ migrationSource });
}
