import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  type ClipStatistics,
  goalFigures,
  goalWords,
  isReached,
  meanFigures,
  reach,
  unsuitedFor,
} from '.';

const bright = (is: 'above' | 'below', value: number) => ({ of: 'bright' as const, is, value });
const all = (f: (v: number) => number) => (values: readonly number[]) =>
  Promise.resolve(values.map(f));

describe('a goal', () => {
  it('leaves a dial alone where it is reached already', async () => {
    expect(
      await reach(
        bright('above', 50),
        [0, 100],
        30,
        all(() => 51),
      ),
    ).toEqual({ value: 30, figure: 51, reached: true });
  });
  it('is reached with the least that is needed, up or down', async () => {
    const up = await reach(
      bright('above', 60),
      [0, 100],
      30,
      all((v) => v + 10),
    );
    expect(up.reached).toBe(true);
    expect(up.value).toBeCloseTo(50, 0);
    const down = await reach(
      bright('below', 60),
      [0, 100],
      80,
      all((v) => v + 10),
    );
    expect(down.reached).toBe(true);
    expect(down.value).toBeCloseTo(50, 0);
  });
  it('takes the nearest of several places where it is reached', async () => {
    const valley = await reach(
      bright('above', 80),
      [0, 100],
      40,
      all((v) => Math.abs(v - 50) * 2),
    );
    expect(valley.value).toBeLessThan(12);
    expect(valley.reached).toBe(true);
  });
  it('comes as near as it can where it cannot be reached, and says so', async () => {
    expect(
      await reach(
        bright('above', 90),
        [0, 100],
        30,
        all((v) => 70 - Math.abs(v - 60)),
      ),
    ).toEqual({ value: 60, figure: 70, reached: false });
  });
  it('is met wherever a rising figure crosses it', async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.double({ min: 1, max: 99, noNaN: true }),
        fc.double({ min: 0.2, max: 5, noNaN: true }),
        async (at, bend) => {
          const figure = (v: number) => 100 * (v / 200) ** bend;
          const found = await reach(bright('above', figure(at * 2)), [0, 200], 0, all(figure));
          expect(found.reached).toBe(true);
          // Not beyond the goal, and no more than the twentieth of a per cent short of it that
          // counts as reached.
          expect(found.value).toBeLessThan(at * 2 + 1.5);
          expect(found.figure).toBeGreaterThan(figure(at * 2) - 0.06);
        },
      ),
      { numRuns: 60 },
    );
  });
  it('is said in words', () => {
    expect(goalWords(bright('above', 95))).toBe('bright tone above 95 %');
    expect([isReached(bright('above', 95), 94.99), isReached(bright('below', 5), 5.2)]).toEqual([
      true,
      false,
    ]);
  });
});

it('figures are those of the picture, bars left out', () => {
  const [w, h] = [20, 10];
  const plane = (f: (x: number) => number) =>
    Float32Array.from({ length: w * h }, (_, i) => f(i % w));
  // Half of the picture is black bars; of the rest, half is 0.2 and half is 1.
  const grey = plane((x) => (x < 10 ? 0 : x < 15 ? 0.2 : 1)),
    cover = plane((x) => (x < 10 ? 0 : 1));
  const none = plane(() => 0);
  const shape = { width: w, height: h, stride: w };
  const figures = goalFigures(
    { ...shape, planes: [grey, grey, grey] },
    { ...shape, planes: [grey, none, plane(() => 0.1), cover] },
  );
  expect(figures.dark).toBeCloseTo(20, 4);
  expect(figures.bright).toBeCloseTo(100, 4);
  expect(figures.saturation).toBeCloseTo(10, 4);
  expect(figures.clipped).toBeCloseTo(25, 4);
  expect(meanFigures([figures, { ...figures, dark: 40 }]).dark).toBeCloseTo(30, 4);
});

it('footage that a look does not suit is named with its figure', () => {
  const s = {
    tones: { p5: 0.02, p50: 0.3, p95: 0.7 },
    contrast: 0.5,
    chroma: 0.05,
    noise: 0.01,
    motion: 0.002,
  } as ClipStatistics;
  const suits = [
    { of: 'bright', is: 'above', value: 90 },
    { of: 'motion', is: 'above', value: 0.1 },
    { of: 'noise', is: 'below', value: 0.5 },
  ] as const;
  expect(unsuitedFor(suits, s).map((u) => [u.suit.of, u.figure])).toEqual([
    ['bright', 70],
    ['noise', 1],
  ]);
});
