/** The sizes of proxies, and the number of stills in a strip. */
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Footage } from './footage';
import { readAs, sourceFrame } from './footage';
import { proxySize, STRIP, stripFrames } from './proxies';

const footage = (width: number, height: number, fields: 'none' | 'top' = 'none'): Footage =>
  ({ format: { width, height, fields } }) as unknown as Footage;

describe('a proxy', () => {
  it.each([
    [1920, 1080, 540, [960, 540]],
    [1920, 1080, 270, [480, 270]],
    [1080, 1920, 540, [304, 540]],
    [3840, 1607, 540, [1290, 540]],
    [720, 576, 540, [676, 540]],
    [320, 240, 540, [320, 240]],
    [8192, 64, 540, [4096, 32]],
    [1, 1, 540, [2, 2]],
  ])('of %d×%d with %d lines is %j', (width, height, lines, size) => {
    expect(proxySize(footage(width, height), lines)).toEqual(size);
  });

  it('is even both ways, never larger than its footage but to be even, and nearly of its shape', () => {
    const side = fc.integer({ min: 16, max: 8192 });
    fc.assert(
      fc.property(side, side, fc.constantFrom(540, 270), (w, h, lines) => {
        const [pw, ph] = proxySize(footage(w, h), lines);
        expect([pw % 2, ph % 2]).toEqual([0, 0]);
        expect(pw).toBeLessThanOrEqual(Math.min(4096, w + 1));
        expect(ph).toBeLessThanOrEqual(Math.min(lines, h + 1));
        // Each side is within a pixel of one common scale.
        const scale = Math.min(1, lines / h, 4096 / w);
        expect(Math.abs(pw - Math.max(2, w * scale))).toBeLessThanOrEqual(1);
        expect(Math.abs(ph - Math.max(2, h * scale))).toBeLessThanOrEqual(1);
      }),
    );
  });

  it('of fields has rows in fours: colour has half the rows of each field', () => {
    for (const height of [576, 486, 480])
      expect(proxySize(footage(720, height, 'top'), 270)[1] % 4).toBe(0);
  });
});

describe('a strip', () => {
  const of = (frames: number): number => stripFrames({ sourceFrames: frames });

  it.each([
    [1, 1],
    [23, 23],
    [24, 24],
    [25, 24],
    [47, 24],
    [48, 24],
    [10_000, 24],
  ])('of %d frames has %d stills', (frames, stills) => {
    expect(of(frames)).toBe(stills);
    expect(stills).toBeLessThanOrEqual(STRIP.frames);
  });
});

describe('footage', () => {
  it('is read as people say, where they say so', () => {
    const format = { width: 8, height: 8, matrix: 'bt601', siting: 'left' };
    const f = { format } as unknown as Footage;
    expect(readAs(f, null)).toBe(f);
    expect(readAs(f, { matrix: 'bt709' }).format).toEqual({
      width: 8,
      height: 8,
      matrix: 'bt709',
      siting: 'left',
    });
  });

  it('shows the frames of its slots where it has some, else its own', () => {
    const f = { slots: [0, 0, 1, 2] } as unknown as Footage;
    expect([0, 1, 2, 3].map((n) => sourceFrame(f, n))).toEqual([0, 0, 1, 2]);
    expect(sourceFrame({} as Footage, 7)).toBe(7);
  });
});
