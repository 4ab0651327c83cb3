/** The database: one pool of connections, the schema as types, and migrations run in order. */
import { drizzle, type NodePgDatabase } from 'drizzle-orm/node-postgres';
import { migrate } from 'drizzle-orm/node-postgres/migrator';
import pg from 'pg';
import { resolve } from 'node:path';
import { settings } from '../config/settings';
import * as schema from './schema';

export type Database = NodePgDatabase<typeof schema>;
/** What runs inside `db().transaction`. */
export type Transaction = Parameters<Parameters<Database['transaction']>[0]>[0];
let pool: pg.Pool | undefined;
let database: Database | undefined;

export function db(): Database {
  if (database) return database;
  pool = new pg.Pool({ connectionString: settings().database, max: 10 });
  // A connection that the server closes while idle is not a bug of ours: the next query opens
  // another.
  pool.on('error', () => {});
  return (database = drizzle(pool, { schema, casing: 'snake_case' }));
}
export const migrateDatabase = (): Promise<void> =>
  migrate(db(), { migrationsFolder: resolve(settings().root, 'server/database/migrations') });
export async function closeDatabase(): Promise<void> {
  await pool?.end();
  pool = database = undefined;
}
export { isAway } from './away';
export * as tables from './schema';
