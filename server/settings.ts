/** Where things are, from the environment; the start commands set it. */
import { mkdirSync } from 'node:fs';
import { join, resolve } from 'node:path';

export interface Settings {
  readonly root: string;
  readonly data: string;
  readonly database: string;
}

/** Footage of more pixels a frame is refused: 67 million (8192 × 8192) unless WABISABI_MOST_PIXELS says otherwise. */
export const mostPixels = (): number => Number(process.env['WABISABI_MOST_PIXELS']) || 8192 * 8192;
/** Room for frames that workers bake, in bytes: 20 GiB unless WABISABI_MOST_BAKED says otherwise. */
export const mostBaked = (): number => Number(process.env['WABISABI_MOST_BAKED']) || 20 * 2 ** 30;

export function settings(): Settings {
  const root = process.env['WABISABI_ROOT'] ?? process.cwd();
  const data = resolve(root, process.env['WABISABI_DATA'] ?? '.data');
  const database = process.env['WABISABI_DATABASE'];
  if (!database) throw new Error('WABISABI_DATABASE is not set: start the application with npm run demo');
  return { root, data, database };
}

/** A folder of the data folder, made if it is not there. */
export function folder(...parts: string[]): string {
  const path = join(settings().data, ...parts);
  mkdirSync(path, { recursive: true });
  return path;
}
export const inData = (path: string): string => join(settings().data, path);
