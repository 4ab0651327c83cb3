/** Takes and mixes are found in the song, with their drift. */
import { describe, expect, it } from 'vitest';
import { alignment, ALIGNMENT_RATE, SURE } from './alignment';

/** Strikes at uneven moments, each a decaying tone, over a soft noise. */
function song(seconds: number, seed = 7): Float32Array {
  let s = seed;
  const random = (): number => {
    s = (Math.imul(s, 1664525) + 1013904223) | 0;
    return (s >>> 0) / 2 ** 32;
  };
  const out = Float32Array.from(
    { length: seconds * ALIGNMENT_RATE },
    () => (random() - 0.5) * 0.004,
  );
  for (let t = 0.2; t < seconds; t += 0.25 + 0.4 * random()) {
    const pitch = 90 + 400 * random(),
      at = Math.floor(t * ALIGNMENT_RATE),
      loud = 0.2 + 0.6 * random();
    for (let i = 0; i < 3000 && at + i < out.length; i++)
      out[at + i]! +=
        loud * Math.exp(-i / 900) * Math.sin((2 * Math.PI * pitch * i) / ALIGNMENT_RATE);
  }
  return out;
}
/** The song from a second on, at another pace, quieter and with noise of its own. */
function take(
  of: Float32Array,
  from: number,
  seconds: number,
  drift = 0,
  noise = 0.01,
): Float32Array {
  let s = 99;
  return Float32Array.from({ length: Math.round(seconds * ALIGNMENT_RATE) }, (_, i) => {
    s = (Math.imul(s, 1664525) + 1013904223) | 0;
    const p = from * ALIGNMENT_RATE + i * (1 + drift),
      k = Math.floor(p);
    const v = (of[k] ?? 0) + ((of[k + 1] ?? 0) - (of[k] ?? 0)) * (p - k);
    return 0.3 * v + (noise * s) / 2 ** 31;
  });
}

describe('a take', () => {
  const whole = song(40);
  it.each([
    [7.345, 8, 0],
    [12.01, 20, 0.001],
    [3.3, 30, -0.001],
    [21.777, 5, 0.001],
  ])(
    'from second %d, %d s long, with a drift of %d, lies there within 4 ms',
    async (from, long, drift) => {
      const found = (await alignment(take(whole, from, long, drift), whole))!;
      for (const t of [0, long / 2, long])
        expect(
          Math.abs(found.offset + t * (1 + found.drift) - from - t * (1 + drift)),
        ).toBeLessThan(0.004);
      expect(found.sure).toBeGreaterThan(SURE);
    },
  );
  it('that begins before the song lies before it', async () => {
    const early = new Float32Array(3 * ALIGNMENT_RATE);
    const both = new Float32Array(early.length + 10 * ALIGNMENT_RATE);
    both.set(take(whole, 0, 10), early.length);
    expect((await alignment(both, whole))!.offset).toBeCloseTo(-3, 2);
  });
  it('of another song is not sure', async () => {
    expect((await alignment(take(song(20, 3), 2, 10), whole))!.sure).toBeLessThan(SURE);
  });
});
it('silence and snippets lie nowhere', async () => {
  expect(await alignment(new Float32Array(ALIGNMENT_RATE), song(10))).toBeUndefined();
  expect(await alignment(new Float32Array(5 * ALIGNMENT_RATE), song(10))).toBeUndefined();
});
it('a sound lies in itself at nothing', async () => {
  const of = song(12),
    found = (await alignment(of, of))!;
  expect(found.drift).toBeCloseTo(0, 9);
  expect(found.offset).toBeCloseTo(0, 6);
});
