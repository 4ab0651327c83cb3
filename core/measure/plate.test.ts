import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { holeOf, platePointsOf } from '.';
import { BLEND_MODES, type BlendId } from '../compositing';
import { Engine } from '../engine';
import { inDomain } from '../image';
import { edit, emptyLook, type LookDocument } from '../look';
import { plan } from '../plan';
import { A_MINUTE, leafOf, randomFrom } from '../testing';

const engine = new Engine({ limit: 1 << 28, helpers: 0 });
const [W, H] = [120, 68];
/** Nearly Gaussian noise with deviation 1. */
const noiseFrom = (seed: number): (() => number) => {
  const random = randomFrom(seed);
  return () => (random() + random() + random() + random() - 2) * 1.732;
};

/** A plate: noisy ground with marks on one hundredth of it. */
function plateOf(ground: number, deviation: number, mark: number, seed: number): Float32Array {
  const noise = noiseFrom(seed);
  return Float32Array.from({ length: W * H }, (_, i) =>
    i % 97 === 0 ? mark : ground + deviation * noise(),
  );
}
const footageLook = (blend: BlendId): LookDocument => ({
  ...emptyLook('Dust'),
  pins: [{ key: 'dust', label: 'Dust', kind: 'footage', many: false }],
  layers: [{ ...edit.newLayer('dust', 'footage', []), source: 'footage', from: 'dust', blend }],
});
const grey = (v: number) =>
  leafOf(
    [0, 1, 2].map(() => Array.from({ length: W * H }, () => v)),
    W,
    H,
    'encoded',
  );
const under = (blend: BlendId, plate: Float32Array, tone: number): Float32Array => {
  const { result } = plan(footageLook(blend), {
    bedrock: grey(tone),
    content: 'abc',
    frame: 0,
    time: A_MINUTE,
    footage: { dust: leafOf([plate, plate, plate], W, H, 'encoded') },
    plates: { dust: platePointsOf(plate) },
  });
  return engine.memory.plane(engine.compute(inDomain(result, 'encoded')), 1).slice();
};
const lightened = (Object.keys(BLEND_MODES) as BlendId[]).filter(
  (id) => BLEND_MODES[id].neutral === 'black',
);

describe('a plate’s own black and white', () => {
  it('are the ends of its ground, noise and all, not its marks', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0.02, max: 0.2, noNaN: true }),
        fc.double({ min: 0, max: 0.015, noNaN: true }),
        fc.integer(),
        (ground, noise, seed) => {
          const { black } = platePointsOf(plateOf(ground, noise, 0.9, seed));
          expect(black).toBeGreaterThanOrEqual(ground - 0.003);
          expect(black).toBeLessThan(ground + 4.5 * noise + 0.006);
          const { white } = platePointsOf(plateOf(1 - ground, noise, 0.1, seed));
          expect(white).toBeLessThanOrEqual(1 - ground + 0.003);
          expect(white).toBeGreaterThan(1 - ground - 4.5 * noise - 0.006);
        },
      ),
      { numRuns: 40 },
    );
  });
  it('leave footage without a ground nearly as it is', () => {
    const ramp = Float32Array.from({ length: 4000 }, (_, i) => i / 3999);
    const { black, white } = platePointsOf(ramp);
    expect(black).toBeLessThan(0.02);
    expect(white).toBeGreaterThan(0.98);
    expect(platePointsOf(new Float32Array())).toEqual({ black: 0, white: 1 });
  });
  it.each(lightened)('dust whose black is not black lifts nothing by %s', (blend) => {
    const plate = plateOf(0.06, 0.008, 0.95, 5);
    for (const tone of [0, 0.3, 0.8]) {
      const shown = under(blend, plate, tone).filter((_, i) => i % 97 !== 0);
      const off = shown.reduce((s, v) => s + Math.abs(v - tone), 0) / shown.length;
      expect(off).toBeLessThan(2e-4);
    }
  });
  it.each(['multiply', 'darken', 'color-burn'] as const)(
    'paper whose white is not white greys nothing by %s',
    (blend) => {
      const plate = plateOf(0.9, 0.012, 0.2, 6);
      for (const tone of [0.2, 0.7, 1]) {
        const shown = under(blend, plate, tone).filter((_, i) => i % 97 !== 0);
        expect(shown.reduce((s, v) => s + Math.abs(v - tone), 0) / shown.length).toBeLessThan(3e-4);
      }
    },
  );
  it('keeps its marks, and is left as it is by modes that have no tone of rest', () => {
    const plate = plateOf(0.06, 0.008, 0.95, 7);
    expect(under('screen', plate, 0.3)[0]).toBeCloseTo(
      1 - 0.7 * (1 - (0.95 - platePointsOf(plate).black) / (1 - platePointsOf(plate).black)),
      3,
    );
    expect(under('normal', plate, 0.3)[1]).toBeCloseTo(plate[1]!, 5);
  });
});

describe('the hole of a plate', () => {
  /** Coverage with a hole whose sides form a quadrilateral with rounded corners. */
  const framed = (corners: readonly (readonly [number, number])[], round: number): Float32Array => {
    const cover = new Float32Array(W * H).fill(1);
    for (let y = 0; y < H; y++)
      for (let x = 0; x < W; x++) {
        const [px, py] = [(x + 0.5) / W, (y + 0.5) / H];
        const inside = corners.every(([ax, ay], i) => {
          const [bx, by] = corners[(i + 1) % 4]!;
          return (bx - ax) * (py - ay) - (by - ay) * (px - ax) > 0;
        });
        const cut = corners.some(([cx, cy]) => Math.hypot((px - cx) * W, (py - cy) * H) < round);
        if (inside && !cut) cover[y * W + x] = 0;
      }
    return cover;
  };
  it.each([0, 5])(
    'is found with its four corners, also where they are cut off by %i pixels',
    (round) => {
      const corners = [
        [0.2, 0.15],
        [0.74, 0.2],
        [0.7, 0.82],
        [0.24, 0.86],
      ] as const;
      const found = holeOf(framed(corners, round), W, H)!;
      corners.forEach(([x, y], i) => {
        expect(Math.abs(found[i]![0] - x) * W).toBeLessThan(2.5);
        expect(Math.abs(found[i]![1] - y) * H).toBeLessThan(2.5);
      });
    },
  );
  it('is the largest that nothing leads out of', () => {
    const cover = new Float32Array(W * H).fill(1);
    const open = (x0: number, y0: number, x1: number, y1: number) => {
      for (let y = y0; y < y1; y++) cover.fill(0, y * W + x0, y * W + x1);
    };
    open(0, 0, 40, H); // leads to the edge
    open(60, 10, 70, 20);
    open(80, 30, 110, 60);
    const found = holeOf(cover, W, H)!;
    expect(found.map(([x, y]) => [Math.round(x * W), Math.round(y * H)])).toEqual([
      [80, 30],
      [110, 30],
      [110, 60],
      [80, 60],
    ]);
    expect(holeOf(new Float32Array(W * H).fill(1), W, H)).toBeNull();
    expect(holeOf(new Float32Array(W * H), W, H)).toBeNull();
  });
});
