import { describe, expect, it } from 'vitest';
import { flashesOf, flashFrame } from '.';

const CELLS = 400;
/** Frames that alternate between two colours `hertz` times a second in a share of the picture, over a grey elsewhere. */
function strobe(hertz: number, seconds: number, share: number, low: readonly number[], high: readonly number[], fps = 25) {
  return Array.from({ length: Math.round(seconds * fps) }, (_, f) => {
    const on = Math.floor((f / fps) * hertz * 2) % 2 === 1;
    const plane = (k: number) => Float32Array.from({ length: CELLS }, (_, i) => (i < share * CELLS ? (on ? high : low)[k]! : 0.3));
    return flashFrame(plane(0), plane(1), plane(2));
  });
}
const BLACK = [0, 0, 0],
  WHITE = [1, 1, 1];

describe('flashes', () => {
  it('5 a second over the whole picture are flagged, with their numbers', () => {
    const [found, ...more] = flashesOf(strobe(5, 3, 1, BLACK, WHITE), 25);
    expect(more).toEqual([]);
    expect(found).toEqual({ kind: 'general', first: 3, last: 73, flashes: 5, area: 1 });
  });

  it('2 a second are not, 3 are the most that may be, 4 are too many', () => {
    expect(flashesOf(strobe(2, 4, 1, BLACK, WHITE), 25)).toEqual([]);
    expect(flashesOf(strobe(3, 4, 1, BLACK, WHITE, 24), 24)).toEqual([]);
    expect(flashesOf(strobe(4, 4, 1, BLACK, WHITE, 24), 24)[0]).toMatchObject({ kind: 'general', flashes: 4 });
  });

  it('in less than a quarter of the picture are not, in a quarter they are', () => {
    expect(flashesOf(strobe(5, 3, 0.2, BLACK, WHITE), 25)).toEqual([]);
    expect(flashesOf(strobe(5, 3, 0.25, BLACK, WHITE), 25)).toEqual([expect.objectContaining({ area: 0.25 })]);
  });

  it('below a tenth of the luminance, or with both above 0.8, are none', () => {
    expect(flashesOf(strobe(8, 2, 1, [0.3, 0.3, 0.3], [0.39, 0.39, 0.39]), 25)).toEqual([]);
    expect(flashesOf(strobe(8, 2, 1, [0.3, 0.3, 0.3], [0.41, 0.41, 0.41]), 25)).toHaveLength(1);
    expect(flashesOf(strobe(8, 2, 1, [0.82, 0.82, 0.82], [1, 1, 1]), 25)).toEqual([]);
  });

  it('of saturated red are flagged as red although their luminance hardly changes', () => {
    // Red of luminance 0.0765 against a grey of the same.
    const found = flashesOf(strobe(5, 3, 1, [0.0765, 0.0765, 0.0765], [0.36, 0, 0]), 25);
    expect(found).toEqual([expect.objectContaining({ kind: 'red', flashes: 5, area: 1 })]);
    expect(flashesOf(strobe(5, 3, 1, [0.08, 0.08, 0.08], [0.3, 0.1, 0]), 25)).toEqual([]);
  });

  it('a slow swell and a cut are none; a fade that goes on is one change', () => {
    const swell = Array.from({ length: 100 }, (_, f) => {
      const v = new Float32Array(CELLS).fill(0.5 - 0.4 * Math.cos((f / 25) * Math.PI));
      return flashFrame(v, v, v);
    });
    expect(flashesOf(swell, 25)).toEqual([]);
    expect(flashesOf(strobe(0.5, 3, 1, BLACK, WHITE), 25)).toEqual([]);
    expect(flashesOf([], 25)).toEqual([]);
  });

  it('two runs apart are two findings', () => {
    const still = strobe(0.1, 3, 1, BLACK, BLACK);
    const both = [...strobe(5, 2, 1, BLACK, WHITE), ...still, ...strobe(6, 2, 1, BLACK, WHITE)];
    const found = flashesOf(both, 25);
    expect(found).toHaveLength(2);
    expect(found[0]!.last).toBeLessThanOrEqual(50);
    expect(found[1]!.first).toBeGreaterThanOrEqual(125);
  });
});
