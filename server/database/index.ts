/** The database: a pool of connections, the schema as types, and migrations. */
import { drizzle, type NodePgDatabase } from 'drizzle-orm/node-postgres';
import { migrate } from 'drizzle-orm/node-postgres/migrator';
import pg from 'pg';
import { resolve } from 'node:path';
import { connections, settings } from '../config/settings';
import * as schema from './schema';

/** The database with its schema. */
export type Database = NodePgDatabase<typeof schema>;
/** A transaction, as `db().transaction` passes it. */
export type Transaction = Parameters<Parameters<Database['transaction']>[0]>[0];
let pool: pg.Pool | undefined;
let database: Database | undefined;

/** The database. Throws if none is configured. */
export function db(): Database {
  if (database) return database;
  pool = new pg.Pool({ connectionString: settings().database, max: connections() });
  // Idle connections may be closed by the server; the next query opens another.
  pool.on('error', () => {});
  return (database = drizzle(pool, { schema, casing: 'snake_case' }));
}
/** Runs all pending migrations. */
export const migrateDatabase = (): Promise<void> =>
  migrate(db(), { migrationsFolder: resolve(settings().root, 'server/database/migrations') });
/** Closes all connections. */
export async function closeDatabase(): Promise<void> {
  await pool?.end();
  pool = database = undefined;
}
export { isAway } from './away';
export * as tables from './schema';
