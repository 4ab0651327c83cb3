import fc from 'fast-check';
import { expect, it } from 'vitest';
import { Engine } from '../engine';
import { type Colour, withDefaults } from '../parameters';
import { lowerStep, stepOf } from '../steps';
import { leafOf, randomPlanes } from '../testing';
import { balanced } from './balance';
import { balanceFrom, NEUTRAL_BALANCE, type ThreeWay, threeWayOf } from './lift-gamma-gain';

const colour = (least: number, most: number) =>
  fc.tuple(
    ...[0, 1, 2].map(() => fc.double({ min: least, max: most, noNaN: true })),
  ) as unknown as fc.Arbitrary<Colour>;

it('nothing is done by hand to a clip that has no balance', () => {
  expect(threeWayOf(NEUTRAL_BALANCE)).toEqual({
    lift: [0, 0, 0],
    gamma: [0, 0, 0],
    gain: [0, 0, 0],
    saturation: 1,
  });
  expect(balanceFrom(threeWayOf(NEUTRAL_BALANCE))).toEqual(NEUTRAL_BALANCE);
});

it('goes from wheels to a list and back within a hundredth of a per cent', () => {
  fc.assert(
    fc.property(
      fc.record({
        lift: colour(-60, 60),
        gamma: colour(-80, 80),
        gain: colour(-80, 80),
        saturation: fc.double({ min: 0, max: 2, noNaN: true }),
      }),
      (way) => {
        const back = threeWayOf(balanceFrom(way));
        for (const part of ['lift', 'gamma', 'gain'] as const)
          way[part].forEach((v, i) => expect(Math.abs(back[part][i]! - v)).toBeLessThan(0.02));
      },
    ),
  );
});

it('does to a picture what the step three-way does at the same numbers', () => {
  const way: ThreeWay = { lift: [6, -2, 9], gamma: [12, 0, -9], gain: [-8, 4, 11], saturation: 1 };
  const values = Object.fromEntries(
    (['lift', 'gamma', 'gain'] as const).flatMap((id) =>
      (['red', 'green', 'blue'] as const).map((c, i) => [`${id}-${c}`, way[id][i]!] as const),
    ),
  );
  const engine = new Engine({ limit: 1 << 26, helpers: 0 });
  const [w, h] = [67, 41];
  const at = { frame: 0, seconds: 0, rate: [25, 1] as const, seed: 0, width: w, height: h };
  // From a tenth of the scale upwards: near black the two formulas differ.
  const input = leafOf(
    randomPlanes(3, w, h, 11).map((p) => p.map((v) => 0.1 + Math.abs(v) / 5)),
    w,
    h,
    'encoded',
  );
  const both = [
    lowerStep(stepOf('three-way')!, input, withDefaults(stepOf('three-way')!, values), 1, at),
    balanced(input, balanceFrom(way)),
  ];
  const [a, b] = engine
    .computeAll(both)
    .map((image) => engine.planes(image).planes.map((p) => p.slice()));
  a!.forEach((plane, c) =>
    plane.forEach((v, i) => expect(Math.abs(v - b![c]![i]!)).toBeLessThan(2e-4)),
  );
});
