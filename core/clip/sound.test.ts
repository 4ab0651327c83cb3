import { expect, it } from 'vitest';
import { soundLeftOut } from '.';

it('says what a video leaves out of the sound, and why', () => {
  expect([soundLeftOut(0), soundLeftOut(1)]).toEqual([undefined, undefined]);
  expect(soundLeftOut(3)).toMatch(/of 3 tracks .* the first/);
});
