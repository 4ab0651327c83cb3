import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, describe, expect, it } from 'vitest';
import type { RawFrame } from '../../core';
import type { Pair } from '../../core/trace';
import { partsIn } from './parts';
import { SpeedFinder, withinName } from './speeds';

const W = 48,
  H = 36;
/**
 * The left half moves by 2 pixels, the right quarter by more as the frames go on; the rest stands
 * still.
 */
function pairAt(frame: number): Pair {
  const u = Float32Array.from({ length: W * H }, (_, o) => (o % W >= 0.75 * W ? 1 + frame / 3 : 0));
  const none = new Float32Array(W * H);
  const vectors = { width: W, height: H, u, v: none };
  return { forward: vectors, backward: vectors, doubtFirst: none, doubtSecond: none };
}
/** A matte, at twice the size: white where it covers. */
const matte = (from: number): RawFrame => ({
  key: `matte ${from}`,
  format: {
    width: 2 * W,
    height: 2 * H,
    layout: 'gray',
    chroma: [1, 1],
    depth: 8,
    full: true,
    matrix: 'bt709',
    siting: 'left',
    alpha: false,
  },
  planes: [
    Uint8Array.from({ length: 4 * W * H }, (_, o) => (o % (2 * W) >= 2 * from * W ? 255 : 0)),
  ],
});
const lines = (pixels: number): number =>
  Math.round(((Math.round(pixels * 16) / 16) * 1080 * 100) / H) / 100;

describe('speeds of footage', () => {
  const folder = mkdtempSync(join(tmpdir(), 'wabisabi-speeds-test-'));
  afterAll(() => rmSync(folder, { recursive: true, force: true }));
  const never = (): Promise<never> => Promise.reject(new Error('it was measured already'));

  it('are found once, kept, and read as they were found, to the bit', async () => {
    const finder = new SpeedFinder(
      (f) => Promise.resolve(pairAt(f)),
      partsIn(folder, 'motion'),
      undefined,
    );
    const found = [...(await finder.over(1, 4))];
    expect(found).toEqual([null, ...[1, 2, 3, 4].map((f) => lines(1 + f / 3))]);
    await finder.keep();
    const again = new SpeedFinder(never, partsIn(folder, 'motion'), undefined);
    expect(await again.over(1, 4)).toEqual(found);
    await expect(again.over(4, 5)).rejects.toThrow('measured already');
  });
  it('stay unknown where motion is not measured, and are found once it is', async () => {
    let measured = 2;
    const finder = new SpeedFinder(
      (f) => Promise.resolve(f < measured ? pairAt(f) : undefined),
      undefined,
      undefined,
    );
    expect(await finder.over(0, 3)).toEqual([lines(1), lines(4 / 3)]);
    measured = 4;
    expect(await finder.over(0, 3)).toHaveLength(4);
  });
  it('within a matte are those of what it covers, kept apart from those of all', async () => {
    const pin = { hash: 'a', start: 0, speed: 1 } as const;
    const within = (from: number) => ({
      name: withinName(pin, from),
      at: () => Promise.resolve(matte(from)),
    });
    const speeds = async (from: number) =>
      (
        await new SpeedFinder(
          (f) => Promise.resolve(pairAt(f)),
          partsIn(folder, 'motion'),
          within(from),
        ).over(0, 0)
      )[0];
    expect(await speeds(0.75)).toBe(lines(1));
    // Everything it covers stands still.
    const still = { name: 'still', at: () => Promise.resolve(matte(1)) };
    expect(
      await new SpeedFinder((f) => Promise.resolve(pairAt(f)), undefined, still).over(0, 0),
    ).toEqual([0]);
    // Where the matte has no frame, the whole picture counts.
    const over = { name: 'over', at: () => Promise.resolve(null) };
    expect(
      await new SpeedFinder((f) => Promise.resolve(pairAt(f)), undefined, over).over(0, 0),
    ).toEqual([lines(1)]);
    expect(withinName(pin, null)).not.toBe(withinName({ ...pin, start: 1 }, null));
  });
});
