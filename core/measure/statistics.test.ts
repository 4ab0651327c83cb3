import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  balanceTo,
  commonGround,
  groundOf,
  type Sample,
  sampledFrames,
  statisticsOf,
  toOklab,
} from '.';
import { balanced } from '../clip';
import { Engine } from '../engine';
import type { ImageNode } from '../graph';
import { inDomain, leaf } from '../image';
import { deltaE, leafOf, randomFrom } from '../testing';
import { percentilesOf } from './statistics';

const engine = new Engine({ limit: 1 << 28, helpers: 0 });
const planesOf = (p: ImageNode) => {
  const found = engine.planes(engine.compute(p));
  return { ...found, planes: found.planes.map((v) => v.slice()) };
};
const sample = (light: ImageNode, moved: number | null = null): Sample => ({
  light: planesOf(light),
  lab: planesOf(toOklab(light)),
  moved,
  encoded: planesOf(inDomain(light, 'encoded')),
});

const [W, H] = [96, 54];
/** A picture of many tones, most of them nearly grey, a third coloured. */
function scene(seed: number): Float32Array[] {
  const random = randomFrom(seed);
  const planes = [0, 1, 2].map(() => new Float32Array(W * H));
  for (let i = 0; i < W * H; i++) {
    const tone = 0.01 + 0.8 * random() * random();
    const colour = random() < 0.33 ? 0.8 : 0.12;
    for (const p of planes) p[i] = tone * (1 + colour * (random() - 0.5));
  }
  return planes;
}
const pictured = (planes: readonly Float32Array[]): ImageNode => leaf(planes, W, H, 'light');
const shot = (planes: readonly Float32Array[], stops: number, gains: readonly number[]) =>
  planes.map((p, k) => p.map((v) => v * 2 ** stops * gains[k]!));

it('Oklab is what its definition gives: white, grey and red', () => {
  const lab = planesOf(
    toOklab(
      leafOf(
        [
          [1, 0.18, 1],
          [1, 0.18, 0],
          [1, 0.18, 0],
        ],
        3,
        1,
        'light',
      ),
    ),
  ).planes;
  expect([lab[0]![0], lab[1]![0], lab[2]![0]]).toEqual([
    expect.closeTo(1, 4),
    expect.closeTo(0, 4),
    expect.closeTo(0, 4),
  ]);
  expect(lab[0]![1]).toBeCloseTo(0.18 ** (1 / 3), 4);
  expect([lab[0]![2], lab[1]![2], lab[2]![2]]).toEqual([
    expect.closeTo(0.628, 3),
    expect.closeTo(0.2249, 3),
    expect.closeTo(0.1258, 3),
  ]);
});

it('percentiles are those of the sorted values', () => {
  const p = percentilesOf(Float32Array.from({ length: 101 }, (_, i) => (100 - i) / 100));
  expect([p.p1, p.p5, p.p50, p.p95]).toEqual(
    [0.01, 0.05, 0.5, 0.95].map((v) => expect.closeTo(v, 6)),
  );
  expect(percentilesOf(Float32Array.of(0.3)).p99).toBeCloseTo(0.3, 6);
});

describe('statistics', () => {
  it('find the colour of grey among colours, whatever the exposure', () => {
    for (const [red, blue] of [
      [0, 0],
      [0.4, -0.5],
      [-0.3, 0.6],
    ] as const) {
      const s = statisticsOf([sample(pictured(shot(scene(3), -0.7, [2 ** red, 1, 2 ** blue])))]);
      expect(Math.abs(s.neutral.red - red)).toBeLessThan(0.05);
      expect(Math.abs(s.neutral.blue - blue)).toBeLessThan(0.05);
    }
  });

  it('see motion, noise, contrast and skin where there are some', () => {
    const still = scene(5);
    // One outlier (a cut) does not make a still clip count as fast.
    expect(statisticsOf([0.1, 0.12, 4].map((moved) => sample(pictured(still), moved))).motion).toBe(
      0.12,
    );
    expect(statisticsOf([sample(pictured(still))]).motion).toBe(0);
    const flat = pictured([0, 1, 2].map(() => new Float32Array(W * H).fill(0.2)));
    const none = statisticsOf([sample(flat)]);
    expect(
      [none.noise, none.contrast, none.chroma, none.spread].every((v) => Math.abs(v) < 1e-4),
    ).toBe(true);
    expect(none.skin).toBeNull();
    const skin = pictured([0.45, 0.25, 0.16].map((v) => new Float32Array(W * H).fill(v)));
    const found = statisticsOf([sample(skin)]).skin!;
    expect(found.share).toBe(1);
    // Compared with the engine's inverse tangent, which this code does not use.
    const [a, b] = [1, 2].map((p) => planesOf(toOklab(skin)).planes[p]![0]!) as [number, number];
    expect(found.hue).toBeCloseTo((Math.atan2(b, a) * 180) / Math.PI, 4);
  });

  it('look at frames spread evenly over the clip', () => {
    expect(sampledFrames(1)).toEqual([0]);
    expect(sampledFrames(80)).toEqual([5, 15, 25, 35, 45, 55, 65, 75]);
    expect(sampledFrames(3)).toEqual([0, 1, 2]);
  });
});

/** Full strength, as far as reasonable footage is off. */
const WHOLE = { strength: 1, stops: 1.5, cast: 1 };

describe('balance', () => {
  it('takes a known offset of light and colour off again: its middle grey comes back to within ΔE 3', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 1e6 }),
        fc.double({ min: -1.2, max: 1, noNaN: true }),
        fc.double({ min: -0.5, max: 0.5, noNaN: true }),
        fc.double({ min: -0.5, max: 0.5, noNaN: true }),
        (seed, stops, red, blue) => {
          const truth = scene(seed);
          const gains = [2 ** red, 1, 2 ** blue];
          const [right, wrong] = [
            statisticsOf([sample(pictured(truth))]),
            statisticsOf([sample(pictured(shot(truth, stops, gains)))]),
          ];
          const balance = balanceTo(wrong, groundOf(right), WHOLE);
          const grey = [0, 1, 2].map(() =>
            Math.max(0.02, ((right.tones.p50 + 0.055) / 1.055) ** 2.4),
          );
          const patch = leaf(
            shot(
              grey.map((v) => Float32Array.of(v)),
              stops,
              gains,
            ),
            1,
            1,
            'light',
          );
          const back = planesOf(inDomain(balanced(patch, balance), 'light')).planes.map(
            (p) => p[0]!,
          );
          expect(deltaE(back, grey)).toBeLessThan(3);
        },
      ),
      { numRuns: 60 },
    );
  });

  it('keeps a night shot night: no clip moves by more than it may', () => {
    const night = statisticsOf([sample(pictured(shot(scene(2), -5, [1, 1, 1])))]);
    const day = statisticsOf([sample(pictured(scene(2)))]);
    const b = balanceTo(night, groundOf(day), { strength: 1, stops: 1, cast: 0 });
    const middle = (Math.max(0.02, night.tones.p50) * b.slope[1]) ** b.power[1];
    expect(2.2 * Math.log2(middle / Math.max(0.02, night.tones.p50))).toBeLessThan(1.05);
    expect(b.slope[0]).toBeCloseTo(b.slope[2], 3);
    expect(balanceTo(night, groundOf(day), { strength: 0, stops: 1, cast: 1 })).toMatchObject({
      slope: [1, 1, 1],
      power: [1, 1, 1],
    });
  });

  it('brings clips closer together, and their common ground is their median', () => {
    const all = [-0.8, -0.3, 0, 0.5, 0.9].map((stops, i) =>
      statisticsOf([sample(pictured(shot(scene(i + 10), stops, [1, 1, 1])))]),
    );
    const ground = commonGround(all);
    expect(ground.middle).toBeCloseTo(
      [...all.map((s) => s.tones.p50)].sort((a, b) => a - b)[2]!,
      6,
    );
    const moved = all.map((s) => {
      const b = balanceTo(s, ground, WHOLE);
      return (s.tones.p50 * b.slope[1]) ** b.power[1];
    });
    const reach = (v: readonly number[]) => Math.max(...v) - Math.min(...v);
    expect(reach(moved)).toBeLessThan(0.2 * reach(all.map((s) => s.tones.p50)));
  });

  it('is a decision list by the standard’s formula, and none is none', () => {
    const picture = leafOf([[0.4], [0.5], [0.6]], 1, 1, 'encoded');
    expect(balanced(picture, null)).toBe(picture);
    const out = planesOf(
      balanced(picture, {
        slope: [1.1, 1, 0.9],
        offset: [0.02, 0, -0.01],
        power: [1.2, 1, 0.8],
        saturation: 1,
      }),
    ).planes;
    expect(out.map((p) => p[0])).toEqual(
      [(0.4 * 1.1 + 0.02) ** 1.2, 0.5, (0.6 * 0.9 - 0.01) ** 0.8].map((v) => expect.closeTo(v, 5)),
    );
  });
});
