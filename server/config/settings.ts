/** Settings from the environment; the start commands set it. */
import { mkdirSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { cleanEnv, num, str } from 'envalid';

const LEVELS = ['fatal', 'error', 'warn', 'info', 'debug', 'trace', 'silent'] as const;

/** The environment, validated. Throws with the names of bad variables. */
export const settled = () =>
  cleanEnv(
    process.env,
    {
      WABISABI_ROOT: str({ default: process.cwd(), desc: 'the checkout' }),
      WABISABI_DATA: str({
        default: '.data',
        desc: 'where footage, deliveries and work in progress lie',
      }),
      WABISABI_DATABASE: str({ default: '', desc: 'where PostgreSQL listens' }),
      WABISABI_MOST_PIXELS: num({
        default: 8192 * 8192,
        desc: 'footage of more pixels a frame is refused',
      }),
      WABISABI_MOST_BAKED: num({
        default: 20 * 2 ** 30,
        desc: 'bytes for frames that workers bake',
      }),
      WABISABI_MOST_ASSETS: num({
        default: 50 * 2 ** 30,
        desc: 'bytes for what is measured of footage and can be measured again',
      }),
      WABISABI_NICENESS: num({
        default: 10,
        desc: 'how far workers stand back for other processes, 0 to 19',
      }),
      WABISABI_CONNECTIONS: num({
        default: 10,
        desc: 'connections to the database of one process, beside two of its queue',
      }),
      WABISABI_LOG: str({
        default: 'info',
        choices: LEVELS,
        desc: 'from which level on lines are logged',
      }),
    },
    {
      reporter: ({ errors }) => {
        const wrong = Object.entries(errors).map(([name, e]) => `${name}: ${(e as Error).message}`);
        if (wrong.length > 0)
          throw new Error(`the environment cannot be used: ${wrong.join('; ')}`);
      },
    },
  );

/** Connections of a process's queue to the database. */
export const QUEUE_CONNECTIONS = 2;
/** Connections of a process to the database, beside those of its queue. */
export const connections = (): number => settled().WABISABI_CONNECTIONS;
/** Connections of a worker: seven workers and a page server stay below sixty. */
export const WORKER_CONNECTIONS = 4;

/** Folders and the database of the application. */
export interface Settings {
  readonly root: string;
  readonly data: string;
  readonly database: string;
}

/**
 * Most pixels per frame of footage that is accepted: WABISABI_MOST_PIXELS, 67 million (8192 × 8192)
 * by default.
 */
export const mostPixels = (): number => settled().WABISABI_MOST_PIXELS;
/** Most bytes of baked frames: WABISABI_MOST_BAKED, 20 GiB by default. */
export const mostBaked = (): number => settled().WABISABI_MOST_BAKED;

/** Most bytes of assets that can be made again: WABISABI_MOST_ASSETS, 50 GiB by default. */
export const mostAssets = (): number => settled().WABISABI_MOST_ASSETS;

/** Niceness of workers: WABISABI_NICENESS, 10 by default, so that pages stay responsive. */
export const niceness = (): number => Math.max(0, Math.min(19, settled().WABISABI_NICENESS));

/** Throws if no database is configured; the command line needs none, the application does. */
export function settings(): Settings {
  const { WABISABI_ROOT: root, WABISABI_DATA, WABISABI_DATABASE: database } = settled();
  if (!database)
    throw new Error('WABISABI_DATABASE is not set: start the application with npm run demo');
  return { root, data: resolve(root, WABISABI_DATA), database };
}

/** A folder inside the data folder; created if missing. */
export function folder(...parts: string[]): string {
  const path = join(settings().data, ...parts);
  mkdirSync(path, { recursive: true });
  return path;
}
/** A path inside the data folder. */
export const inData = (path: string): string => join(settings().data, path);
