import { describe, expect, it } from 'vitest';
import { type Beyond, footageFrame } from '..';

describe('footage beside a clip', () => {
  const frames = (beyond: Beyond | undefined, start = 0, speed = 1, n = 9) =>
    Array.from({ length: n }, (_, f) => footageFrame({ hash: 'a', start, speed, ...(beyond && { beyond }) }, f / 25, [25, 1], 4));
  it('begins again, goes back and forth, holds, or ends', () => {
    expect(frames(undefined)).toEqual([0, 1, 2, 3, 0, 1, 2, 3, 0]);
    expect(frames('to-and-fro')).toEqual([0, 1, 2, 3, 2, 1, 0, 1, 2]);
    expect(frames('hold')).toEqual([0, 1, 2, 3, 3, 3, 3, 3, 3]);
    expect(frames('end')).toEqual([0, 1, 2, 3, null, null, null, null, null]);
  });
  it('begins where it is told to, before its first frame too', () => {
    expect(frames('end', -2, 1, 5)).toEqual([null, null, 0, 1, 2]);
    expect(frames('hold', -2, 1, 5)).toEqual([0, 0, 0, 1, 2]);
    expect(frames('again', 3, 1, 3)).toEqual([3, 0, 1]);
  });
  it('counts in its own rate and at its speed, halves up', () => {
    expect(frames('again', 0, 0.5, 5)).toEqual([0, 1, 1, 2, 2]);
    expect([0, 1, 2].map((f) => footageFrame({ hash: 'a', start: 0, speed: 1 }, f / 25, [50, 1], 100))).toEqual([0, 2, 4]);
  });
});
