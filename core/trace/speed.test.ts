import { describe, expect, it } from 'vitest';
import type { Pair } from './between';
import { speedOf } from './speed';

const W = 80,
  H = 60;
/** All of it moves by `camera`, and a share of its columns by as much more; the first `doubted` columns are not believed, and wild. */
function pair(camera: readonly [number, number], more: readonly [number, number], share: number, doubted = 0): Pair {
  const plane = (f: (x: number) => number) => Float32Array.from({ length: W * H }, (_, o) => f(o % W));
  const moves = (x: number, i: 0 | 1) => (x < doubted ? 400 : camera[i] + (x >= W - share * W ? more[i] : 0));
  const forward = { width: W, height: H, u: plane((x) => moves(x, 0)), v: plane((x) => moves(x, 1)) };
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
