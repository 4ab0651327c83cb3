/** The layout of the Wall's tiles, and which tiles a selection box touches. */
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { ClipView } from '../../data/views';
import { GAP, laidOut, type Layout, PADDING, touched } from './layout';

const clips = (n: number, from = 0): ClipView[] =>
  Array.from({ length: n }, (_, i) => ({ id: `c${from + i}` }) as ClipView);
const one = (n: number, across = 1000, least = 180): Layout =>
  laidOut([{ name: null, clips: clips(n) }], across, least, 16 / 9);
/** A box across tiles that ends one pixel inside the first and the last. */
const box = (l: Layout, from: number, to: number) => {
  const corner = (i: number, end: boolean): [number, number] => {
    const { row, column } = l.tiles[i]!;
    const x = PADDING + column * (l.width + GAP),
      { top, height } = l.rows[row]!;
    return end ? [x + l.width - 1, top + height - GAP - 1] : [x + 1, top + 1];
  };
  const [x0, y0] = corner(from, false),
    [x1, y1] = corner(to, true);
  return { x0, y0, x1, y1 };
};

describe('tiles', () => {
  it('are as many in a row as there is room for, and fill it', () => {
    const l = one(12);
    expect(l.columns).toBe(5);
    expect(l.columns * l.width + (l.columns - 1) * GAP).toBeCloseTo(1000 - 2 * PADDING, 9);
    expect(l.rows.map((r) => (r.kind === 'tiles' ? r.clips.length : 0))).toEqual([5, 5, 2]);
    expect(l.tiles.map((t) => [t.row, t.column]).slice(4, 7)).toEqual([
      [0, 4],
      [1, 0],
      [1, 1],
    ]);
  });

  it('are one below the other where nothing else fits', () => {
    const l = one(3, 100, 180);
    expect([l.columns, l.width, l.rows.length]).toEqual([1, 180, 3]);
  });

  it('begin a row of their own in each group, under its name', () => {
    const l = laidOut(
      [
        { name: 'deck', clips: clips(2) },
        { name: 'sea', clips: clips(6, 2) },
      ],
      1000,
      180,
      16 / 9,
    );
    expect(l.rows.map((r) => r.kind)).toEqual(['head', 'tiles', 'head', 'tiles', 'tiles']);
    expect(l.rows.flatMap((r) => (r.kind === 'head' ? [`${r.name} ${r.count}`] : []))).toEqual([
      'deck 2',
      'sea 6',
    ]);
  });

  it('never lie on one another, whatever the room', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 40 }),
        fc.integer({ min: 0, max: 3000 }),
        fc.integer({ min: 60, max: 600 }),
        (n, across, least) => {
          const l = one(n, across, least);
          expect(l.tiles).toHaveLength(n);
          expect(l.width).toBeGreaterThanOrEqual(least);
          l.rows.forEach((r, i) => {
            const before = l.rows[i - 1];
            if (before) expect(r.top).toBe(before.top + before.height);
          });
          expect(l.tiles.every((t) => t.column < l.columns)).toBe(true);
        },
      ),
    );
  });
});

describe('a box', () => {
  it('touches the tiles it lies over, whichever corner it was drawn from', () => {
    const l = one(12);
    expect(touched(l, box(l, 0, 0))).toEqual(['c0']);
    expect(touched(l, box(l, 1, 7))).toEqual(['c1', 'c2', 'c6', 'c7']);
    const { x0, y0, x1, y1 } = box(l, 1, 7);
    expect(touched(l, { x0: x1, y0: y1, x1: x0, y1: y0 })).toEqual(['c1', 'c2', 'c6', 'c7']);
  });

  it('touches nothing between the tiles', () => {
    const l = one(12);
    const x = PADDING + l.width + 1;
    expect(touched(l, { x0: x, y0: 0, x1: x + GAP - 2, y1: 10_000 })).toEqual([]);
    expect(touched(l, { x0: 0, y0: 0, x1: PADDING - 1, y1: 10_000 })).toEqual([]);
  });
});
