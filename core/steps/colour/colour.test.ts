import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { lowerStep, type Step, stepOf, STEPS } from '..';
import { Engine } from '../../engine';
import { type Parameter, type ParameterValue, type Values, withDefaults } from '../../parameters';
import { leafOf, randomFrom, randomPlanes } from '../../testing';

const engine = new Engine({ limit: 1 << 28, helpers: 0 });
const moment = { frame: 0, seconds: 0, rate: [25, 1] as const, seed: 1, width: 64, height: 36 };
const computed = (
  id: string,
  values: Partial<Values>,
  planes: readonly ArrayLike<number>[],
): Float32Array[] => {
  const step = stepOf(id)!;
  const image = engine.compute(
    lowerStep(
      step,
      leafOf(planes, planes[0]!.length, 1, step.domain),
      withDefaults(step, values),
      1,
      moment,
    ),
  );
  return [0, 1, 2].map((p) => engine.memory.plane(image, p));
};
const one = (id: string, values: Partial<Values>, c: readonly number[]): number[] =>
  computed(
    id,
    values,
    c.map((v) => [v]),
  ).map((p) => p[0]!);

const extreme = (p: Parameter, at: number): ParameterValue =>
  p.kind === 'number' ? [p.min, p.default, p.max][at % 3]! : p.default;
const extremes = (step: Step, seed: number): Values => {
  const random = randomFrom(seed);
  return Object.fromEntries(
    step.parameters.map((p) => [p.id, extreme(p, Math.floor(random() * 3))]),
  );
};

describe('colour steps at the ends of their ranges', () => {
  it.each(STEPS.filter((s) => s.family === 'colour').map((s) => [s.id, s] as const))(
    '%s gives finite numbers for negative, huge and zero light',
    (id, step) => {
      const values = [-1000, -1, -1e-6, 0, 1e-6, 0.5, 1, 16, 65504];
      const planes = [0, 1, 2].map((k) =>
        Float32Array.from({ length: 729 }, (_, i) => values[Math.floor(i / [1, 9, 81][k]!) % 9]!),
      );
      for (let seed = 1; seed <= 12; seed++)
        computed(id, extremes(step, seed), planes).forEach((p) =>
          expect(p.every(Number.isFinite)).toBe(true),
        );
    },
  );

  it.each([
    'three-way',
    'levels',
    'cdl',
    'contrast',
    'tone-ranges',
    'tone-tint',
    'vibrance',
    'hue-bands',
    'saturation',
  ])('%s never turns the grey scale around', (id) => {
    const step = stepOf(id)!;
    const grey = Float32Array.from({ length: 1200 }, (_, i) => -0.1 + i / 800);
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 1e6 }), (seed) => {
        const planes = computed(id, extremes(step, seed), [grey, grey, grey]);
        const luma = grey.map(
          (_, i) => 0.2126 * planes[0]![i]! + 0.7152 * planes[1]![i]! + 0.0722 * planes[2]![i]!,
        );
        for (let i = 1; i < luma.length; i++)
          expect(luma[i]! - luma[i - 1]!).toBeGreaterThan(-2e-5 * Math.max(1, Math.abs(luma[i]!)));
      }),
      { numRuns: 40 },
    );
  });
});

describe('three-way', () => {
  it('lifts the blacks and leaves white, gains the white and leaves black', () => {
    expect(one('three-way', { lift: 20 }, [0, 0, 1])).toEqual([
      expect.closeTo(0.1, 6),
      expect.closeTo(0.1, 6),
      1,
    ]);
    expect(one('three-way', { gain: 50 }, [0, 0.25, 0])[1]).toBeCloseTo(0.5, 5);
    expect(one('three-way', { gain: -100 }, [0, 1, 0])[1]).toBeCloseTo(0.25, 5);
  });
  it('bends the middle by gamma and leaves both ends', () => {
    const [black, middle, white] = one('three-way', { gamma: 50 }, [0, 0.25, 1]);
    expect([black, white]).toEqual([0, expect.closeTo(1, 6)]);
    // The curve's toe takes 6e-5 of it.
    expect(Math.abs(middle! - 0.5)).toBeLessThan(1e-4);
  });
  it('moves one channel alone when asked', () => {
    const [r, g, b] = one('three-way', { 'gain-red': 50 }, [0.25, 0.25, 0.25]);
    expect(r).toBeCloseTo(0.5, 5);
    expect([g, b]).toEqual([0.25, 0.25]);
  });
});

describe('CDL', () => {
  it('is the standard formula to 1e-5 where it is held to 0…1', () => {
    const random = randomFrom(5);
    for (let i = 0; i < 40; i++) {
      const v = {
        slope: 0.5 + random(),
        offset: random() * 0.2 - 0.1,
        power: 0.6 + random(),
        saturation: random() * 2,
      };
      const values: Record<string, ParameterValue> = { saturation: v.saturation, hold: true };
      for (const c of ['red', 'green', 'blue'])
        Object.assign(values, {
          [`slope-${c}`]: v.slope,
          [`offset-${c}`]: v.offset,
          [`power-${c}`]: v.power,
        });
      const planes = randomPlanes(3, 40, 1, i);
      const hold = (x: number) => Math.min(1, Math.max(0, x));
      const graded = planes.map((p) =>
        Array.from(p, (x) => Math.pow(hold(x * v.slope + v.offset), v.power)),
      );
      computed('cdl', values, planes).forEach((p, c) =>
        p.forEach((x, k) => {
          const y = 0.2126 * graded[0]![k]! + 0.7152 * graded[1]![k]! + 0.0722 * graded[2]![k]!;
          expect(Math.abs(x - hold(y + v.saturation * (graded[c]![k]! - y)))).toBeLessThan(1e-5);
        }),
      );
    }
  });
  it('lets light beyond white live unless it is held', () => {
    expect(one('cdl', { 'slope-red': 2 }, [1, -0.5, 0])[0]).toBeCloseTo(2, 5);
    expect(one('cdl', { 'slope-red': 2, hold: true }, [1, -0.5, 0])).toEqual([1, 0, 0]);
  });
});

describe('hues', () => {
  const RED = [0.8, 0.2, 0.2],
    BLUE = [0.2, 0.2, 0.8];
  it('are turned, drained and lightened each on their own', () => {
    expect(one('hue-bands', { 'red-saturation': -100 }, BLUE)).toEqual(
      BLUE.map((v) => expect.closeTo(v, 6)),
    );
    const [r, g, b] = one('hue-bands', { 'red-saturation': -100 }, RED);
    expect(Math.max(r!, g!, b!) - Math.min(r!, g!, b!)).toBeLessThan(1e-5);
    expect(one('hue-bands', { 'blue-lightness': 50 }, BLUE)[1]).toBeCloseTo(
      0.2 + 0.5 * 0.5 * 0.6,
      5,
    );
    const turned = one('hue-bands', { 'red-hue': 30 }, RED);
    expect(turned[1]!).toBeGreaterThan(turned[2]! + 0.1);
  });
  it('hue bands turn a hue by as much as sixty degrees, and never past its neighbour', () => {
    const [r, g, b] = one(
      'hue-bands',
      { 'green-hue': 60, 'cyan-hue': 60, 'blue-hue': 60 },
      [0.2, 0.8, 0.2],
    );
    expect(b!).toBeGreaterThan(r! + 0.3);
    expect(Math.abs(g! - b!)).toBeLessThan(0.02);
    const N = 720;
    const circle = [0, 4, 2].map((shift) =>
      Float32Array.from(
        { length: N },
        (_, i) =>
          0.4 + 0.3 * Math.max(0, Math.min(1, Math.abs((((i / N) * 6 + shift) % 6) - 3) - 1)),
      ),
    ) as [Float32Array, Float32Array, Float32Array];
    const hue = ([x, y, z]: number[]): number =>
      Math.atan2(Math.sqrt(3) * (y! - z!), 2 * x! - y! - z!);
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: -60, max: 60 }), { minLength: 8, maxLength: 8 }),
        (turns) => {
          const values = Object.fromEntries(
            ['red', 'orange', 'yellow', 'green', 'cyan', 'blue', 'purple', 'magenta'].map(
              (id, i) => [`${id}-hue`, turns[i]!],
            ),
          );
          const out = computed('hue-bands', values, circle);
          let whole = 0;
          for (let i = 0; i < N; i++) {
            const at = (k: number) => hue([0, 1, 2].map((p) => out[p]![k % N]!));
            const step = ((at(i + 1) - at(i) + 3 * Math.PI) % (2 * Math.PI)) - Math.PI;
            expect(step).toBeGreaterThan(-1e-3);
            whole += step;
          }
          expect(whole).toBeCloseTo(2 * Math.PI, 3);
        },
      ),
      { numRuns: 60 },
    );
  });
  it('hue turn turns all hues alike, keeps lightness, and leaves greys alone', () => {
    const lumaOf = ([r, g, b]: readonly number[]): number =>
      0.2126 * r! + 0.7152 * g! + 0.0722 * b!;
    const turned = one('hue-turn', { turn: 120 }, RED);
    expect(turned[1]! - turned[0]!).toBeCloseTo(0.6, 5);
    expect(turned[0]!).toBeCloseTo(turned[2]!, 5);
    expect(lumaOf(turned)).toBeCloseTo(lumaOf(RED), 5);
    const there = one('hue-turn', { turn: 180 }, BLUE);
    one('hue-turn', { turn: 180 }, there).forEach((v, i) => expect(v).toBeCloseTo(BLUE[i]!, 5));
    one('hue-turn', { turn: 77, share: 60, towards: 200 }, [0.4, 0.4, 0.4]).forEach((v) =>
      expect(v).toBeCloseTo(0.4, 6),
    );
  });
  it('hue turn draws all hues to one, as strong as they were', () => {
    for (const c of [RED, BLUE, [0.3, 0.6, 0.2]]) {
      const out = one('hue-turn', { towards: 60, share: 100 }, c);
      expect(out[0]!).toBeCloseTo(out[1]!, 5);
      expect(out[0]!).toBeGreaterThan(out[2]! + 0.1);
    }
    const half = one('hue-turn', { towards: 240, share: 50 }, [0.8, 0.8, 0.2]);
    expect(Math.max(...half) - Math.min(...half)).toBeLessThan(1e-5);
  });
  it('keep hue keeps one and drains the others, greys untouched', () => {
    expect(one('keep-hue', { hue: 0, width: 40 }, RED)).toEqual(
      RED.map((v) => expect.closeTo(v, 6)),
    );
    const grey = one('keep-hue', { hue: 0, width: 40 }, BLUE);
    expect(Math.max(...grey) - Math.min(...grey)).toBeLessThan(1e-5);
    expect(one('keep-hue', { hue: 350, width: 60 }, RED)[0]).toBeCloseTo(0.8, 5);
  });
  it('vibrance moves faint colours more than strong ones', () => {
    const gain = (c: number[]) => {
      const out = one('vibrance', { amount: 100 }, c);
      return (Math.max(...out) - Math.min(...out)) / (Math.max(...c) - Math.min(...c));
    };
    expect(gain([0.5, 0.45, 0.45])).toBeGreaterThan(1.5);
    expect(gain([0.9, 0.05, 0.05])).toBeLessThan(1.05);
  });
});

describe('levels, threshold, invert, tone tint', () => {
  it('levels put black and white where they are told', () => {
    const out = one(
      'levels',
      { black: 0.1, white: 0.6, 'out-black': 0.2, 'out-white': 0.8 },
      [0.1, 0.6, 0.35],
    );
    [0.2, 0.8, 0.5].forEach((v, i) => expect(out[i]).toBeCloseTo(v, 5));
  });
  it('threshold and invert do what they say', () => {
    expect(one('threshold', { level: 0.5 }, [0.7, 0.7, 0.7])).toEqual([1, 1, 1]);
    expect(one('threshold', { level: 0.5 }, [0.3, 0.3, 0.3])).toEqual([0, 0, 0]);
    expect(one('invert', {}, [0.2, 1, -0.5])).toEqual([expect.closeTo(0.8, 6), 0, 1.5]);
  });
  it('tone tint keeps luma, black and white', () => {
    const values = { amount: 100, shadows: [0, 0.2, 0.6], highlights: [0.9, 0.6, 0.2] } as const;
    for (const y of [0, 0.2, 0.5, 0.8, 1]) {
      const [r, g, b] = one('tone-tint', values, [y, y, y]);
      expect(0.2126 * r! + 0.7152 * g! + 0.0722 * b!).toBeCloseTo(y, 5);
    }
    const dark = one('tone-tint', values, [0.2, 0.2, 0.2]);
    expect(dark[2]!).toBeGreaterThan(dark[0]! + 0.1);
  });
});
