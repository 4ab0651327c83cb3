import { describe, expect, it } from 'vitest';
import { chance } from '../graph';
import type { RawFrame } from '../image';
import { grayFrame } from '../testing';
import { speedBetween } from './footage-motion';
import type { Pair } from './between';
import { speedOf } from './speed';

const W = 80,
  H = 60;
/**
 * Everything moves by `camera`, a share of the columns by more; the first `doubted` columns are
 * wrong and marked so.
 */
function pair(
  camera: readonly [number, number],
  more: readonly [number, number],
  share: number,
  doubted = 0,
): Pair {
  const plane = (f: (x: number) => number) =>
    Float32Array.from({ length: W * H }, (_, o) => f(o % W));
  const moves = (x: number, i: 0 | 1) =>
    x < doubted ? 400 : camera[i] + (x >= W - share * W ? more[i] : 0);
  const forward = {
    width: W,
    height: H,
    u: plane((x) => moves(x, 0)),
    v: plane((x) => moves(x, 1)),
  };
  const doubt = plane((x) => (x < doubted ? 1 : 0));
  return { forward, backward: forward, doubtFirst: doubt, doubtSecond: doubt };
}

describe('the speed of what moves', () => {
  it('is the way it goes, in lines, whatever the camera does', () => {
    expect(speedOf(pair([0, 0], [6, 8], 0.2))).toBeCloseTo((10 * 1080) / H, 6);
    expect(speedOf(pair([-23.5, 4.25], [6, 8], 0.2))).toBeCloseTo((10 * 1080) / H, 6);
    expect(speedOf(pair([17, 0], [0, 0], 0.2))).toBe(0);
  });
  it('is a percentile: what takes less than a twentieth of the picture does not count', () => {
    expect(speedOf(pair([1, 1], [6, 8], 0.025))).toBe(0);
    expect(speedOf(pair([1, 1], [6, 8], 0.075))).toBeGreaterThan(0);
  });
  it('does not count what is doubted; of nothing believed it is 0', () => {
    expect(speedOf(pair([2, 0], [3, 4], 0.2, 30))).toBeCloseTo((5 * 1080) / H, 6);
    expect(speedOf(pair([2, 0], [3, 4], 0.2, W))).toBe(0);
  });
});

/**
 * Blotches of sixteen pixels. A third of the picture moves by `more` a frame, all of it by
 * `camera`.
 */
function frameAt(
  time: number,
  camera: number,
  more: number,
  [w, h]: readonly [number, number],
): RawFrame {
  const blotch = (seed: number, x: number, y: number): number => {
    const [i, j] = [Math.floor(x / 16), Math.floor(y / 16)],
      [fx, fy] = [x / 16 - i, y / 16 - j];
    const at = (a: number, b: number) => chance(seed, i + a, j + b);
    return (
      (at(0, 0) * (1 - fx) + at(1, 0) * fx) * (1 - fy) + (at(0, 1) * (1 - fx) + at(1, 1) * fx) * fy
    );
  };
  const plane = new Uint8Array(w * h);
  for (let y = 0; y < h; y++)
    for (let x = 0; x < w; x++) {
      const own = x - camera * time;
      const moved = own - more * time;
      const inside = y > h / 3 && y < (2 * h) / 3 && moved > w / 8 && moved < (7 * w) / 8;
      plane[y * w + x] =
        30 + 190 * (inside ? blotch(7, moved + 1000, y) : blotch(3, own + 1000, y));
    }
  return grayFrame(`blotches:${time}`, { width: w, height: h }, plane);
}

describe('the speed between two frames of footage', () => {
  it('is that of what moves, whatever the camera does, at any size', () => {
    for (const [size, camera, more] of [
      [[384, 288], 0, 8],
      [[384, 288], -6, 8],
      [[1600, 1200], 10, 24],
    ] as const) {
      const lines = speedBetween(frameAt(0, camera, more, size), frameAt(1, camera, more, size));
      expect(Math.abs(lines / ((more * 1080) / size[1]) - 1)).toBeLessThan(0.1);
    }
    expect(speedBetween(frameAt(0, 5, 0, [384, 288]), frameAt(1, 5, 0, [384, 288]))).toBeLessThan(
      2,
    );
  });
});
