import { expect, it } from 'vitest';
import { spreadOf, toOklab, traitsOf } from '.';
import { Engine } from '../engine';
import { leafOf, randomFrom } from '../testing';

const engine = new Engine({ limit: 1 << 26, helpers: 0 });

/** Oklab from its definition, in double precision. */
function oklab(r: number, g: number, b: number): [number, number, number] {
  const l = Math.cbrt(0.4122214708 * r + 0.5363325363 * g + 0.0514459929 * b),
    m = Math.cbrt(0.2119034982 * r + 0.6806995451 * g + 0.1073969566 * b),
    s = Math.cbrt(0.0883024619 * r + 0.2817188376 * g + 0.6299787005 * b);
  return [
    0.2104542553 * l + 0.793617785 * m - 0.0040720468 * s,
    1.9779984951 * l - 2.428592205 * m + 0.4505937099 * s,
    0.0259040371 * l + 0.7827717662 * m - 0.808675766 * s,
  ];
}

it('traits are those of an independent computation, bars left out', () => {
  const random = randomFrom(4);
  const [w, h] = [37, 11];
  const covered = (i: number) => i % w >= 5 && i % w < 30;
  const planes = [0, 1, 2].map(() =>
    Float32Array.from({ length: w * h }, (_, i) => (covered(i) ? random() * 1.5 : 0)),
  );
  const cover = Float32Array.from({ length: w * h }, (_, i) => (covered(i) ? 1 : 0));
  const traits = traitsOf(
    engine.planes(engine.compute(toOklab(leafOf([...planes, cover], w, h, 'light')))),
  );
  const labs = Array.from({ length: w * h }, (_, i) => i)
    .filter(covered)
    .map((i) => oklab(planes[0]![i]!, planes[1]![i]!, planes[2]![i]!));
  const mean = (f: (lab: readonly number[]) => number) =>
    labs.reduce((s, lab) => s + f(lab), 0) / labs.length;
  const sorted = labs.map((lab) => lab[0]).sort((a, b) => a - b);
  const at = (share: number) => {
    const x = share * (sorted.length - 1),
      i = Math.floor(x);
    return sorted[i]! + (sorted[i + 1]! - sorted[i]!) * (x - i);
  };
  expect(traits.lightness).toBeCloseTo(
    mean((c) => c[0]!),
    5,
  );
  expect(traits.contrast).toBeCloseTo(at(0.95) - at(0.05), 5);
  expect(traits.warmth).toBeCloseTo(
    mean((c) => c[2]!),
    5,
  );
  expect(traits.magenta).toBeCloseTo(
    mean((c) => c[1]!),
    5,
  );
  expect(traits.saturation).toBeCloseTo(
    mean((c) => Math.hypot(c[1]!, c[2]!)),
    5,
  );
});

it('a spread is the standard deviation, with those marked that lie beyond the fences', () => {
  const { median, spread, outliers } = spreadOf([1, 2, 3, 4, 5, 30]);
  expect(median).toBeCloseTo(3.5, 6);
  expect(spread).toBeCloseTo(10.1448, 4);
  expect(outliers).toEqual([5]);
  expect(spreadOf([0.4])).toEqual({ median: expect.closeTo(0.4, 6), spread: 0, outliers: [] });
});
