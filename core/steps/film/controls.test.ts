/** What the controls of film say, measured on what comes out. */
import { describe, expect, it } from 'vitest';
import { lowerSteps, stepOf } from '..';
import { Engine } from '../../engine';
import { grainTile, STOCKS } from '../../film';
import { swing } from '../../graph';
import { type Values, withDefaults } from '../../parameters';
import { leafOf } from '../../testing';
import { damageLeaf } from './damage';

const engine = new Engine({ limit: 1 << 29, helpers: 0 });
const atSize = (width: number, height: number, frame = 3, seed = 5) => ({
  ...{ frame, seconds: frame / 25, rate: [25, 1] as const, seed, width, height },
});
const under = (
  id: string,
  values: Partial<Values>,
  level: number,
  at: ReturnType<typeof atSize>,
): Float32Array[] => {
  const plane = new Float32Array(at.width * at.height).fill(level);
  const step = stepOf(id)!;
  const made = lowerSteps(
    [{ step, values: withDefaults(step, values), mix: 1, at }],
    leafOf([plane, plane, plane], at.width, at.height, 'encoded'),
  );
  const image = engine.compute(made);
  return [0, 1, 2].map((p) => engine.memory.plane(image, p).slice());
};
const deviation = (v: ArrayLike<number>): number => {
  const all = Array.from(v),
    mean = all.reduce((a, b) => a + b, 0) / all.length;
  return Math.sqrt(all.reduce((a, b) => a + (b - mean) ** 2, 0) / all.length);
};

describe('grain', () => {
  const at = atSize(320, 180);
  it.each(STOCKS.map((s) => s.id))(
    'of %s without colour is grey, and grey as green is',
    (stock) => {
      const of = (colour: number) =>
        under('grain', { amount: 100, stock, gauge: 'sixteen', colour }, 0.5, at);
      const [r, g, b] = of(0);
      expect(deviation(b!.map((v, i) => v - g![i]!)) / deviation(g!)).toBeLessThan(0.01);
      expect(deviation(r!.map((v, i) => v - g![i]!)) / deviation(g!)).toBeLessThan(0.01);
      const [, green] = of(100);
      expect(deviation(g!) / deviation(green!)).toBeCloseTo(1, 1);
    },
  );
  it('of two layers correlates by the share that they have in common', () => {
    const { discs } = STOCKS.find((s) => s.id === 'night')!.granularity;
    for (const common of [0.12, 0.3, 0.6])
      for (const p of [8, 16]) {
        const { planes } = grainTile({ discs, common }, p);
        for (const [i, j] of [
          [0, 1],
          [1, 2],
          [0, 2],
        ] as const) {
          const [a, b] = [planes[i]!, planes[j]!];
          const found = a.reduce((s, v, k) => s + v * b[k]!, 0) / a.length;
          expect(Math.abs(found - common)).toBeLessThan(0.06);
        }
      }
  });
});

it('hairs: as many reach into the picture at a time as are set', () => {
  const [width, height] = [320, 180];
  let reaching = 0;
  const frames = 200;
  for (let n = 0; n < frames; n++) {
    const at = atSize(width, height, 400 + n * 173, 9);
    const of = { dust: 0, hairs: 1, scratches: 0, size: 1, life: 50, bright: 0 };
    const leaf = damageLeaf({ ...of, hairs: 3 }, at);
    const rows = Array.from({ length: height }, () => new Float32Array(width));
    leaf.load(0, (y) => rows[y]!);
    // Counted where they are inside, 20 lines from their edge, by runs along the row.
    for (const y of [
      Math.round((20 / 1080) * height),
      height - 1 - Math.round((20 / 1080) * height),
    ]) {
      let inside = false;
      for (let x = 0; x < width; x++) {
        const on = rows[y]![x]! > 0.1;
        if (on && !inside) reaching++;
        inside = on;
      }
    }
  }
  // Two hundred draws of a mean of three.
  expect(reaching / frames).toBeGreaterThan(2.5);
  expect(reaching / frames).toBeLessThan(3.5);
});

describe('turns', () => {
  it('once in a unit of time, to both sides', () => {
    for (const seed of [1, 2, 3]) {
      let turns = 0;
      const N = 20_000,
        units = 400;
      for (let i = 1; i < N; i++)
        if (swing(seed, ((i - 1) / N) * units) < 0 && swing(seed, (i / N) * units) >= 0) turns++;
      expect(Math.abs(turns / units - 1)).toBeLessThan(0.01);
    }
  });
  it('of a crank are as many a second as are set, in the light of the picture', () => {
    for (const rate of [1, 3]) {
      const light = Array.from(
        { length: 500 },
        (_, frame) =>
          under('density-flicker', { hand: 0.5, rate }, 0.5, atSize(2, 2, frame))[1]![0]!,
      );
      const turns = light.filter((v, i) => i > 0 && light[i - 1]! < 0.5 && v >= 0.5).length;
      expect(Math.abs(turns / 20 - rate)).toBeLessThan(0.15 * rate);
    }
  });
});

it('the night stock’s shadows lean to blue and green, its lights the other way', () => {
  const [r, g, b] = [0.04, 0.08, 0.95].map((level) =>
    under('film-response', { stock: 'night', softness: 0 }, level, atSize(4, 4)).map((p) => p[0]!),
  ) as [number[], number[], number[]];
  for (const dark of [r, g]) {
    expect(dark[2]!).toBeGreaterThan(dark[0]!);
    expect(dark[1]!).toBeGreaterThan(dark[0]!);
  }
  expect(b[0]!).toBeGreaterThan(b[2]!);
});

it.each(['left', 'top', 'both-sides'])(
  'film burnt from %s leaves as much of the picture as is set',
  (side) => {
    for (const amount of [0, 10, 30, 50, 80, 100]) {
      const [red] = under('film-burn', { amount, side }, 0, atSize(480, 270));
      // On a black picture only what is gone lets the lamp's light through.
      const gone = red!.reduce((n, v) => n + Math.min(1, Math.max(0, v)), 0) / red!.length;
      expect(Math.abs(gone - amount / 100)).toBeLessThan(0.02);
    }
  },
);
