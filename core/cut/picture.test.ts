/** Pictures of cuts: what stands where, what is asked for, and every transition that ships. */
import { describe, expect, it } from 'vitest';
import { cutPicture, cutShots, type Cut, type CutClip, type Place, TRANSITIONS } from '.';
import { decided, shownOf } from '../decisions';
import { Engine } from '../engine';
import { inDomain } from '../image';
import { edit, emptyLook, readLook } from '../look';
import { leafOf } from '../testing';

const engine = new Engine({ limit: 1 << 28, helpers: 0 });
const SIZE = { width: 64, height: 36 };
const clipOf = (id: string, some: Partial<CutClip> = {}): CutClip => ({
  ...shownOf(decided()),
  id,
  name: id,
  hash: id,
  rate: [24, 1],
  frames: 48,
  cuts: [],
  look: null,
  ...some,
});
const place = (key: string, clip: string, at: number, frames: number, more: Partial<Place> = {}) =>
  ({ key, clip, at, frames, in: 0, ...more }) satisfies Place;
const cutOf = (rows: readonly (readonly Place[])[], some: Partial<Cut> = {}): Cut => ({
  document: {
    schema: 1,
    rows: rows.map((places, i) => ({ key: `row-${i}`, name: '', places })),
    sounds: [],
    markers: [],
  },
  rate: [24, 1],
  clips: { a: clipOf('a'), b: clipOf('b'), c: clipOf('c') },
  looks: Object.fromEntries(TRANSITIONS.map((t) => [t.id, t.look])),
  ...some,
});
/** Grey values by clip, encoded. */
const GREY: Record<string, number> = { a: 0.25, b: 0.5, c: 0.75 };
const flat = (v: number) =>
  leafOf(
    [0, 1, 2].map(() => new Float32Array(SIZE.width * SIZE.height).fill(v)),
    SIZE.width,
    SIZE.height,
    'encoded',
  );
const pictures = Object.fromEntries(Object.entries(GREY).map(([k, v]) => [k, flat(v)]));
/** Planes of the picture of a cut. */
function shown(cut: Cut, frame: number): Float32Array[] {
  const node = cutPicture(cut, frame, SIZE, (shot) => pictures[shot.place.clip]!);
  const image = engine.compute(inDomain(node, 'encoded'));
  return Array.from({ length: image.planes }, (_, p) => engine.memory.plane(image, p).slice());
}
const meanOf = (cut: Cut, frame: number): number => {
  const [red] = shown(cut, frame) as [Float32Array];
  return red.reduce((a, b) => a + b, 0) / red.length;
};
const asked = (cut: Cut, frame: number) =>
  cutShots(cut, frame).map((s) => `${s.place.clip}:${s.frame}`);

describe('what stands at a frame', () => {
  const cut = cutOf([[place('p1', 'a', 0, 10), place('p2', 'b', 10, 10, { in: 5 })]]);
  it('is the place whose slot it is, with the frame counted from its in', () => {
    expect(meanOf(cut, 9)).toBeCloseTo(0.25, 5);
    expect(meanOf(cut, 10)).toBeCloseTo(0.5, 5);
    expect(asked(cut, 9)).toEqual(['a:9']);
    expect(asked(cut, 10)).toEqual(['b:0']);
    expect(cutShots(cut, 12)[0]!.standing.clip.inOut).toEqual({ in: 5, out: 14 });
  });
  it('is nothing in a gap and after the end', () => {
    expect(asked(cut, 20)).toEqual([]);
    expect(shown(cut, 20)[3]!.every((v) => v === 0)).toBe(true);
  });
  it('is nothing where the clip has gone', () => {
    expect(asked(cutOf([[place('p1', 'gone', 0, 10)]]), 3)).toEqual([]);
  });
  it('is the later one above in an overlap without a transition, and higher rows above', () => {
    const over = cutOf([
      [place('p1', 'a', 0, 10), place('p2', 'b', 5, 10)],
      [place('p3', 'c', 7, 2, { opacity: 50 })],
    ]);
    expect(meanOf(over, 4)).toBeCloseTo(0.25, 5);
    expect(meanOf(over, 6)).toBeCloseTo(0.5, 5);
    expect(meanOf(over, 7)).toBeCloseTo(0.625, 5);
  });
  it('comes and goes over its frames, symmetrically', () => {
    const faded = cutOf([[place('p1', 'b', 0, 10, { comes: 4, goes: 4 })]]);
    const covers = [0, 1, 2, 3, 4, 5, 6, 7, 8, 9].map((f) => shown(faded, f)[3]?.[0] ?? 1);
    expect(covers.slice(0, 4).map((v) => Math.round(v * 1000))).toEqual([125, 375, 625, 875]);
    expect(covers.toReversed().map((v) => v.toFixed(6))).toEqual(covers.map((v) => v.toFixed(6)));
  });
});

describe('a clip at another rate', () => {
  it('shows the latest frame at or before the middle of each slot', () => {
    const slow = cutOf([[place('p1', 'a', 3, 12)]], {
      clips: { a: clipOf('a', { rate: [10, 1] }) },
    });
    expect([3, 4, 5, 6, 7, 8, 9].map((f) => asked(slow, f)[0])).toEqual([
      'a:0',
      'a:0',
      'a:1',
      'a:1',
      'a:1',
      'a:2',
      'a:2',
    ]);
    const fast = cutOf([[place('p1', 'a', 0, 4)]], {
      clips: { a: clipOf('a', { rate: [50, 1] }) },
      rate: [25, 1],
    });
    expect([0, 1, 2, 3].map((f) => asked(fast, f)[0])).toEqual(['a:1', 'a:3', 'a:5', 'a:7']);
  });
});

describe('transitions', () => {
  const over = (id: string, frames = 8) =>
    cutOf([[place('p1', 'a', 0, 20), place('p2', 'c', 20 - frames, 20, { enters: { look: id } })]]);
  it.each(TRANSITIONS.map((t) => [t.id, t.look] as const))('%s is a valid look', (_, look) => {
    expect(readLook(JSON.parse(JSON.stringify(look)))).toHaveProperty('look');
  });
  it.each(TRANSITIONS.map((t) => t.id))(
    '%s goes from what goes to what comes, and leaves the rest alone',
    (id) => {
      const cut = over(id);
      expect(meanOf(cut, 11)).toBeCloseTo(0.25, 6);
      expect(meanOf(cut, 20)).toBeCloseTo(0.75, 6);
      const all = [12, 13, 14, 15, 16, 17, 18, 19].map((f) => shown(cut, f));
      for (const planes of all) for (const p of planes) expect(p.every(Number.isFinite)).toBe(true);
      // Everything is covered all the way.
      for (const [, , , cover] of all) if (cover) expect(Math.min(...cover)).toBeGreaterThan(0.999);
      // Nothing is asked for that is not seen.
      const both = [12, 13, 14, 15, 16, 17, 18, 19].flatMap((f) => asked(cut, f));
      expect(both).toContain('a:13');
      expect(both).toContain('c:6');
      expect(both.every((s) => /^[ac]:/.test(s))).toBe(true);
    },
  );
  it('mixes in even steps of what is encoded, the same from both ends', () => {
    const cut = over('mix', 3);
    expect([17, 18, 19].map((f) => meanOf(cut, f).toFixed(4))).toEqual([
      '0.3750',
      '0.5000',
      '0.6250',
    ]);
  });
  it('wipes from left to right, and the other way when turned by half', () => {
    const half = (cut: Cut, right: boolean) => {
      const [red] = shown(cut, 16) as [Float32Array];
      const own = red.filter((_, i) => i % SIZE.width >= SIZE.width / 2 === right);
      return own.reduce((a, b) => a + b, 0) / own.length;
    };
    const turned = (angle: number) =>
      cutOf([
        [
          place('p1', 'a', 0, 20),
          place('p2', 'c', 12, 20, { enters: { look: 'wipe', dials: { soft: 0, angle } } }),
        ],
      ]);
    expect(half(turned(0), false)).toBeGreaterThan(half(turned(0), true) + 0.3);
    expect(half(turned(180), true)).toBeGreaterThan(half(turned(180), false) + 0.3);
  });
  it('holds for three at once: the third comes into what the second has become', () => {
    const cut = cutOf([
      [
        place('p1', 'a', 0, 20),
        place('p2', 'b', 10, 20, { enters: { look: 'mix' } }),
        place('p3', 'c', 15, 20, { enters: { look: 'mix' } }),
      ],
    ]);
    expect(asked(cut, 17).sort()).toEqual(['a:17', 'b:7', 'c:2']);
    const v = meanOf(cut, 17);
    expect(v).toBeGreaterThan(0.25);
    expect(v).toBeLessThan(0.75);
  });
});

describe('pins that a row above answers', () => {
  const window = {
    ...emptyLook('Window'),
    bedrock: false,
    layers: [edit.newLayer('view', 'footage', [])].map((l) => ({ ...l, from: 'second' })),
    pins: [{ key: 'second', label: 'Second', kind: 'footage' as const, many: false }],
    fills: true,
  };
  const clips = { a: clipOf('a', { look: window }), b: clipOf('b'), c: clipOf('c') };
  const cut = cutOf(
    [
      [
        place('p1', 'a', 0, 10, { answers: { second: 'row-1' } }),
        place('p2', 'a', 10, 10, { answers: { second: 'row-1' } }),
      ],
      [place('p3', 'c', 0, 30)],
    ],
    { clips },
  );
  const material: Cut = {
    ...cut,
    document: {
      ...cut.document,
      rows: cut.document.rows.map((r, i) => (i === 1 ? { ...r, material: true } : r)),
    },
  };
  /** Shots under the window show what answers its pin. */
  const seen = (of: Cut, frame: number): string[] => {
    const found: string[] = [];
    cutPicture(of, frame, SIZE, (shot) => {
      const answer = shot.answered?.(shot.frame)['second'];
      if (answer) found.push(`${shot.place.key} by ${answer.key === pictures['c']!.key}`);
      return pictures[shot.place.clip]!;
    });
    return found;
  };
  it('run on across cuts, at the same instant', () => {
    expect(asked(material, 4).sort()).toEqual(['a:4', 'c:4']);
    expect(asked(material, 13).sort()).toEqual(['a:3', 'c:13']);
    expect(seen(material, 13)).toHaveLength(1);
  });
  it('are material alone, unless it is to be shown too', () => {
    expect(meanOf(material, 4)).toBeCloseTo(0.25, 5);
    expect(meanOf(cut, 4)).toBeCloseTo(0.75, 5);
  });
  it('name rows above alone: nothing depends on itself', () => {
    const own = cutOf([[place('p1', 'a', 0, 10, { answers: { second: 'row-0' } })]], { clips });
    expect(asked(own, 4)).toEqual(['a:4']);
  });
});

describe('one look over everything', () => {
  it('acts on the rows together, gaps left alone', () => {
    const whole = { ...emptyLook('Whole'), bedrock: false };
    const cut = cutOf([[place('p1', 'a', 0, 10)]]);
    const under: Cut = {
      ...cut,
      document: { ...cut.document, whole: { look: 'mine' } },
      looks: { mine: whole },
    };
    expect(meanOf(cut, 3)).toBeCloseTo(0.25, 5);
    expect(shown(under, 3)[3]!.every((v) => v === 0)).toBe(true);
  });
});
