/** Where things are, from the environment; the start commands set it. */
import { mkdirSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { cleanEnv, num, str } from 'envalid';

const LEVELS = ['fatal', 'error', 'warn', 'info', 'debug', 'trace', 'silent'] as const;

/** What the environment says, checked. Throws what is wrong with it, by name. */
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

export interface Settings {
  readonly root: string;
  readonly data: string;
  readonly database: string;
}

/**
 * Footage of more pixels a frame is refused: 67 million (8192 × 8192) unless WABISABI_MOST_PIXELS
 * says otherwise.
 */
export const mostPixels = (): number => settled().WABISABI_MOST_PIXELS;
/**
 * Room for frames that workers bake, in bytes: 20 GiB unless WABISABI_MOST_BAKED says otherwise.
 */
export const mostBaked = (): number => settled().WABISABI_MOST_BAKED;

/** Throws where no database is named: the command line needs none, the application does. */
export function settings(): Settings {
  const { WABISABI_ROOT: root, WABISABI_DATA, WABISABI_DATABASE: database } = settled();
  if (!database)
    throw new Error('WABISABI_DATABASE is not set: start the application with npm run demo');
  return { root, data: resolve(root, WABISABI_DATA), database };
}

/** A folder of the data folder, made if it is not there. */
export function folder(...parts: string[]): string {
  const path = join(settings().data, ...parts);
  mkdirSync(path, { recursive: true });
  return path;
}
export const inData = (path: string): string => join(settings().data, path);
