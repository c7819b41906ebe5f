import knex, { type Knex } from 'knex';
import { migrations } from './migrations';

export type Db = Knex;

/** A pool on a PostgreSQL URL. Call `migrate` before anything else uses it. */
export const connect = (url: string, most = 10): Db => knex({ client: 'pg', connection: { connectionString: url }, pool: { min: 0, max: most } });

/** The URL a pool was made with. */
export const urlOf = (db: Db): string => (db.client as { config: { connection: { connectionString: string } } }).config.connection.connectionString;

const migrationSource: Knex.MigrationSource<[string, Knex.Migration]> = {
  getMigrations: async () => Object.entries(migrations),
  getMigrationName: ([name]) => name,
  getMigration: async ([, migration]) => migration,
};

/** Brings the schema up to date: forward only. */
export async function migrate(db: Db): Promise<void> {
  await db.migrate.latest({ migrationSource });
}
