import { expect, it } from 'vitest';
import { soundLeftOut } from '.';

it('says what a video leaves out of the sound, and why', () => {
  expect([soundLeftOut(0, true), soundLeftOut(0, false), soundLeftOut(1, false)]).toEqual([
    undefined,
    undefined,
    undefined,
  ]);
  expect(soundLeftOut(2, true)).toMatch(/left out: the clip plays at another speed/);
  expect(soundLeftOut(3, false)).toMatch(/of 3 tracks .* the first/);
});
