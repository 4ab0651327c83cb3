import { expect, it } from 'vitest';
import { Inspection } from '.';

const [W, H] = [64, 36];
const flat = (v: number, share = 1) => {
  const plane = Float32Array.from({ length: W * H }, (_, i) => (i % W < share * W ? v : 0.5));
  return { width: W, height: H, stride: W, planes: [plane, plane, plane] as [Float32Array, Float32Array, Float32Array] };
};

it('shares above their limits become runs of frames, counted from the clip’s own number', () => {
  const inspection = new Inspection(100);
  for (const v of [0.5, 0, 0, 0.5, 1.2, 0.5, 0]) inspection.add(flat(v, 0.5), flat(0.3));
  expect(inspection.flags(25)).toEqual([
    { kind: 'crushed', first: 101, last: 102, worst: 0.5 },
    { kind: 'clipped', first: 104, last: 104, worst: 0.5 },
    { kind: 'outside', first: 104, last: 104, worst: 0.5 },
    { kind: 'crushed', first: 106, last: 106, worst: 0.5 },
  ]);
});

it('flashes are flagged with the most in a second', () => {
  const inspection = new Inspection(10);
  for (let f = 0; f < 50; f++) inspection.add(flat(0.5), flat(Math.floor(f / 2) % 2));
  expect(inspection.flags(24)).toEqual([{ kind: 'general-flashes', first: 12, last: 58, worst: 6 }]);
});

it('a picture within its limits has nothing to flag', () => {
  const inspection = new Inspection(0);
  for (let f = 0; f < 5; f++) inspection.add(flat(0, 0.03), flat(0.2));
  expect(inspection.flags(25)).toEqual([]);
});
