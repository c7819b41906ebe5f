import knex, { type Knex } from 'knex';
import { migrations } from './migrations';

export type Db = Knex;

/** A pool on a PostgreSQL URL. Call `migrate` before anything else uses it. */
export const connect = (url: string): Db => knex({ client: 'pg', connection: url, pool: { min: 0, max: 10 } });

/** Brings the schema up to date: forward only. */
export async function migrate(db: Db): Promise<void> {
  await db.migrate.latest({
    migrationSource: {
      getMigrations: async () => Object.keys(migrations),
      getMigrationName: (name: string) => name,
      getMigration: async (name: string) => migrations[name]!,
    },
  });
}
