import { describe, expect, it } from 'vitest';
import type { ClipView } from '../../data/views';
import { grouped } from './arrange';
import { neighbour, type Selection, moved, NO_SELECTION, pressed } from './selection';
import { GAP, laidOut, PADDING, touched } from './layout';

const clip = (id: string, more: Partial<ClipView> = {}) =>
  ({ id, name: id, status: 'open', scene: '', look: null, ...more }) as ClipView;
const order = ['a', 'b', 'c', 'd', 'e'];
const clips = order.map((id) => clip(id, { scene: id < 'd' ? 'deck' : '' }));
const ids = (c: Selection) => [...c.chosen].sort().join('');

describe('choosing tiles', () => {
  it('takes one, one more, one less, and a run from the last that was pressed', () => {
    const one = pressed(NO_SELECTION, 'b', { run: false, more: false }, order);
    expect(ids(one)).toBe('b');
    expect(ids(pressed(one, 'b', { run: false, more: false }, order))).toBe('');
    const two = pressed(one, 'e', { run: false, more: true }, order);
    expect(ids(two)).toBe('be');
    expect(ids(pressed(two, 'b', { run: false, more: true }, order))).toBe('e');
    expect(ids(pressed(one, 'd', { run: true, more: false }, order))).toBe('bcd');
    // A range selected again starts where the first one did.
    expect(
      ids(
        pressed(
          pressed(one, 'd', { run: true, more: false }, order),
          'a',
          { run: true, more: false },
          order,
        ),
      ),
    ).toBe('ab');
  });
  it('moves by keys, alone or drawing a run', () => {
    const at = moved(NO_SELECTION, 'b', false, order);
    expect([ids(at), at.cursor]).toEqual(['b', 'b']);
    expect(ids(moved(moved(at, 'c', true, order), 'd', true, order))).toBe('bcd');
  });
});

describe('the tiles as they lie', () => {
  // Room for two tiles of 100 and the gap between them.
  const across = 2 * 100 + GAP + 2 * PADDING;
  const plain = laidOut(grouped(clips, 'nothing'), across, 100, 2);
  const scenes = laidOut(grouped(clips, 'scene'), across, 100, 2);

  it('fill the width in rows that follow one another without overlap', () => {
    expect([plain.columns, plain.width, plain.rows.length]).toEqual([2, 100, 3]);
    for (const layout of [plain, scenes])
      layout.rows.reduce((end, r) => {
        expect(r.top).toBe(end);
        return r.top + r.height;
      }, PADDING);
    expect(
      scenes.rows.map((r) =>
        r.kind === 'head' ? `${r.name} ${r.count}` : r.clips.map((c) => c.id).join(''),
      ),
    ).toEqual(['deck 3', 'ab', 'c', 'no scene 2', 'de']);
  });
  it('are gone through by the arrows, up and down in their column as far as there is one', () => {
    expect(
      ['right', 'left', 'down', 'up', 'home', 'end'].map((way) =>
        neighbour(plain.tiles, 'b', way as 'up'),
      ),
    ).toEqual(['c', 'a', 'd', 'b', 'a', 'e']);
    expect(neighbour(scenes.tiles, 'b', 'down')).toBe('c');
    expect(neighbour(scenes.tiles, 'c', 'down')).toBe('d');
    expect(neighbour(scenes.tiles, 'e', 'down')).toBe('e');
    expect(neighbour(plain.tiles, null, 'right')).toBe('a');
    expect(neighbour([], null, 'right')).toBeNull();
  });
  it('are found by a box that touches them, whichever way it was drawn', () => {
    const [first, second] = [plain.rows[0]!, plain.rows[1]!];
    expect(touched(plain, { x0: 0, y0: 0, x1: PADDING + 1, y1: first.top + 1 })).toEqual(['a']);
    expect(
      touched(plain, { x0: across, y0: second.top + 1, x1: PADDING + 100 + GAP + 1, y1: 0 }),
    ).toEqual(['b', 'd']);
    expect(touched(plain, { x0: 0, y0: 0, x1: PADDING - 1, y1: 999 })).toEqual([]);
    expect(
      touched(plain, { x0: PADDING + 101, y0: 0, x1: PADDING + 100 + GAP - 1, y1: 999 }),
    ).toEqual([]);
  });
});
