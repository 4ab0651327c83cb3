import { describe, expect, it } from 'vitest';
import { Engine } from '../engine';
import { enlargedChroma, type Fields, type Siting, SITINGS } from './chroma';
import { leaf } from './planes';

const engine = new Engine({ limit: 1 << 26, helpers: 0 });
const [W, H] = [32, 24];

/** Chroma samples that hold their own position: x in one plane, y in the other. */
function places(siting: Siting, fields: Fields, chroma: readonly [1 | 2, 1 | 2]) {
  const right = ['left', 'topleft', 'bottomleft'].includes(siting) ? 0 : 0.5;
  const down = siting.startsWith('top') ? 0 : siting.startsWith('bottom') ? 1 : 0.5;
  const [w, h] = [W / chroma[0], H / chroma[1]];
  // Chroma rows of a field lie a quarter of the way between its rows in the upper field, three
  // quarters in the lower.
  const rowOf = (j: number) =>
    fields === 'none' ? 2 * j + down : 2 * (2 * (j >> 1) + (j % 2 === 0 ? 0.25 : 0.75)) + (j % 2);
  const plane = (of: (x: number, y: number) => number) =>
    Float32Array.from({ length: w * h }, (_, i) => of(i % w, Math.floor(i / w)));
  return leaf(
    [
      plane((x) => (chroma[0] === 2 ? 2 * x + right : x)),
      plane((_, y) => (chroma[1] === 2 ? rowOf(y) : y)),
    ],
    w,
    h,
    'none',
  );
}
function enlarged(siting: Siting, fields: Fields, chroma: readonly [1 | 2, 1 | 2]) {
  const image = engine.compute(
    enlargedChroma(places(siting, fields, chroma), W, H, { chroma, siting, fields }),
  );
  return [0, 1].map((p) => engine.memory.plane(image, p));
}

describe('colour samples at half the size', () => {
  it.each(SITINGS)('sited %s, are found where they lie', (siting) => {
    const [across, down] = enlarged(siting, 'none', [2, 2]);
    for (let y = 6; y < H - 6; y++)
      for (let x = 6; x < W - 6; x++) {
        expect(across![y * W + x]).toBeCloseTo(x, 4);
        expect(down![y * W + x]).toBeCloseTo(y, 4);
      }
  });

  it.each(['top', 'bottom'] as const)(
    'of interlaced frames (%s first) lie among their own field’s rows',
    (fields) => {
      const [across, down] = enlarged('left', fields, [2, 2]);
      for (let y = 8; y < H - 8; y++)
        for (let x = 6; x < W - 6; x++) {
          expect(across![y * W + x]).toBeCloseTo(x, 4);
          expect(down![y * W + x]).toBeCloseTo(y, 4);
        }
    },
  );

  it('and an interlaced frame’s fields do not mix: colour in one leaves the other as it is', () => {
    const [w, h] = [W / 2, H / 2];
    const upper = Float32Array.from({ length: w * h }, (_, i) =>
      Math.floor(i / w) % 2 === 0 ? 1 : 0,
    );
    const image = engine.compute(
      enlargedChroma(leaf([upper, upper], w, h, 'none'), W, H, {
        chroma: [2, 2],
        siting: 'left',
        fields: 'top',
      }),
    );
    engine.memory
      .plane(image, 0)
      .forEach((v, i) => expect(v).toBeCloseTo(Math.floor(i / W) % 2 === 0 ? 1 : 0, 6));
  });

  it('halved across alone keep their rows, and whole ones are left alone', () => {
    const [across, down] = enlarged('left', 'none', [2, 1]);
    expect(across![5 * W + 9]).toBeCloseTo(9, 5);
    expect(down![5 * W + 9]).toBe(5);
    const whole = places('left', 'none', [1, 1]);
    expect(enlargedChroma(whole, W, H, { chroma: [1, 1], siting: 'left', fields: 'none' })).toBe(
      whole,
    );
  });
});
