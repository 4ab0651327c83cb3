/**
 * Storage of assets: a folder for each kind of each piece of footage, in it a compressed file for
 * each part, and values for the whole footage.
 */
import { randomUUID } from 'node:crypto';
import { mkdir, readdir, readFile, rename, rm, stat, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { gunzip, gzip } from 'node:zlib';
import { FRAME_ASSETS, type FrameAssetId } from '../../core';
import { inData } from '../config/settings';

const packed = promisify(gzip),
  unpacked = promisify(gunzip);

/** Parts of an asset by frame, and values of the whole footage by name. */
export interface PartStore {
  /** Uncompressed bytes of a part; undefined if it is missing or truncated. */
  read(frame: number): Promise<Uint8Array | undefined>;
  write(frame: number, bytes: Uint8Array): Promise<void>;
  /** A value as JSON; undefined if it is missing or truncated. */
  readValue(name: string): Promise<unknown>;
  writeValue(name: string, value: unknown): Promise<void>;
}

/** Finds the parts of a kind for renders. */
export interface PartFinder<Part> {
  /** A part, made if it is missing. */
  at(frame: number): Promise<Part>;
  /** A part that is stored; undefined if it is not. */
  kept(frame: number): Promise<Part | undefined>;
  /** Drops all but these from memory. */
  keepOnly(frames: ReadonlySet<number>): void;
}

const FILE = /^(\d{6})\.gz$/;
const valueFile = (name: string): string => `${name}.json`;
const fileOf = (frame: number): string => `${String(frame).padStart(6, '0')}.gz`;
const folderOf = (hash: string, asset: FrameAssetId): string =>
  inData(join('footage', hash, FRAME_ASSETS[asset].method));

/** Writes a file as a whole or not at all. */
async function place(folder: string, name: string, bytes: Uint8Array | string): Promise<void> {
  await mkdir(folder, { recursive: true });
  const to = join(folder, name),
    part = `${to}.${randomUUID()}`;
  await writeFile(part, bytes);
  await rename(part, to);
}

/** Parts in a folder, created on first write. */
export const partsIn = (folder: string, asset: FrameAssetId): PartStore => ({
  async read(frame) {
    try {
      const bytes = await unpacked(await readFile(join(folder, fileOf(frame))));
      FRAME_ASSETS[asset].unpack(bytes);
      return bytes;
    } catch {
      return undefined;
    }
  },
  write: async (frame, bytes) => place(folder, fileOf(frame), await packed(bytes, { level: 6 })),
  readValue: (name) =>
    readFile(join(folder, valueFile(name)), 'utf8')
      .then(
        (text) => JSON.parse(text) as unknown,
        () => undefined,
      )
      .catch(() => undefined),
  writeValue: (name, value) => place(folder, valueFile(name), JSON.stringify(value)),
});
/** The parts of stored footage. */
export const storedParts = (hash: string, asset: FrameAssetId): PartStore =>
  partsIn(folderOf(hash, asset), asset);
/** A part's compressed file for sending; undefined if it is not made. */
export const partFile = (
  hash: string,
  asset: FrameAssetId,
  frame: number,
): Promise<Buffer | undefined> =>
  readFile(join(folderOf(hash, asset), fileOf(frame))).catch(() => undefined);
/** Frames of which the part is made. */
export async function framesMade(hash: string, asset: FrameAssetId): Promise<ReadonlySet<number>> {
  const files = await readdir(folderOf(hash, asset)).catch(() => []);
  return new Set(files.flatMap((f) => (FILE.test(f) ? [Number(FILE.exec(f)![1])] : [])));
}
/** Bytes that an asset of footage takes. */
export async function bytesTaken(hash: string, asset: FrameAssetId): Promise<number> {
  const folder = folderOf(hash, asset);
  const files = await readdir(folder).catch(() => []);
  const sizes = files.map((f) =>
    stat(join(folder, f)).then(
      (s) => s.size,
      () => 0,
    ),
  );
  return (await Promise.all(sizes)).reduce((n, s) => n + s, 0);
}
/** Takes an asset of footage away. */
export const removeParts = (hash: string, asset: FrameAssetId): Promise<void> =>
  rm(folderOf(hash, asset), { recursive: true, force: true });
