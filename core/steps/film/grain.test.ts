import { describe, expect, it } from 'vitest';
import { Engine } from '../../engine';
import { leafOf } from '../../engine/comparing';
import { applyStep, stepOf, withDefaults } from '..';

const [W, H] = [400, 270];
const engine = new Engine({ limit: 1 << 28, helpers: 0 });
const grey = leafOf(
  [0, 1, 2].map(() => new Float32Array(W * H).fill(0.5)),
  W,
  H,
  'encoded',
  'grey',
);
/** Grain alone, one array a channel. */
const grainOf = (frame: number, seed: number, colour = 100): Float32Array[] => {
  const step = stepOf('grain')!;
  const image = engine.compute(applyStep(step, grey, withDefaults(step, { amount: 100, size: 16, colour }), 1, { frame, seed, width: W, height: H }));
  return [0, 1, 2].map((p) => engine.memory.plane(image, p).map((v) => v - 0.5));
};
const mean = (a: Float32Array) => a.reduce((x, y) => x + y, 0) / a.length;
function correlation(a: Float32Array, b: Float32Array): number {
  const [ma, mb] = [mean(a), mean(b)];
  let ab = 0,
    aa = 0,
    bb = 0;
  a.forEach((v, i) => {
    ab += (v - ma) * (b[i]! - mb);
    aa += (v - ma) ** 2;
    bb += (b[i]! - mb) ** 2;
  });
  return ab / Math.sqrt(aa * bb);
}
const shifted = (a: Float32Array, dx: number, dy: number): [Float32Array, Float32Array] => {
  const here: number[] = [],
    there: number[] = [];
  for (let y = 0; y + dy < H; y++)
    for (let x = 0; x + dx < W; x++) {
      here.push(a[y * W + x]!);
      there.push(a[(y + dy) * W + x + dx]!);
    }
  return [Float32Array.from(here), Float32Array.from(there)];
};

describe('grain', () => {
  it('has no mean, and is nearly Gaussian', () => {
    const g = grainOf(0, 1)[0]!;
    const sigma = Math.sqrt(g.reduce((s, v) => s + v * v, 0) / g.length);
    expect(Math.abs(mean(g))).toBeLessThan(sigma / 20);
    expect(g.reduce((n, v) => n + (Math.abs(v) > 3 * sigma ? 1 : 0), 0) / g.length).toBeLessThan(0.006);
  });

  it('shows no rows: places a few grains apart know nothing of each other', () => {
    const g = grainOf(0, 1)[1]!;
    for (const [dx, dy] of [
      [13, 0],
      [0, 13],
      [40, 7],
      [7, 40],
      [64, 64],
    ] as const)
      expect(Math.abs(correlation(...shifted(g, dx, dy)))).toBeLessThan(0.08);
  });

  it('is another in each channel, frame and seed, and one in all channels without colour', () => {
    const [r, g] = grainOf(0, 1);
    expect(Math.abs(correlation(r!, g!))).toBeLessThan(0.08);
    expect(Math.abs(correlation(r!, grainOf(1, 1)[0]!))).toBeLessThan(0.08);
    expect(Math.abs(correlation(r!, grainOf(0, 2)[0]!))).toBeLessThan(0.08);
    const [a, b] = grainOf(0, 1, 0);
    expect(correlation(a!, b!)).toBeGreaterThan(0.9999);
    expect([...grainOf(3, 9)[2]!]).toEqual([...grainOf(3, 9)[2]!]);
  });
});
