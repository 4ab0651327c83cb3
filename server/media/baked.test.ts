/** Baked frames as files: read back as they were written, or not at all. */
import { readdirSync, rmSync, statSync, truncateSync, utimesSync } from 'node:fs';
import { join } from 'node:path';
import sharp from 'sharp';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { randomFrom } from '../../core/testing';
import { scratch, sweep } from '../testing/awkward';
import {
  anyBaked,
  bakedPicture,
  bakedSamples,
  bakedTotal,
  bakePicture,
  bakeSamples,
  clearBaked,
  isBaked,
  makeRoomForBaked,
} from './baked';

let data: string;
beforeEach(() => {
  data = scratch();
  vi.stubEnv('WABISABI_DATA', data);
  vi.stubEnv('WABISABI_DATABASE', 'postgres://nowhere');
});
afterEach(() => {
  vi.unstubAllEnvs();
  sweep(data);
});

const noise = (bytes: number, seed: number): Buffer => {
  const random = randomFrom(seed);
  return Buffer.from(Array.from({ length: bytes }, () => Math.floor(random() * 256)));
};
/** All baked files, oldest first. */
const files = (): string[] =>
  readdirSync(join(data, 'baked'), { recursive: true, withFileTypes: true })
    .filter((e) => e.isFile())
    .map((e) => join(e.parentPath, e.name))
    .sort((a, b) => statSync(a).mtimeMs - statSync(b).mtimeMs);

describe('a baked frame', () => {
  it('is found by its key with the samples it was baked with', async () => {
    const samples = noise(6000, 1);
    expect([await isBaked('a'), await anyBaked()]).toEqual([false, false]);
    await bakeSamples('a', samples);
    expect([await isBaked('a'), await anyBaked()]).toEqual([true, true]);
    expect(await bakedSamples('a', 6000)).toEqual(samples);
    expect(await bakedSamples('b', 6000)).toBeUndefined();
  });

  it('of another length than is wanted is none', async () => {
    await bakeSamples('a', noise(6000, 2));
    expect(await bakedSamples('a', 5999)).toBeUndefined();
    expect(await bakedSamples('a', 6001)).toBeUndefined();
  });

  it('whose file was cut short is none', async () => {
    await bakeSamples('a', noise(6000, 3));
    truncateSync(files()[0]!, 3000);
    expect(await bakedSamples('a', 6000)).toBeUndefined();
  });

  it('for a page is a PNG of the same bytes', async () => {
    const rgba = noise(8 * 5 * 4, 4).map((v, i) => (i % 4 === 3 ? 255 : v));
    await bakePicture('p', Buffer.from(rgba), 8, 5);
    const read = sharp((await bakedPicture('p'))!)
      .ensureAlpha()
      .raw();
    const { data: back, info } = await read.toBuffer({ resolveWithObject: true });
    expect([info.width, info.height]).toEqual([8, 5]);
    expect(Buffer.compare(back, Buffer.from(rgba))).toBe(0);
    expect(await bakedPicture('q')).toBeUndefined();
  });

  it('is looked at again for the total only when its folder has changed', async () => {
    await bakeSamples('a', noise(500, 1));
    const [file] = files(),
      before = await bakedTotal();
    const folder = join(file!, '..');
    utimesSync(folder, 1000, 1000);
    expect(await bakedTotal()).toEqual(before);
    truncateSync(file!, 7);
    expect(await bakedTotal()).toEqual(before);
    // A frame that is gone or new changes its folder.
    rmSync(file!);
    expect(await bakedTotal()).toEqual({ bytes: 0, files: 0 });
    await bakeSamples('a', noise(500, 1));
    expect(await bakedTotal()).toEqual(before);
  });

  it('leaves nothing half written beside it, and replaces itself', async () => {
    for (const seed of [1, 2, 3]) await bakeSamples('a', noise(500, seed));
    expect(files()).toHaveLength(1);
    expect(await bakedSamples('a', 500)).toEqual(noise(500, 3));
  });
});

describe('room for baked frames', () => {
  it('is made by taking the oldest away, and no more of them than must go', async () => {
    for (const [i, key] of ['a', 'b', 'c', 'd'].entries()) {
      await bakeSamples(key, noise(1000, i));
      const newest = files().find((f) => Date.now() / 1000 - statSync(f).mtimeMs / 1000 < 100)!;
      utimesSync(newest, 1000 + i, 1000 + i);
    }
    const { bytes, files: count } = await bakedTotal();
    expect(count).toBe(4);
    expect(bytes).toBeGreaterThan(4000);
    vi.stubEnv('WABISABI_MOST_BAKED', String(Math.ceil(bytes / 2)));
    await makeRoomForBaked();
    const left = await Promise.all(['a', 'b', 'c', 'd'].map(isBaked));
    expect(left).toEqual([false, false, true, true]);
    // There is room now, so nothing else is deleted.
    await makeRoomForBaked();
    expect((await bakedTotal()).files).toBe(2);
  });

  it('is all there once everything is cleared', async () => {
    await bakeSamples('a', noise(100, 1));
    await clearBaked();
    expect(await bakedTotal()).toEqual({ bytes: 0, files: 0 });
    expect(await isBaked('a')).toBe(false);
  });
});
