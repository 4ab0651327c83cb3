/**
 * Baked frames: files named by what they were made from (`frameKeyOf`), so none is ever out of
 * date. The oldest are removed when space is needed. Samples are deflated, pictures for pages are
 * PNGs.
 */
import { createHash, randomUUID } from 'node:crypto';
import { readdirSync, readFileSync } from 'node:fs';
import { mkdir, readdir, readFile, rename, rm, stat, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { deflateRaw, inflateRaw } from 'node:zlib';
import sharp from 'sharp';
import { inData, mostBaked, settings } from '../config/settings';

const deflated = promisify(deflateRaw),
  inflated = promisify(inflateRaw);

const FOLDER = 'baked';
const isSource = (name: string): boolean =>
  /\.(ts|json|wasm)$/.test(name) && !/\.test\.ts$/.test(name);
let known: string | undefined;
/** Hash of core's sources: another version may compute other bits for the same key. */
function build(): string {
  if (known) return known;
  const hash = createHash('sha256'),
    core = join(settings().root, 'core');
  for (const name of readdirSync(core, { recursive: true, encoding: 'utf8' })
    .filter(isSource)
    .sort())
    hash.update(name).update(readFileSync(join(core, name)));
  return (known = hash.digest('hex').slice(0, 16));
}

const nameOf = (key: string): string => createHash('sha256').update(key).digest('hex');
const placeOf = (key: string): string => {
  const name = nameOf(key);
  return inData(join(FOLDER, build(), name.slice(0, 2), name));
};

/** Whether a frame is baked. */
export const isBaked = (key: string): Promise<boolean> =>
  stat(placeOf(key)).then(
    () => true,
    () => false,
  );

async function write(key: string, bytes: Uint8Array): Promise<void> {
  const to = placeOf(key),
    part = `${to}.${randomUUID()}`;
  await mkdir(join(to, '..'), { recursive: true });
  await writeFile(part, bytes);
  await rename(part, to);
}
/** A frame's samples; undefined if it is not baked, or its file does not have `bytes` bytes. */
export async function bakedSamples(key: string, bytes: number): Promise<Buffer | undefined> {
  try {
    const samples = await inflated(await readFile(placeOf(key)), { maxOutputLength: bytes });
    return samples.length === bytes ? samples : undefined;
  } catch {
    return undefined;
  }
}
/** Stores a frame's samples. */
export const bakeSamples = async (key: string, samples: Uint8Array): Promise<void> =>
  write(key, await deflated(samples, { level: 1 }));

/** A picture for pages as PNG bytes; undefined if it is not baked. */
export const bakedPicture = (key: string): Promise<Buffer | undefined> =>
  readFile(placeOf(key)).catch(() => undefined);
/** Stores a picture for pages. `bytes`: red, green, blue and 255, rows tightly packed. */
export async function bakePicture(
  key: string,
  bytes: Buffer,
  width: number,
  height: number,
): Promise<void> {
  const png = sharp(bytes, { raw: { width, height, channels: 4 } }).removeAlpha();
  await write(key, await png.png({ compressionLevel: 4 }).toBuffer());
}

interface Found {
  readonly path: string;
  readonly bytes: number;
  readonly made: number;
}
/** Files of a folder by what was read last. */
const listed = new Map<string, { readonly changed: number; readonly found: readonly Found[] }>();
/** A folder that changed so shortly before it was read may change again within one tick. */
const TICK_MS = 1000;

/** Files of a folder. They never change, so they are looked at anew only when the folder has. */
async function filesIn(folder: string): Promise<readonly Found[]> {
  const changed = (await stat(folder).catch(() => undefined))?.mtimeMs;
  if (changed === undefined) {
    listed.delete(folder);
    return [];
  }
  const last = listed.get(folder);
  if (last?.changed === changed) return last.found;
  const names = await readdir(folder).catch(() => []);
  const all = await Promise.all(
    names.map(async (name): Promise<Found[]> => {
      const path = join(folder, name);
      const found = await stat(path).catch(() => undefined);
      return found?.isFile() ? [{ path, bytes: found.size, made: found.mtimeMs }] : [];
    }),
  );
  const found = all.flat();
  if (Date.now() - changed > TICK_MS) listed.set(folder, { changed, found });
  return found;
}
const foldersIn = async (folder: string): Promise<string[]> => {
  const names = await readdir(folder, { withFileTypes: true }).catch(() => []);
  return names.filter((n) => n.isDirectory()).map((n) => join(folder, n.name));
};
/** All baked frames: a folder for each build, and in it one for each beginning of a name. */
async function files(): Promise<Found[]> {
  const builds = await foldersIn(inData(FOLDER));
  const folders = (await Promise.all(builds.map(foldersIn))).flat();
  return (await Promise.all(folders.map(filesIn))).flat();
}

/** Size and number of all baked frames. */
export async function bakedTotal(): Promise<{ readonly bytes: number; readonly files: number }> {
  const all = await files();
  return { bytes: all.reduce((n, f) => n + f.bytes, 0), files: all.length };
}
/** Removes the oldest baked frames until the limit is met, those of other builds first. */
export async function makeRoomForBaked(): Promise<void> {
  const own = inData(join(FOLDER, build()));
  const rank = (f: Found): number => (f.path.startsWith(own) ? f.made : 0);
  const all = (await files()).sort((a, b) => rank(a) - rank(b));
  let bytes = all.reduce((n, f) => n + f.bytes, 0);
  for (const file of all) {
    if (bytes <= mostBaked()) return;
    await rm(file.path, { force: true });
    bytes -= file.bytes;
  }
}
/** Removes all baked frames. */
export const clearBaked = (): Promise<void> => rm(inData(FOLDER), { recursive: true, force: true });
/** Whether any frame of this build is baked; if not, lookups can be skipped. */
export const anyBaked = (): Promise<boolean> =>
  readdir(inData(join(FOLDER, build()))).then(
    (names) => names.length > 0,
    () => false,
  );
