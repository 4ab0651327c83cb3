import fc from 'fast-check';
import { expect, it } from 'vitest';
import { hueDegrees, pickedNumber, stepOf } from '.';
import type { NumberParameter } from '../parameters';
import { balanceMatrix, greyFrom } from './colour/white-balance';

it('hues are where the circle has them', () => {
  expect(hueDegrees([1, 0, 0])).toBe(0);
  expect(hueDegrees([1, 1, 0])).toBe(60);
  expect(hueDegrees([0, 0.5, 0.25])).toBe(150);
  expect(hueDegrees([0.5, 0, 0.5])).toBe(300);
  expect(hueDegrees([0.3, 0.3, 0.3])).toBe(0);
});

it('a number is taken from the part of the colour that it is about, held to its range', () => {
  const of = (step: string, id: string) =>
    stepOf(step)!.parameters.find((p) => p.id === id) as NumberParameter;
  const colour = { light: [4, 4, 4], encoded: [0.2, 0.6, 0.2] } as const;
  expect(pickedNumber(of('keep-hue', 'hue'), colour)).toBe(120);
  expect(pickedNumber(of('threshold', 'level'), colour)).toBe(0.486);
  expect(pickedNumber(of('glow', 'threshold'), colour)).toBe(4);
  expect(pickedNumber(of('levels', 'black'), { ...colour, encoded: [2, 2, 2] })).toBe(0.95);
});

it('the white balance from a grey makes it grey', () => {
  fc.assert(
    fc.property(
      fc.double({ min: -80, max: 80, noNaN: true }),
      fc.double({ min: -80, max: 80, noNaN: true }),
      (temperature, tint) => {
        // A grey tinted by this balance; the balance found from it neutralises it.
        const m = balanceMatrix(temperature, tint);
        const seen = [0, 3, 6].map(
          (r) => 0.3 * (m[r]! + m[r + 1]! + m[r + 2]!),
        ) as unknown as readonly [number, number, number];
        const v = greyFrom(seen) as { temperature: number; tint: number };
        const n = balanceMatrix(v.temperature, v.tint);
        const [r, g, b] = [0, 3, 6].map(
          (i) => n[i]! * seen[0] + n[i + 1]! * seen[1] + n[i + 2]! * seen[2],
        ) as [number, number, number];
        // Unless the inverse lies beyond the ranges.
        if (Math.abs(v.temperature) < 100 && Math.abs(v.tint) < 100) {
          expect(Math.abs(r / g - 1)).toBeLessThan(2e-4);
          expect(Math.abs(b / g - 1)).toBeLessThan(2e-4);
        } else expect(Math.max(Math.abs(temperature), Math.abs(tint))).toBeGreaterThan(40);
      },
    ),
  );
});
