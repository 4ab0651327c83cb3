/** Places: there and back through a frame, mixed, moved, and checked. */
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Framing } from '../image';
import {
  inClip,
  inFrame,
  isPlaceValue,
  kindInFrame,
  kindOfPlace,
  PLACE_KIND_IDS,
  PLACE_KINDS,
  type PlaceKindId,
  type PlaceValue,
} from '.';

const share = fc.integer({ min: -500, max: 1500 }).map((v) => v / 1000);
const size = fc.integer({ min: 0, max: 900 }).map((v) => v / 1000);
const node = fc.tuple(share, share, share, share, share, share);
const ANY: Readonly<Record<PlaceKindId, fc.Arbitrary<PlaceValue>>> = {
  point: fc.record({ x: share, y: share }),
  line: fc.record({ x: share, y: share, x2: share, y2: share }),
  oval: fc.record({
    x: share,
    y: share,
    rx: size,
    ry: size,
    turn: fc.integer({ min: -360, max: 360 }),
  }),
  outline: fc.record({ nodes: fc.array(node, { minLength: 3, maxLength: 9 }) }),
};
const framing: Framing = {
  clip: [1440, 1080],
  frame: [1920, 1080],
  fit: 'fill',
  reframe: { x: 0.4, y: 0.55, closer: 130 },
};
const ASPECT = 4 / 3;
const near = (v: PlaceValue): number[] =>
  PLACE_KINDS[kindOfPlace(v)].numbers(v).map((n) => Math.round(n * 1e6) / 1e6 + 0);

describe.each(PLACE_KIND_IDS)('a place of kind %s', (id) => {
  const kind = PLACE_KINDS[id];
  const any = ANY[id];
  it('is known by its fields, and is its numbers', () => {
    fc.assert(
      fc.property(any, (v) => {
        expect(isPlaceValue(v)).toBe(true);
        expect(kindOfPlace(v)).toBe(id);
        expect(kind.of(kind.numbers(v))).toEqual(v);
        expect(PLACE_KIND_IDS.filter((other) => PLACE_KINDS[other].is(v))).toEqual([id]);
        expect(isPlaceValue({ ...v, more: 1 })).toBe(false);
      }),
    );
  });
  it('comes back from the frame as it was', () => {
    fc.assert(
      fc.property(any, (v) => {
        const there = inFrame(v, framing);
        expect(kindInFrame(there)).toBe(id);
        expect(near(inClip(there, framing))).toEqual(near(v));
      }),
    );
  });
  it('is at the ends of a way what it is there, and still where nothing moves', () => {
    fc.assert(
      fc.property(any, any, (a, b) => {
        const [p, q] = [kind.numbers(a), kind.numbers(b)];
        expect(kind.mix(p, q, 0)).toEqual(p);
        if (id !== 'oval' && p.length === q.length)
          expect(near(kind.of(kind.mix(p, q, 1)))).toEqual(near(b));
        const still = { place: (at: readonly [number, number]) => at, scale: 1, turn: 0 };
        expect(near(kind.moved(a, still))).toEqual(near(a));
      }),
    );
  });
  it('carries what lies on its edge', () => {
    fc.assert(
      fc.property(any, (v) => {
        for (const at of kind.spots(v, ASPECT)) expect(kind.carriedBy(v, at, ASPECT)).toBe(true);
        expect(kind.carriedBy(v, [40, 40], ASPECT)).toBe(false);
      }),
    );
  });
});

describe('an oval', () => {
  const { oval } = PLACE_KINDS;
  it('has lines of the frame by how large the clip lies in it', () => {
    const whole = { clip: [1920, 1080], frame: [1920, 1080], fit: 'fit' } as const;
    const v = { x: 0.5, y: 0.5, rx: 0.1, ry: 0.2, turn: 30 };
    expect(oval.inFrame(v, whole)).toEqual([0.5, 0.5, 108, 216, 30]);
    const closer = { ...whole, reframe: { x: 0.5, y: 0.5, closer: 200 } };
    expect(oval.inFrame(v, closer)).toEqual([0.5, 0.5, 216, 432, 30]);
  });
  it('turns the short way, since half a turn is the same', () => {
    const at = (turn: number) => [0.5, 0.5, 0.1, 0.2, turn];
    expect(oval.mix(at(170), at(-170), 0.5)[4]).toBe(180);
    expect(oval.mix(at(10), at(20), 0.5)[4]).toBe(15);
  });
  it('grows and turns with what it lies on', () => {
    const v = { x: 0.5, y: 0.5, rx: 0.1, ry: 0.2, turn: 30 };
    const by = { place: () => [0.6, 0.4] as const, scale: 1.5, turn: -10 };
    const moved = oval.moved(v, by);
    expect(near(moved)).toEqual([0.6, 0.4, 0.15, 0.3, 20]);
  });
});

it('refuses what is no place', () => {
  for (const none of [
    { x: 9, y: 0 },
    { x: '0', y: 0 },
    { x: 0.1 },
    { x: 0.1, y: 0.1, rx: -1, ry: 0, turn: 0 },
    { x: 0.1, y: 0.1, rx: 0.1, ry: 0.1, turn: Infinity },
    { nodes: [[0, 0, 0, 0, 0, 0]] },
    { nodes: 'all' },
    {
      nodes: [
        [0, 0],
        [1, 0],
        [1, 1],
      ],
    },
  ])
    expect(isPlaceValue(none)).toBe(false);
});
