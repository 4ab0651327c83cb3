/** Global setup of unit tests: PostgreSQL with a migrated template database. */
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import type { TestProject } from 'vitest/node';

declare module 'vitest' {
  /** Values that the global setup passes to test files. */
  export interface ProvidedContext {
    /** Address of the template database. */
    readonly template: string;
  }
}
interface Running {
  stop(): void;
}
interface Scripts {
  startPostgres(folder: string, how: { quick: boolean }): Promise<Running>;
  ensureDatabase(server: Running, name: string): Promise<string>;
}
const ROOT = process.cwd();

/** Starts the database; the returned function stops it. */
export default async function setup(project: TestProject): Promise<() => void> {
  const script = pathToFileURL(join(ROOT, 'scripts/postgres.mjs')).href;
  const { startPostgres, ensureDatabase } = (await import(script)) as Scripts;
  const server = await startPostgres(join(ROOT, '.data-unit'), { quick: true });
  process.env['WABISABI_DATABASE'] = await ensureDatabase(server, `template_${process.pid}`);
  const { closeDatabase, migrateDatabase } = await import('../database');
  const { queue, stopQueue } = await import('../jobs/queue');
  await migrateDatabase();
  await queue();
  await stopQueue();
  await closeDatabase();
  project.provide('template', process.env['WABISABI_DATABASE']);
  return () => server.stop();
}
