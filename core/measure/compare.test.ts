import { describe, expect, it } from 'vitest';
import { difference, marked } from '.';
import { Engine } from '../engine';
import { bitsThatDiffer, leafOf, randomPlanes } from '../testing';

const engine = new Engine({ limit: 1 << 26, helpers: 0 });
const [W, H] = [16, 16];
const flat = (...c: number[]) =>
  leafOf(
    c.map((v) => new Float32Array(W * H).fill(v)),
    W,
    H,
    'none',
  );
/** The red values, row by row. */
const shown = (of: ReturnType<typeof marked>) => {
  const plane = engine.memory.plane(engine.compute(of), 0);
  return Array.from({ length: H }, (_, y) => [...plane.subarray(y * W, (y + 1) * W)]);
};

describe('marks', () => {
  it('hatch what is crushed by rising lines, clipped by falling ones, outside by both', () => {
    const crushed = shown(marked(flat(0, 0, 0)));
    crushed.forEach((r, y) =>
      r.forEach((v, x) => expect(v).toBeCloseTo(((x + y) & 7) < 2 ? 0.85 : 0, 6)),
    );
    const clipped = shown(marked(flat(0.4, 1, 0.2)));
    clipped.forEach((r, y) =>
      r.forEach((v, x) => expect(v).toBeCloseTo(((x - y) & 7) < 2 ? 0.1 : 1, 6)),
    );
    const outside = shown(marked(flat(-0.2, 0.5, 0.5)));
    outside.forEach((r, y) =>
      r.forEach((v, x) =>
        expect(v).toBeCloseTo(((x + y) & 7) < 2 || ((x - y) & 7) < 2 ? 0.79 : 0.05, 6),
      ),
    );
  });

  it('leave the rest a dim grey of its luma', () => {
    for (const row of shown(marked(flat(0.5, 0.5, 0.5))))
      for (const v of row) expect(v).toBeCloseTo(0.37, 5);
    // One 8-bit code beyond the range still counts as inside.
    for (const row of shown(marked(flat(-0.003, 0.5, 0.5))))
      for (const v of row) expect(v).toBeCloseTo((0.5 * 0.7874 - 0.003 * 0.2126) * 0.5 + 0.12, 4);
  });
});

it('differences have no sign, are made larger, and are the reference bit for bit', () => {
  const [a, b] = [flat(0.2, 0.5, 0.7), flat(0.3, 0.5, 0.4)];
  const image = engine.compute(difference(a, b, 4));
  const [red, green, blue] = [0, 1, 2].map((p) => engine.memory.plane(image, p)[0]!);
  expect(red).toBeCloseTo(0.4, 6);
  expect(green).toBe(0);
  expect(blue).toBeCloseTo(1.2, 6);
  const of = (seed: number) => leafOf(randomPlanes(3, 23, 7, seed), 23, 7, 'none');
  expect(bitsThatDiffer(engine, difference(of(1), of(2), 16))).toBe(0);
  expect(bitsThatDiffer(engine, marked(of(3)))).toBe(0);
});
