/** Tracks: by hand, followed both ways, lost where something covers, and never on something else. */
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { PointPlace } from '../places';
import { movementOf } from './carried';
import { type Luma, pyramid } from './luma';
import { Follower, followable, type Sizes } from './points';
import {
  type Mark,
  MARKED,
  marksOf,
  placeOn,
  presenceOn,
  type Track,
  trackByHand,
  type TrackPlace,
} from './track';
import { trackFollowed } from './track-followed';

const W = 160,
  H = 120;
/** A texture without a period, smooth enough to be moved by parts of a pixel. */
const texture = (x: number, y: number): number =>
  128 +
  50 * Math.sin(x * 0.31 + Math.sin(y * 0.17) * 2) +
  40 * Math.sin(y * 0.27 + Math.cos(x * 0.11) * 3) +
  20 * Math.sin((x + y) * 0.53);
/** Where the texture lies on a frame. */
const shift = (frame: number): readonly [number, number] => [1.3 * frame, 0.4 * frame];
interface Made {
  /** Columns that something plain covers on a frame. */
  readonly covered?: (frame: number) => readonly [number, number] | undefined;
  /** Brightness on a frame. */
  readonly gain?: (frame: number) => number;
}
function frameAt(frame: number, { covered, gain = () => 1 }: Made = {}): Sizes {
  const [dx, dy] = shift(frame),
    hidden = covered?.(frame);
  const data = Float32Array.from({ length: W * H }, (_, i) => {
    const [x, y] = [i % W, Math.floor(i / W)];
    return hidden && x >= hidden[0] && x < hidden[1]
      ? 60 + (y % 7)
      : texture(x - dx, y - dy) * gain(frame);
  });
  const luma: Luma = { width: W, height: H, data };
  return pyramid(luma, 12).slice(0, 4);
}
const read =
  (made: Made = {}) =>
  (frame: number): Promise<Sizes> =>
    Promise.resolve(frameAt(frame, made));
const FRAMES = 24;
const START = { x: 70, y: 60 };
const mark = (frame: number) => {
  const [dx, dy] = shift(frame);
  return { frame, x: (START.x + dx) / W, y: (START.y + dy) / H };
};
/** Pixels from the truth on a frame. */
const off = ([x, y]: readonly number[], frame: number): number => {
  const m = mark(frame);
  return Math.hypot((x! - m.x) * W, (y! - m.y) * H);
};

describe('a point that is followed', () => {
  it('lies within a tenth of a pixel of where its texture went, forwards and backwards', async () => {
    const track = await trackFollowed({ marks: [mark(10)], cuts: [] }, FRAMES, read());
    track!.places.forEach((p, frame) => {
      expect(p![2]).toBe(frame === 10 ? MARKED : 1);
      expect(off(p!, frame)).toBeLessThan(0.1);
    });
  });

  it('is followed through flashes and fades', async () => {
    const gain = (f: number): number => (f % 5 === 0 ? 1.4 : 1 - f * 0.015);
    const track = await trackFollowed({ marks: [mark(0)], cuts: [] }, FRAMES, read({ gain }));
    track!.places.forEach((p, frame) => expect(off(p!, frame)).toBeLessThan(0.2));
  });

  it('is lost within two frames where it is covered, and found again after it', async () => {
    // The cover hides it on frames 8 to 13.
    const covered = (f: number) => (f >= 8 && f <= 13 ? ([60, 130] as const) : undefined);
    const { places } = (await trackFollowed(
      { marks: [mark(0)], cuts: [] },
      FRAMES,
      read({ covered }),
    ))!;
    for (let f = 0; f < 8; f++) expect(places[f]![2]).toBeGreaterThanOrEqual(1);
    for (let f = 8; f <= 13; f++) expect(places[f]?.[2] ?? 0).toBeLessThan(1);
    for (let f = 10; f <= 13; f++) expect(places[f]).toBeNull();
    for (let f = 19; f < FRAMES; f++) {
      expect(places[f]![2]).toBe(1);
      expect(off(places[f]!, f)).toBeLessThan(0.3);
    }
  });

  it('is not followed across a cut', async () => {
    const { places } = (await trackFollowed({ marks: [mark(4)], cuts: [9] }, FRAMES, read()))!;
    expect(places[8]).not.toBeNull();
    expect(places.slice(9).every((p) => p === null)).toBe(true);
  });

  it('keeps what lies before the mark before, and behind the next, when one is corrected', async () => {
    const three = await trackFollowed(
      { marks: [mark(4), mark(12), mark(18)], cuts: [] },
      FRAMES,
      read(),
    );
    const moved = { ...mark(12), x: mark(12).x + 4 / W };
    const other = await trackFollowed(
      { marks: [mark(4), moved, mark(18)], cuts: [] },
      FRAMES,
      read(),
    );
    for (const f of [0, 1, 2, 3, 4, 18, 19, 20, 23])
      expect(other!.places[f]).toEqual(three!.places[f]);
    expect(other!.places[12]).not.toEqual(three!.places[12]);
  });

  it('is not made where somebody stops it', async () => {
    let asked = 0;
    const stop = () => Promise.resolve(++asked < 3);
    expect(
      await trackFollowed({ marks: [mark(4)], cuts: [] }, FRAMES, read(), stop),
    ).toBeUndefined();
    expect(asked).toBe(3);
  });

  it('smoothed lies nearer to its neighbours, but on its marks', async () => {
    const given = { marks: [mark(4)], cuts: [] };
    const [raw, smooth] = [
      (await trackFollowed(given, 9, read()))!,
      (await trackFollowed({ ...given, smooth: 3 }, 9, read()))!,
    ];
    const bends = ({ places }: Track): number =>
      places
        .slice(1, -1)
        .reduce((s, p, i) => s + Math.abs(places[i]![0]! - 2 * p![0]! + places[i + 2]![0]!), 0);
    expect(bends(smooth)).toBeLessThanOrEqual(bends(raw));
    expect(smooth.places[4]).toEqual(raw.places[4]);
  });
  it('is the same twice', async () => {
    const [a, b] = [
      await trackFollowed({ marks: [mark(4)], cuts: [] }, 9, read()),
      await trackFollowed({ marks: [mark(4)], cuts: [] }, 9, read()),
    ];
    expect(a).toEqual(b);
  });
});

describe('a place that cannot be followed', () => {
  const half = (bare: (x: number) => boolean): Sizes => {
    const data = Float32Array.from({ length: W * H }, (_, i) =>
      bare(i % W) ? 90 : texture(i % W, Math.floor(i / W)),
    );
    return pyramid({ width: W, height: H, data }, 12).slice(0, 4);
  };
  it('is said to be bare, with the nearest place that is not', () => {
    const bare = half((x) => x < 80);
    expect(followable(bare, { x: 120, y: 60 }).is).toBe(true);
    const { is, nearest } = followable(bare, { x: 60, y: 60 });
    expect(is).toBe(false);
    expect(nearest!.x).toBeGreaterThan(60);
    expect(Math.hypot(nearest!.x - 60, nearest!.y - 60)).toBeLessThan(30);
    expect(
      followable(
        half(() => true),
        { x: 60, y: 60 },
      ).nearest,
    ).toBeUndefined();
  });
  it('is named by the track, and the nearest place beside it is followed', async () => {
    const bare = half((x) => x < 80),
      at = () => Promise.resolve(bare);
    const on = { frame: 1, x: 60 / W, y: 60 / H };
    const { bare: found } = (await trackFollowed({ marks: [on], cuts: [] }, 4, at))!;
    expect(found!.map((b) => b.frame)).toEqual([1]);
    const moved = await trackFollowed(
      { marks: [{ ...on, ...found![0]!.nearest! }], cuts: [] },
      4,
      at,
    );
    expect(moved!.bare).toBeUndefined();
    expect(moved!.places.map((p) => p![2])).toEqual([1, MARKED, 1, 1]);
  });
  it('is followed by what lies further around, as a disc without a pattern is by its edge', async () => {
    const [w, h] = [480, 270],
      middle = (f: number) => [150 + 6 * f, 100 - 1.5 * f] as const;
    const disc = (f: number): Promise<Sizes> => {
      const [cx, cy] = middle(f);
      const data = Float32Array.from({ length: w * h }, (_, i) => {
        const far = Math.hypot((i % w) + 0.5 - cx, Math.floor(i / w) + 0.5 - cy);
        return 60 + 180 * Math.max(0, Math.min(1, 30.5 - far));
      });
      return Promise.resolve(pyramid({ width: w, height: h, data }, 12));
    };
    const [x, y] = middle(3);
    const marks = [{ frame: 3, x: x / w, y: y / h }];
    const track = (await trackFollowed({ marks, cuts: [] }, 9, disc))!;
    expect(track.bare![0]!.around).toBeGreaterThan(12);
    track.places.forEach((p, f) => {
      const [tx, ty] = middle(f);
      expect(p!.at(-1)).toBe(f === 3 ? MARKED : 0.7);
      expect(Math.hypot(p![0]! * w - tx, p![1]! * h - ty)).toBeLessThan(0.5);
    });
    const round = { ...marks[0]!, rx: 40 / h, ry: 40 / h, turn: 0 };
    const carried = (await trackFollowed({ kind: 'oval', marks: [round], cuts: [] }, 9, disc))!;
    expect(carried.places.filter((p) => p === null)).toEqual([]);
  });
  it('is never sure', () => {
    const bare = half((x) => x < 80);
    const follower = new Follower(bare, { x: 40, y: 60 });
    expect(follower.next(bare)?.sure ?? 0).toBeLessThan(1);
  });
});

describe('a track by hand', () => {
  const marks: Mark[] = [
    { frame: 4, x: 0.2, y: 0.4 },
    { frame: 8, x: 0.6, y: 0.8 },
  ];
  it('goes straight from mark to mark and holds before the first and after the last', () => {
    const { places } = trackByHand({ marks, cuts: [] }, 12);
    expect(places[0]).toEqual([0.2, 0.4, 1]);
    expect(places[4]).toEqual([0.2, 0.4, MARKED]);
    expect(places[6]).toEqual([0.4, 0.6, 1]);
    expect(places[11]).toEqual([0.6, 0.8, 1]);
  });
  it('does not cross a cut', () => {
    const { places } = trackByHand({ marks, cuts: [6] }, 12);
    expect(places[5]).toEqual([0.2, 0.4, 1]);
    expect(places[6]).toEqual([0.6, 0.8, 1]);
    expect(trackByHand({ marks: [marks[0]!], cuts: [6] }, 12).places[7]).toBeNull();
  });
  it('is on the line between two frames at a moment between them', () => {
    const track = trackByHand({ marks, cuts: [] }, 12);
    fc.assert(
      fc.property(fc.double({ min: 4, max: 7.99, noNaN: true }), (moment) => {
        const { x, y } = placeOn(track, moment) as PointPlace;
        expect(x).toBeCloseTo(0.2 + (0.4 * (moment - 4)) / 4, 5);
        expect(y).toBeCloseTo(0.4 + (0.4 * (moment - 4)) / 4, 5);
      }),
    );
  });
  it('is held where it is lost', () => {
    const track = { places: [null, [0.1, 0.1, 1], null, null, [0.5, 0.5, 1]] } as const;
    expect(placeOn(track, 0)).toEqual({ x: 0.1, y: 0.1 });
    expect(placeOn(track, 3)).toEqual({ x: 0.1, y: 0.1 });
    expect(placeOn({ places: [null, null] }, 1)).toBeUndefined();
  });
});

/** The texture turned and grown about a place, a little more on each frame. */
const TURNS = 1.5,
  GROWS = 0.01;
const PIVOT = { x: 80, y: 60 };
function turnedFrame(frame: number): Sizes {
  const a = (-frame * TURNS * Math.PI) / 180,
    scale = 1 / (1 + frame * GROWS);
  const data = Float32Array.from({ length: W * H }, (_, i) => {
    const [dx, dy] = [(i % W) - PIVOT.x, Math.floor(i / W) - PIVOT.y];
    return texture(
      PIVOT.x + scale * (dx * Math.cos(a) - dy * Math.sin(a)),
      PIVOT.y + scale * (dx * Math.sin(a) + dy * Math.cos(a)),
    );
  });
  return pyramid({ width: W, height: H, data }, 12).slice(0, 4);
}
/** Where a place of frame 0 lies on another, in shares; pixels have their middles at a half. */
function turnedPlace([x, y]: readonly [number, number], frame: number): [number, number] {
  const a = (frame * TURNS * Math.PI) / 180,
    scale = 1 + frame * GROWS;
  const [dx, dy] = [x * W - 0.5 - PIVOT.x, y * H - 0.5 - PIVOT.y];
  return [
    (PIVOT.x + 0.5 + scale * (dx * Math.cos(a) - dy * Math.sin(a))) / W,
    (PIVOT.y + 0.5 + scale * (dx * Math.sin(a) + dy * Math.cos(a))) / H,
  ];
}
describe('marks of a track', () => {
  const x = fc.integer({ min: 0, max: 1000 }).map((v) => v / 1000);
  it('give the same track by hand, where it is known, from no more marks than it bends', () => {
    const marks: Mark[] = [
      { frame: 4, x: 0.2, y: 0.4 },
      { frame: 8, x: 0.6, y: 0.8 },
    ];
    const straight = trackByHand({ marks, cuts: [] }, 12);
    expect(marksOf(straight).map((m) => m.frame)).toEqual([0, 4, 8, 11]);
    fc.assert(
      fc.property(fc.array(fc.option(fc.tuple(x, x)), { minLength: 1, maxLength: 30 }), (all) => {
        const places = all.map((p): TrackPlace | null => p && [...p, 1]);
        const again = trackByHand({ marks: marksOf({ places }), cuts: [] }, places.length).places;
        places.forEach((p, f) => {
          if (p) [0, 1].forEach((k) => expect(again[f]![k]).toBeCloseTo(p[k]!, 5));
        });
      }),
    );
  });
});

describe('a place that is lost', () => {
  const p = (x: number): TrackPlace => [x, 0.5, 1];
  const track: Track = { places: [null, p(0.1), p(0.2), null, null, null, null, p(0.9), p(0.8)] };
  const at = (moment: number, lost: 'hold' | 'fade' | 'go-on', cuts: number[] = []) =>
    (placeOn(track, moment, cuts, lost) as PointPlace | undefined)?.x;
  it('is held, is where it is next, or goes on the way it went', () => {
    expect([3, 4, 5, 6].map((f) => at(f, 'hold'))).toEqual([0.2, 0.2, 0.2, 0.2]);
    expect([3, 4, 5, 6].map((f) => at(f, 'fade'))).toEqual([0.2, 0.2, 0.9, 0.9]);
    for (const [frame, x] of [
      [3, 0.3],
      [4, 0.4],
      [6, 0.6],
      [0, 0],
      [2.5, 0.25],
    ] as const)
      expect(at(frame, 'go-on')).toBeCloseTo(x, 9);
  });
  it('does not come from another shot', () => {
    expect(at(4, 'fade', [4])).toBe(0.9);
    expect(at(4, 'go-on', [4])).toBeCloseTo(1.2, 9);
    expect(at(4, 'hold', [4, 6])).toBeUndefined();
  });
  it('fades over so many frames, and comes back over as many', () => {
    const there = (moment: number, over: number, cuts: number[] = []) =>
      presenceOn(track, moment, cuts, over);
    expect([2, 3, 4, 5, 6, 7].map((f) => there(f, 2))).toEqual([1, 0.5, 0, 0, 0.5, 1]);
    expect(there(3, 1)).toBe(0);
    expect(there(2.5, 2)).toBe(0.75);
    expect(there(5, 4, [4, 6])).toBe(0);
    fc.assert(
      fc.property(
        fc.double({ min: 0, max: 8, noNaN: true }),
        fc.integer({ min: 1, max: 9 }),
        (m, o) => {
          expect(there(m, o)).toBeGreaterThanOrEqual(0);
          expect(there(m, o)).toBeLessThanOrEqual(1);
        },
      ),
    );
  });
});

describe('what is carried by what it lies on', () => {
  const turning = (frame: number) => Promise.resolve(turnedFrame(frame));
  const pixels = (a: readonly number[], b: readonly number[]): number =>
    Math.hypot((a[0]! - b[0]!) * W, (a[1]! - b[1]!) * H);

  it('an oval moves, turns and grows with it', async () => {
    const mark = { frame: 0, x: 0.55, y: 0.5, rx: 0.3, ry: 0.2, turn: 5 };
    const track = (await trackFollowed({ kind: 'oval', marks: [mark], cuts: [] }, 12, turning))!;
    expect(track.kind).toBe('oval');
    track.places.slice(1).forEach((p, i) => {
      const [x, y, rx, , turn, sure] = p!;
      const frame = i + 1;
      expect(sure).toBe(1);
      expect(pixels([x!, y!], turnedPlace([mark.x, mark.y], frame))).toBeLessThan(0.3);
      expect(rx! / mark.rx).toBeCloseTo(1 + frame * GROWS, 2);
      expect(turn! - mark.turn).toBeCloseTo(frame * TURNS, 0);
    });
  });
  it('lines and outlines keep their corners on it, forwards and backwards', async () => {
    const corners = [
      [0.3, 0.3],
      [0.7, 0.3],
      [0.7, 0.7],
    ] as const;
    const at = (frame: number) => corners.map((c) => turnedPlace(c, frame));
    const nodes = at(6).map(([x, y]) => [x, y, 0, 0, 0, 0] as const);
    const outline = (await trackFollowed(
      { kind: 'outline', marks: [{ frame: 6, nodes }], cuts: [] },
      12,
      turning,
    ))!;
    const [[x, y], [x2, y2]] = at(6) as [[number, number], [number, number]];
    const line = (await trackFollowed(
      { kind: 'line', marks: [{ frame: 6, x, y, x2, y2 }], cuts: [] },
      12,
      turning,
    ))!;
    for (let frame = 0; frame < 12; frame++) {
      at(frame).forEach((c, i) =>
        expect(pixels(outline.places[frame]!.slice(6 * i), c)).toBeLessThan(0.5),
      );
      expect(pixels(line.places[frame]!, at(frame)[0]!)).toBeLessThan(0.6);
      expect(pixels(line.places[frame]!.slice(2), at(frame)[1]!)).toBeLessThan(0.6);
    }
  });
  it('is said to be bare where nothing on it can be followed', async () => {
    const plain = pyramid({ width: W, height: H, data: new Float32Array(W * H).fill(90) }, 12);
    const marks = [{ frame: 1, x: 0.5, y: 0.5, rx: 0.2, ry: 0.2, turn: 0 }];
    const track = await trackFollowed({ kind: 'oval', marks, cuts: [] }, 3, () =>
      Promise.resolve(plain.slice(0, 4)),
    );
    expect(track!.bare).toEqual([{ frame: 1 }]);
    expect([track!.places[0], track!.places[2]]).toEqual([null, null]);
  });
  it('by hand an oval lies between its marks, number by number', () => {
    const { places } = trackByHand(
      {
        kind: 'oval',
        marks: [
          { frame: 0, x: 0.2, y: 0.2, rx: 0.1, ry: 0.1, turn: 0 },
          { frame: 4, x: 0.4, y: 0.6, rx: 0.2, ry: 0.3, turn: 40 },
        ],
        cuts: [],
      },
      5,
    );
    expect(places[2]).toEqual([0.3, 0.4, 0.15, 0.2, 20, 1]);
    expect(placeOn({ kind: 'oval', places }, 0)).toEqual({
      ...{ x: 0.2, y: 0.2, rx: 0.1, ry: 0.1, turn: 0 },
    });
  });
});
describe('the movement that most share', () => {
  it('is found among others that go elsewhere', () => {
    const [a, b, u, v] = [0.9, 0.3, 12, -7];
    const spots = [
      [0, 0],
      [40, 3],
      [10, 50],
      [70, 60],
      [33, 21],
      [5, 64],
    ] as const;
    const pairs = spots.map(([x, y], i) => ({
      from: { x, y },
      to: i >= 4 ? { x: x + 30, y: 90 } : { x: a * x - b * y + u, y: b * x + a * y + v },
    }));
    const { by, agreeing } = movementOf(pairs, 1)!;
    expect(agreeing).toBe(4);
    expect([by.a, by.b, by.u, by.v].map((n) => Number(n.toFixed(9)))).toEqual([a, b, u, v]);
  });
  it('is a shift of a single one, and none of none', () => {
    const one = [{ from: { x: 1, y: 2 }, to: { x: 4, y: 4 } }];
    expect(movementOf(one, 1)).toEqual({ by: { a: 1, b: 0, u: 3, v: 2 }, agreeing: 1 });
    expect(movementOf([], 1)).toBeUndefined();
  });
});
