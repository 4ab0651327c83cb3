import { expect, it } from 'vitest';
import { fadeShare, gainOf, type Heard, mixed } from '.';
import type { Channels } from '../sound';

const noise = (n: number, seed: number): Float32Array => {
  let s = seed;
  return Float32Array.from({ length: n }, () => {
    s = (Math.imul(s, 1664525) + 1013904223) | 0;
    return s / 2 ** 31;
  });
};
interface Of extends Heard {
  readonly of: Channels;
}
const read = (s: Of, from: number, count: number): Promise<Channels> =>
  Promise.resolve(s.of.map((c) => c.subarray(from, from + count)));
const song: Of = { at: 0, samples: 5000, level: 0, of: [noise(5000, 1), noise(5000, 2)] };

it('a sound alone at level 0 is itself, sample for sample', async () => {
  const [left, right] = await mixed([song], 0, 5000, read);
  expect(left).toEqual(song.of[0]);
  expect(right).toEqual(song.of[1]);
});
it('any split gives the same samples', async () => {
  const all: Of[] = [
    song,
    { at: 700, samples: 900, level: -6, comes: 300, goes: 200, of: [noise(900, 3)] },
    { at: 1200, samples: 3000, level: 3, pan: -40, curve: 'linear', comes: 1000, of: song.of },
  ];
  const [whole] = await mixed(all, 0, 5000, read);
  for (const size of [1, 333, 1024].slice(1)) {
    const parts: number[] = [];
    for (let at = 0; at < 5000; at += size)
      parts.push(...(await mixed(all, at, Math.min(size, 5000 - at), read))[0]);
    expect(Float32Array.from(parts)).toEqual(whole);
  }
});
it('levels are decibels, fades cross to the same, pan lowers the other side', async () => {
  expect(gainOf(0)).toBe(1);
  expect(gainOf(-20)).toBeCloseTo(0.1, 12);
  expect(gainOf(6)).toBeCloseTo(1.99526, 5);
  for (let i = 0; i < 100; i++) {
    const [a, b] = [fadeShare(i, 100, 'equal-power'), fadeShare(99 - i, 100, 'equal-power')];
    expect(a * a + b * b).toBeCloseTo(1, 12);
    expect(fadeShare(i, 100, 'linear') + fadeShare(99 - i, 100, 'linear')).toBeCloseTo(1, 12);
  }
  const [left, right] = await mixed([{ ...song, pan: 100 }], 0, 10, read);
  expect(left.every((v) => v === 0)).toBe(true);
  expect(right).toEqual(song.of[1]!.subarray(0, 10));
});
