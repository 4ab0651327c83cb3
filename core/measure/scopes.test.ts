import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { figuresOf, LEVELS, scopesOf, VECTOR_SIDE, WAVE_COLUMNS } from '.';
import { randomFrom } from '../testing';

const flat = (w: number, h: number, c: readonly [number, number, number]) => ({
  width: w,
  height: h,
  stride: w,
  planes: c.map((v) => new Float32Array(w * h).fill(v)) as unknown as [
    Float32Array,
    Float32Array,
    Float32Array,
  ],
});
const levelAt = (v: number) => Math.floor(((v + 0.1) / 1.2) * LEVELS);
const total = (a: Uint32Array) => a.reduce((x, y) => x + y, 0);

describe('scopes', () => {
  it('count every pixel once in each', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 40 }),
        fc.integer({ min: 1, max: 30 }),
        fc.nat(999),
        (w, h, seed) => {
          const random = randomFrom(seed + 1);
          const p = {
            ...flat(w, h, [0, 0, 0]),
            planes: [0, 1, 2].map(() =>
              Float32Array.from({ length: w * h }, () => random() * 3 - 1),
            ) as never,
          };
          const s = scopesOf(p);
          expect([...s.waves, ...s.histograms, s.vector].map(total)).toEqual(
            Array<number>(9).fill(w * h),
          );
          expect(s.pixels).toBe(w * h);
        },
      ),
      { numRuns: 30 },
    );
  });

  it('show a flat colour as one level a channel and one point', () => {
    const s = scopesOf(flat(10, 10, [0.755, 0.505, 0.255]));
    [0.2126 * 0.755 + 0.7152 * 0.505 + 0.0722 * 0.255, 0.755, 0.505, 0.255].forEach((v, i) =>
      expect(s.histograms[i]![levelAt(v)]).toBe(100),
    );
    expect([...s.vector].filter((n) => n > 0)).toEqual([100]);
  });

  it('put grey in the middle of the vectorscope, red above, blue to the right', () => {
    const at = (c: readonly [number, number, number]) => {
      const i = scopesOf(flat(1, 1, c)).vector.indexOf(1);
      return [i % VECTOR_SIDE, Math.floor(i / VECTOR_SIDE)] as const;
    };
    expect(at([0.4, 0.4, 0.4])).toEqual([64, 64]);
    expect(at([0.9, 0.2, 0.2])[1]).toBeGreaterThan(90);
    expect(at([0.2, 0.2, 0.9])[0]).toBeGreaterThan(90);
  });

  it('keep columns in their place, and look only at the region asked for', () => {
    const p = flat(WAVE_COLUMNS, 4, [0, 0, 0]);
    for (let y = 0; y < 4; y++)
      for (let x = WAVE_COLUMNS / 2; x < WAVE_COLUMNS; x++)
        p.planes.forEach((q) => (q[y * WAVE_COLUMNS + x] = 1));
    const s = scopesOf(p);
    expect(s.waves[0][levelAt(0)]).toBe(4);
    expect(s.waves[0][(WAVE_COLUMNS - 1) * LEVELS + levelAt(1)]).toBe(4);
    const right = scopesOf(p, { x0: WAVE_COLUMNS / 2, y0: 1, x1: WAVE_COLUMNS, y1: 3 });
    expect([right.pixels, right.lightness]).toEqual([WAVE_COLUMNS, expect.closeTo(1, 6)]);
  });

  it('tell what is crushed, clipped and outside', () => {
    const p = flat(4, 1, [0.5, 0.5, 0.5]);
    p.planes.forEach((q) => (q[0] = -0.01));
    p.planes[0][1] = 1;
    p.planes[2][2] = 1.2;
    const s = scopesOf(p);
    expect([s.crushed, s.clipped, s.outside]).toEqual([0.25, 0.5, 0.5]);
  });
});

describe('figures', () => {
  it('measure noise that was added, and none in a slope', () => {
    const random = randomFrom(9);
    const gauss = () => Array.from({ length: 12 }, random).reduce((a, b) => a + b, -6);
    const p = flat(200, 200, [0, 0, 0]);
    for (let i = 0; i < 40_000; i++) {
      const v = 0.2 + (i % 200) / 400 + gauss() * 0.02;
      p.planes.forEach((q) => (q[i] = v));
    }
    expect(figuresOf(p).noise).toBeCloseTo(0.02, 3);
    p.planes.forEach((q) => q.forEach((_, i) => (q[i] = 0.2 + (i % 200) / 400)));
    expect(figuresOf(p).noise).toBeLessThan(1e-6);
    expect(figuresOf(p).lightness).toBeCloseTo(0.2 + 199 / 800, 4);
  });
});
