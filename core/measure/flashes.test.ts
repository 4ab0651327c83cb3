import { describe, expect, it } from 'vitest';
import { flashesOf, flashFrame, type FlashFrame } from '.';
import { randomFrom } from '../testing';

const CELLS = 400;
type Colour = readonly number[];
const row = (of: (x: number) => Colour) => {
  const plane = (k: number) => Float32Array.from({ length: CELLS }, (_, i) => of(i)[k]!);
  return flashFrame({
    width: CELLS,
    height: 1,
    stride: CELLS,
    planes: [plane(0), plane(1), plane(2)],
  });
};
const isOn = (frame: number, hertz: number, fps: number): boolean =>
  Math.floor((frame / fps) * hertz * 2) % 2 === 1;
/**
 * Frames that alternate between two colours `hertz` times a second over a share of the picture, on
 * grey.
 */
const strobe = (
  hertz: number,
  seconds: number,
  share: number,
  low: Colour,
  high: Colour,
  fps = 25,
) =>
  Array.from({ length: Math.round(seconds * fps) }, (_, f) =>
    row((x) => (x < share * CELLS ? (isOn(f, hertz, fps) ? high : low) : [0.3, 0.3, 0.3])),
  );
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
    expect(flashesOf(strobe(4, 4, 1, BLACK, WHITE, 24), 24)[0]).toMatchObject({
      kind: 'general',
      flashes: 4,
    });
  });

  it('in a quarter of the picture are not flagged, in more they are', () => {
    expect(flashesOf(strobe(5, 3, 0.2, BLACK, WHITE), 25)).toEqual([]);
    expect(flashesOf(strobe(5, 3, 0.25, BLACK, WHITE), 25)).toEqual([]);
    expect(flashesOf(strobe(5, 3, 0.26, BLACK, WHITE), 25)).toHaveLength(1);
  });

  it.each([
    [80, 45],
    [320, 180],
    [854, 480],
    [1000, 562],
    [1920, 1080],
    [608, 1080],
  ])(
    'of %i × %i: the half of the half rows are a quarter, one column more is more',
    (width, height) => {
      const found = (columns: number, rows: number) => {
        const lit = new Float32Array(width * height),
          dark = lit.slice();
        for (let y = 0; y < rows; y++) lit.fill(1, y * width, y * width + columns);
        const [on, off] = [lit, dark].map((p) =>
          flashFrame({ width, height, stride: width, planes: [p, p, p] }),
        ) as [FlashFrame, FlashFrame];
        return flashesOf(
          Array.from({ length: 40 }, (_, f) => (isOn(f, 5, 25) ? on : off)),
          25,
        );
      };
      const rows = height - (height % 2);
      const quarter = height === rows ? [width / 2, height / 2] : [Math.floor(width / 4), height];
      expect(found(quarter[0]!, quarter[1]!)).toEqual([]);
      expect(found(quarter[0]! + 1, quarter[1]!)).toHaveLength(1);
    },
  );

  it.each([5, 10])(
    'of halves that change places %i times a second are flagged, the whole picture at risk',
    (hertz) => {
      const frames = Array.from({ length: 75 }, (_, f) =>
        row((x) => (isOn(f, hertz, 25) === x < CELLS / 2 ? WHITE : BLACK)),
      );
      expect(flashesOf(frames, 25)).toEqual([
        expect.objectContaining({ kind: 'general', flashes: hertz, area: 1 }),
      ]);
    },
  );

  it('of one part now and another then count together', () => {
    // Five flashes a second in all; each half flashes every other time.
    const frames = Array.from({ length: 75 }, (_, f) =>
      row((x) =>
        isOn(f, 5, 25) && (Math.floor(f / 5) % 2 === 0) === x < CELLS / 2 ? WHITE : BLACK,
      ),
    );
    expect(flashesOf(frames, 25)).toEqual([
      expect.objectContaining({ kind: 'general', flashes: 5, area: 0.5 }),
    ]);
  });

  it.each([3.2, 3.5])(
    '%d a second are too many: four changes of one direction in less than a second',
    (hertz) => {
      for (const fps of [24, 25, 50, 60])
        expect(flashesOf(strobe(hertz, 4, 1, BLACK, WHITE, fps), fps)).toEqual([
          expect.objectContaining({ flashes: 4 }),
        ]);
    },
  );

  it('at three a second for more than five seconds are a warning, for less none', () => {
    for (const hertz of [1.5, 3]) {
      expect(flashesOf(strobe(hertz, 5, 1, BLACK, WHITE), 25)).toEqual([]);
      expect(flashesOf(strobe(hertz, 8, 1, BLACK, WHITE), 25)).toEqual([
        expect.objectContaining({ kind: 'lasting', area: 1 }),
      ]);
    }
    expect(flashesOf(strobe(3, 8, 0.25, BLACK, WHITE), 25)).toEqual([]);
    expect(flashesOf(strobe(0.4, 12, 1, BLACK, WHITE), 25)).toEqual([]);
  });

  it('are not seen in noise and fine texture that move', () => {
    const random = randomFrom(7);
    const [width, height] = [960, 540];
    const frames = Array.from({ length: 30 }, () => {
      const p = Float32Array.from({ length: width * height }, () => 0.3 + (random() - 0.5) * 0.5);
      return flashFrame({ width, height, stride: width, planes: [p, p, p] });
    });
    expect(flashesOf(frames, 25)).toEqual([]);
  });

  it('below a tenth of the luminance, or with both above 0.8, are none', () => {
    expect(flashesOf(strobe(8, 2, 1, [0.3, 0.3, 0.3], [0.39, 0.39, 0.39]), 25)).toEqual([]);
    expect(flashesOf(strobe(8, 2, 1, [0.3, 0.3, 0.3], [0.41, 0.41, 0.41]), 25)).toHaveLength(1);
    expect(flashesOf(strobe(8, 2, 1, [0.82, 0.82, 0.82], [1, 1, 1]), 25)).toEqual([]);
  });

  it('of saturated red are flagged as red although their luminance hardly changes', () => {
    // Red with luminance 0.0765 against a grey of the same luminance.
    const found = flashesOf(strobe(5, 3, 1, [0.0765, 0.0765, 0.0765], [0.36, 0, 0]), 25);
    expect(found).toEqual([expect.objectContaining({ kind: 'red', flashes: 5, area: 1 })]);
    expect(flashesOf(strobe(5, 3, 1, [0.08, 0.08, 0.08], [0.3, 0.1, 0]), 25)).toEqual([]);
  });

  it('a slow swell and a cut are none; a fade that goes on is one change', () => {
    const swell = Array.from({ length: 100 }, (_, f) => {
      const v = 0.5 - 0.4 * Math.cos((f / 25) * Math.PI);
      return row(() => [v, v, v]);
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
