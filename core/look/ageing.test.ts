import fc from 'fast-check';
import { expect, it } from 'vitest';
import { agedValues, type EaseId, EASES } from './ageing';

it('goes from the first value to the last, one way, whatever the ease', () => {
  fc.assert(
    fc.property(
      fc.integer({ min: 2, max: 200 }),
      fc.integer({ min: -100, max: 100 }),
      fc.integer({ min: -100, max: 100 }),
      (count, from, to) => {
        for (const ease of Object.keys(EASES) as EaseId[]) {
          const values = agedValues(count, from, to, ease);
          expect([values[0], values.at(-1), values.length]).toEqual([from, to, count]);
          for (let i = 1; i < count; i++)
            expect((values[i]! - values[i - 1]!) * Math.sign(to - from)).toBeGreaterThanOrEqual(0);
        }
      },
    ),
  );
});
it('is half way in the middle when even, less when late, more when early', () => {
  const middle = (ease: EaseId) => agedValues(3, 0, 100, ease)[1];
  expect([middle('even'), middle('late'), middle('early'), middle('both')]).toEqual([
    50, 25, 75, 50,
  ]);
});
it('gives a clip alone the first value, and no clip none', () => {
  expect([agedValues(1, 20, 80, 'even'), agedValues(0, 20, 80, 'even')]).toEqual([[20], []]);
});
