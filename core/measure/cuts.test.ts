import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { CUT_PICTURE, CutFinder, cutsDecided, cutsUndecided, SHORTEST_SHOT } from '.';
import { chance } from '../graph';

const { width, height, bytes } = CUT_PICTURE;
/** Soft blotches by a seed that drift as time goes on, in a light; colours by the seed too. */
function picture(seed: number, time: number, light = 1): Uint8Array {
  const waves = Array.from({ length: 5 }, (_, i) => [0, 1, 2].map((k) => chance(seed, i, k)));
  const out = new Uint8Array(bytes);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      let v = 0;
      for (const [a, b, c] of waves as [number, number, number][])
        v += Math.sin((a - 0.5) * 0.5 * (x + time * 0.4) + (b - 0.5) * 0.7 * y + c * 6.28);
      out[y * width + x] = Math.max(0, Math.min(255, light * (110 + 22 * v)));
    }
  for (let p = 1; p < 3; p++)
    out.fill(
      108 + Math.floor(40 * chance(seed, 9, p)),
      p * width * height,
      (p + 1) * width * height,
    );
  return out;
}
function cutsOf(pictures: readonly Uint8Array[]): number[] {
  const finder = new CutFinder();
  for (const p of pictures) finder.next(p);
  return finder.cuts;
}
const shot = (seed: number, frames: number, light: (t: number) => number = () => 1): Uint8Array[] =>
  Array.from({ length: frames }, (_, t) => picture(seed, t, light(t)));

describe('cuts inside a clip', () => {
  it('are found on their frames, however long or short the shots are', () => {
    const lengths = fc.array(fc.integer({ min: SHORTEST_SHOT, max: 14 }), {
      minLength: 2,
      maxLength: 6,
    });
    fc.assert(
      fc.property(lengths, fc.integer({ min: 1, max: 1e6 }), (all, seed) => {
        const begins = all
          .slice(0, -1)
          .map((_, i) => all.slice(0, i + 1).reduce((a, b) => a + b, 0));
        expect(cutsOf(all.flatMap((n, i) => shot(seed + 1000 * i, n)))).toEqual(begins);
      }),
      { numRuns: 25 },
    );
  });
  it('are none in a shot that flashes, darkens or goes past fast', () => {
    expect(cutsOf(shot(3, 60, (t) => (t % 7 < 2 ? 1.9 : 0.6)))).toEqual([]);
    expect(cutsOf(shot(4, 60, (t) => 1 - t / 70))).toEqual([]);
    expect(cutsOf(Array.from({ length: 60 }, (_, t) => picture(5, 6 * t)))).toEqual([]);
    // A white frame, and an unrelated one, after which the shot continues.
    expect(cutsOf([...shot(6, 20), new Uint8Array(bytes).fill(235), ...shot(6, 20)])).toEqual([]);
    expect(cutsOf([...shot(6, 20), picture(7, 0), picture(7, 1), ...shot(6, 20)])).toEqual([]);
  });
  it('are none where nothing is shown, and need pictures of their size', () => {
    expect(cutsOf([])).toEqual([]);
    expect(cutsOf(Array.from({ length: 20 }, () => new Uint8Array(bytes)))).toEqual([]);
    expect(() => new CutFinder().next(new Uint8Array(12))).toThrow('bytes is wanted');
  });
  it('are what was found and said, less what was denied', () => {
    const decided = { '8': 'none', '30': 'cut', '50': 'cut' } as const;
    expect(cutsDecided([8, 20, 50], decided)).toEqual([20, 30, 50]);
    expect(cutsUndecided([8, 20, 50], decided)).toEqual([20]);
    expect([cutsDecided(null, null), cutsUndecided(undefined, {})]).toEqual([[], []]);
  });
});
