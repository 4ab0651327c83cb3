import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { lowerStep, lowerSteps, STEPS, type Use } from '.';
import { Engine } from '../engine';
import { withDefaults } from '../parameters';
import { anyValues, bitsThatDiffer, leafOf, randomPlanes } from '../testing';

const engine = new Engine({ limit: 1 << 28, helpers: 0 });
const at = { frame: 3, seconds: 3 / 25, rate: [25, 1] as const, seed: 9, width: 67, height: 41 };
const [W, H] = [67, 41];
const channelwise = STEPS.filter((s) => 'pixel' in s && s.channelwise);
const use = (id: string, values: Record<string, number>): Use => {
  const step = STEPS.find((s) => s.id === id)!;
  return { step, values: withDefaults(step, values), mix: 1, at };
};
const heavy = [
  use('levels', { gamma: 1.3, black: 0.02 }),
  use('three-way', { 'gamma-red': 20, lift: -10, 'gain-blue': 12 }),
];
const oneByOne = (uses: readonly Use[], input: Parameters<typeof lowerSteps>[1]) =>
  uses.reduce((now, u) => lowerStep(u.step, now, u.values, u.mix, u.at), input);
const planesOf = (p: Parameters<typeof lowerSteps>[1]) => {
  const image = engine.compute(p);
  return Array.from({ length: image.planes }, (_, i) => engine.memory.plane(image, i));
};

/** The largest |Δ| ÷ max(1, |value|) between the looked-up and the computed values. */
function apart(uses: readonly Use[], input: Parameters<typeof lowerSteps>[1]): number {
  const [found, written] = [planesOf(lowerSteps(uses, input)), planesOf(oneByOne(uses, input))];
  let most = 0;
  found.forEach((plane, p) =>
    plane.forEach((v, i) => {
      const w = written[p]![i]!;
      most = Math.max(most, Math.abs(v - w) / Math.max(1, Math.abs(w)));
    }),
  );
  return most;
}

describe('a chain of channel-wise steps', () => {
  it('is looked up where it costs much, and only there', () => {
    const input = leafOf(randomPlanes(3, W, H, 1), W, H, 'encoded');
    const shape = (uses: readonly Use[]) => (lowerSteps(uses, input) as { shape?: string }).shape;
    expect(shape(heavy)).toBe('looked-3');
    expect(shape([use('contrast', { amount: 20 }), use('invert', {})])).toMatch(/^invert/);
    // A step mixed in by half cannot be folded, nor can one that mixes channels.
    expect(shape([heavy[0]!, { ...heavy[1]!, mix: 0.5 }])).toMatch(/^mix/);
    expect(shape([heavy[0]!, use('saturation', { amount: 130 }), heavy[1]!])).toMatch(/^three-way/);
  });

  it('says of each step what is true: no channel depends on another', () => {
    for (const step of channelwise)
      for (let seed = 1; seed <= 4; seed++) {
        const planes = randomPlanes(3, W, H, seed);
        const uses = [{ step, values: anyValues(step, seed), mix: 1, at }];
        const whole = planesOf(oneByOne(uses, leafOf(planes, W, H, 'encoded')));
        for (const k of [0, 1, 2]) {
          const other = planes.map((p, i) => (i === k ? p : p.map((v) => 1.7 - v)));
          expect(planesOf(oneByOne(uses, leafOf(other, W, H, 'encoded')))[k]).toEqual(whole[k]);
        }
      }
  });

  it('is within 2e-5 of the steps one by one for a plain grade', () => {
    const input = leafOf(randomPlanes(3, W, H, 6), W, H, 'encoded');
    expect(apart(heavy, input)).toBeLessThan(2e-5);
  });

  it("is within half a code of 8 bits of them for chains that bend up to four times, from −0.5 to 4 and at the ends of light's range, or as near as their values 1/8192 beside it", () => {
    const ends = [
      -1000,
      -65504,
      65504,
      1000,
      1.5,
      -0.5,
      0,
      1,
      1.4999999,
      -0.50000006,
      2 ** -60,
    ].map(Math.fround);
    fc.assert(
      fc.property(
        fc.array(
          fc.record({
            step: fc.constantFrom(...channelwise),
            seed: fc.integer({ min: 1, max: 1e6 }),
          }),
          { minLength: 1, maxLength: 2 },
        ),
        fc.integer({ min: 1, max: 1e6 }),
        (steps, seed) => {
          const uses = [
            ...heavy,
            ...steps.map(({ step, seed }) => ({ step, values: moderate(step, seed), mix: 1, at })),
          ];
          const planes = randomPlanes(3, W, H, seed);
          planes.forEach((p) => p.set(ends));
          const input = leafOf(planes, W, H, 'encoded');
          if (apart(uses, input) < 0.5 / 255) return;
          // A gamma on a gamma has no bounded slope at black: there the result lies between the
          // values at the cell's ends.
          const [found, written, below, above] = [
            planesOf(lowerSteps(uses, input)),
            ...[0, -1 / 8192, 1 / 8192].map((by) =>
              planesOf(
                oneByOne(
                  uses,
                  leafOf(
                    planes.map((p) => p.map((v) => v + by)),
                    W,
                    H,
                    'encoded',
                  ),
                ),
              ),
            ),
          ] as [Float32Array[], Float32Array[], Float32Array[], Float32Array[]];
          found.forEach((plane, p) =>
            plane.forEach((v, i) => {
              const w = written[p]![i]!;
              if (Math.abs(v - w) / Math.max(1, Math.abs(w)) < 0.5 / 255) return;
              expect(v).toBeGreaterThanOrEqual(Math.min(below[p]![i]!, w, above[p]![i]!));
              expect(v).toBeLessThanOrEqual(Math.max(below[p]![i]!, w, above[p]![i]!));
            }),
          );
        },
      ),
      { numRuns: 100 },
    );
  });

  it("is the single reference's bits, with and without coverage", () => {
    for (const planes of [3, 4])
      expect(
        bitsThatDiffer(
          engine,
          lowerSteps(heavy, leafOf(randomPlanes(planes, W, H, planes), W, H, 'encoded')),
        ),
      ).toBe(0);
  });

  it('turns no tone around', () => {
    const n = 4001;
    const tones = Float32Array.from({ length: n }, (_, i) => -3 + (i / (n - 1)) * 9);
    const [out] = planesOf(lowerSteps(heavy, leafOf([tones, tones, tones], n, 1, 'encoded')));
    for (let i = 1; i < n; i++) expect(out![i]!).toBeGreaterThanOrEqual(out![i - 1]!);
  });
});

/**
 * Values from the middle half of each range; chains of extremes multiply slopes into the hundreds.
 */
function moderate(step: Use['step'], seed: number): Use['values'] {
  const any = anyValues(step, seed);
  return Object.fromEntries(
    step.parameters.map((p) => {
      const v = any[p.id]!;
      const neutral = p.kind === 'number' ? (p.neutral ?? p.default) : 0;
      return [p.id, p.kind === 'number' ? neutral + ((v as number) - neutral) * 0.25 : v];
    }),
  );
}
