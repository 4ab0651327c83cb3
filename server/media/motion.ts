/**
 * Storage of footage's motion: one file per pair of adjacent frames, measured once from the
 * original.
 */
import { randomUUID } from 'node:crypto';
import { mkdir, readdir, readFile, rename, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { gunzip, gzip } from 'node:zlib';
import type { RawFrame } from '../../core';
import {
  MOTION_METHOD,
  motionOfFrames,
  packedSize,
  packPair,
  settled,
  type Tracked,
  trackedFrame,
  unpackPair,
} from '../../core/trace';
import { inData } from '../config/settings';

const packed = promisify(gzip),
  unpacked = promisify(gunzip);

/** Packed vectors with their size. */
export interface KnownPair {
  readonly width: number;
  readonly height: number;
  readonly pair: () => ReturnType<typeof unpackPair>;
}
const known = (bytes: Uint8Array): KnownPair => ({
  ...packedSize(bytes),
  pair: () => unpackPair(bytes),
});

/** Storage for pairs. */
export interface PairStore {
  read(frame: number): Promise<Uint8Array | undefined>;
  write(frame: number, bytes: Uint8Array): Promise<void>;
  /**
   * Known speeds of the motion by frame (`speedOf`), of all of it or of what a matte covers; null
   * where unknown.
   */
  readSpeeds(within?: string): Promise<(number | null)[]>;
  writeSpeeds(speeds: readonly (number | null)[], within?: string): Promise<void>;
}

const FILE = /^(\d{6})\.gz$/;
const speedsFile = (within = 'all'): string => `speeds-${within}.json`;
const fileOf = (frame: number): string => `${String(frame).padStart(6, '0')}.gz`;
const folderOf = (hash: string): string => join('footage', hash, MOTION_METHOD);

/** Pairs in a folder, created on first write. Truncated files count as missing. */
export const pairsIn = (path: string): PairStore => ({
  async read(frame) {
    try {
      const bytes = await unpacked(await readFile(join(path, fileOf(frame))));
      packedSize(bytes);
      return bytes;
    } catch {
      return undefined;
    }
  },
  async write(frame, bytes) {
    await mkdir(path, { recursive: true });
    const to = join(path, fileOf(frame)),
      part = `${to}.${randomUUID()}`;
    await writeFile(part, await packed(bytes, { level: 6 }));
    await rename(part, to);
  },
  async readSpeeds(within) {
    try {
      const read = JSON.parse(await readFile(join(path, speedsFile(within)), 'utf8')) as unknown;
      return Array.isArray(read)
        ? read.map((s) => (typeof s === 'number' && s >= 0 ? s : null))
        : [];
    } catch {
      return [];
    }
  },
  async writeSpeeds(speeds, within) {
    await mkdir(path, { recursive: true });
    const to = join(path, speedsFile(within)),
      part = `${to}.${randomUUID()}`;
    await writeFile(part, JSON.stringify(speeds));
    await rename(part, to);
  },
});
/** The pairs of stored footage. */
export const storedPairs = (hash: string): PairStore => pairsIn(inData(folderOf(hash)));
/** A pair's packed file for sending; undefined if it is not measured. */
export const pairFile = (hash: string, frame: number): Promise<Buffer | undefined> =>
  readFile(inData(join(folderOf(hash), fileOf(frame)))).catch(() => undefined);
/** Frames whose motion is known. */
export async function framesKnown(hash: string): Promise<ReadonlySet<number>> {
  const files = await readdir(inData(folderOf(hash))).catch(() => []);
  return new Set(files.flatMap((f) => (FILE.test(f) ? [Number(FILE.exec(f)![1])] : [])));
}

/** Measures pairs of frames, or finds stored ones; work shared by adjacent pairs is done once. */
export class PairFinder {
  private readonly frames = new Map<number, Tracked>();
  private readonly pairs = new Map<number, KnownPair>();
  constructor(
    private readonly frame: (index: number) => Promise<RawFrame>,
    private readonly store: PairStore | undefined,
  ) {}

  async at(frame: number): Promise<KnownPair> {
    const had = await this.kept(frame);
    if (had) return had;
    const found = await this.measured(frame);
    this.pairs.set(frame, found);
    return found;
  }
  /** A stored pair; undefined if there is none. */
  async kept(frame: number): Promise<KnownPair | undefined> {
    const had = this.pairs.get(frame);
    if (had) return had;
    const bytes = await this.store?.read(frame);
    if (!bytes) return undefined;
    const found = known(bytes);
    this.pairs.set(frame, found);
    return found;
  }
  private async measured(frame: number): Promise<KnownPair> {
    const pair = settled(motionOfFrames(await this.tracked(frame), await this.tracked(frame + 1)));
    await this.store?.write(frame, packPair(pair));
    return { width: pair.forward.width, height: pair.forward.height, pair: () => pair };
  }
  /** A stored pair, unpacked; undefined if there is none. */
  async known(frame: number): Promise<ReturnType<typeof unpackPair> | undefined> {
    const bytes = await this.store?.read(frame);
    return bytes && unpackPair(bytes);
  }
  /** Drops all frames and pairs except these. */
  keepOnly(frames: ReadonlySet<number>): void {
    for (const f of this.pairs.keys()) if (!frames.has(f)) this.pairs.delete(f);
    const last = Math.max(...frames);
    for (const f of this.frames.keys()) if (f !== last && f !== last + 1) this.frames.delete(f);
  }
  private async tracked(frame: number): Promise<Tracked> {
    const had = this.frames.get(frame);
    if (had) return had;
    const made = trackedFrame(await this.frame(frame));
    this.frames.set(frame, made);
    return made;
  }
}
