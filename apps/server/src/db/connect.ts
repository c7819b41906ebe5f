import knex, { type Knex } from 'knex';
import { migrations } from './migrations';

export type Db = Knex;

/** What a page asks is answered within this, or not at all, ms. */
const usualPatience = 10_000;

/**
 * A pool on a PostgreSQL URL. Call `migrate` before anything else uses it.
 * @param patience ms a question may take, at the database and here, where one that hangs cannot say so, and twice what a connection may; 0 for work that
 * takes its time
 */
export const connect = (url: string, { most = 10, patience = usualPatience } = {}): Db =>
  knex({
    client: 'pg',
    connection: {
      connectionString: url,
      connectionTimeoutMillis: patience / 2,
      ...(patience > 0 && { statement_timeout: patience, query_timeout: patience + 1000 }),
    },
    pool: { min: 0, max: most },
    acquireConnectionTimeout: patience || 60_000,
  });

/** The URL a pool was made with. */
export const urlOf = (db: Db): string => (db.client as { config: { connection: { connectionString: string } } }).config.connection.connectionString;

const migrationsUpTo = (last: string): Knex.MigrationSource<[string, Knex.Migration]> => ({
  getMigrations: async () => Object.entries(migrations).filter(([name]) => name <= last),
  getMigrationName: ([name]) => name,
  getMigration: async ([, migration]) => migration,
});

/** Brings the schema up to date: forward only. @param last the last migration to run, as a database of its day had it */
export async function migrate(db: Db, last = '\uffff'): Promise<void> {
  await db.migrate.latest({ migrationSource: migrationsUpTo(last) });
}
