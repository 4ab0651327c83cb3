import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  cleaned,
  coverOf,
  feathered,
  grown,
  type MatteContext,
  matteOf,
  matteParameters,
  MATTES,
  toneAt,
} from '.';
import { Engine } from '../engine';
import type { ImageNode } from '../graph';
import { filled } from '../image';
import { type Values, withDefaults } from '../parameters';
import { anyValues, bitsThatDiffer, leafOf, randomPlanes } from '../testing';

const engine = new Engine({ limit: 1 << 28, helpers: 0 });
const [W, H] = [96, 54];
const picture = (planes: number, seed: number, w = W, h = H): ImageNode =>
  leafOf(
    randomPlanes(planes, w, h, seed).map((p) => p.map((v) => Math.abs(v) / 4)),
    w,
    h,
    'light',
  );
const moment = (w = W, h = H): MatteContext => ({
  frame: 3,
  seconds: 3 / 25,
  rate: [25, 1] as const,
  seed: 5,
  width: w,
  height: h,
  clip: picture(3, 1, w, h),
  below: picture(3, 2, w, h),
  layer: picture(4, 3, w, h),
});
const numbers = (p: ImageNode): Float32Array => engine.memory.plane(engine.compute(p), 0).slice();
const matte = (f: (x: number, y: number) => number, w = W, h = H): ImageNode =>
  leafOf(
    [Float32Array.from({ length: w * h }, (_, i) => f(i % w, Math.floor(i / w)))],
    w,
    h,
    'none',
  );
const values = (id: string, v: Partial<Values>): Values =>
  withDefaults({ parameters: matteParameters(matteOf(id)!) }, v);
const one = (id: string, v: Partial<Values>, at = moment()): Float32Array =>
  numbers(
    coverOf([{ kind: matteOf(id)!, combine: 'or', invert: false, values: [values(id, v)] }], at)!,
  );

describe.each(MATTES.map((m) => [m.id, m] as const))('matte %s', (_, kind) => {
  it("gives the single reference's bits, and stays within 0…1", () => {
    for (let seed = 1; seed <= 3; seed++)
      for (const [w, h] of [
        [67, 41],
        [5, 3],
      ] as const) {
        const v = anyValues({ parameters: matteParameters(kind) }, seed);
        const cover = coverOf(
          [{ kind, combine: 'or', invert: seed === 2, values: [v], named: picture(4, 9, w, h) }],
          moment(w, h),
        )!;
        expect(bitsThatDiffer(engine, cover)).toBe(0);
        numbers(cover).forEach((x) => expect(x >= 0 && x <= 1).toBe(true));
      }
  });
});

describe('shapes', () => {
  it('cover the area they enclose', () => {
    const sum = (a: Float32Array) => a.reduce((s, v) => s + v, 0);
    const lines = 1080 / H;
    expect(sum(one('ellipse', { shape: [0.5, 0.5, 400, 200, 30] }))).toBeCloseTo(
      (Math.PI * 400 * 200) / lines ** 2,
      -1,
    );
    expect(
      Math.abs(sum(one('box', { shape: [0.5, 0.5, 400, 200, 0] })) - (4 * 400 * 200) / lines ** 2),
    ).toBeLessThan(1);
  });
  it('a box that turns by a quarter is the box with its sides changed', () => {
    const a = one('box', { shape: [0.4, 0.5, 300, 120, 90], corner: 60 }),
      b = one('box', { shape: [0.4, 0.5, 120, 300, 0], corner: 60 });
    a.forEach((v, i) => expect(v).toBeCloseTo(b[i]!, 4));
  });
});

describe('a side', () => {
  const share = (a: Float32Array) => a.reduce((n, v) => n + v, 0) / a.length;
  it('covers what lies beyond its place, to a share of a pixel', () => {
    for (const place of [0, 25, 50, 90])
      expect(share(one('side', { way: [0, 0.5, 1, 0.5], place }))).toBeCloseTo(1 - place / 100, 2);
    // Inverted, it is one minus the matte.
    const a = one('side', { way: [0, 0.5, 1, 0.5], place: 30 }),
      b = one('side', { way: [1, 0.5, 0, 0.5], place: 70 });
    a.forEach((v, i) => expect(v + b[i]!).toBeCloseTo(1, 4));
  });
  it('as a band covers its width across the way', () => {
    const lines = 1080 / H;
    const band = one('side', { way: [0.5, 0, 0.5, 1], place: 50, width: 216 });
    expect(share(band) * H * lines).toBeCloseTo(216, -1);
  });
});

describe('a drawn path', () => {
  it('covers each pixel by exactly the share it encloses', () => {
    fc.assert(
      fc.property(
        fc.array(
          fc.tuple(
            fc.float({ min: -1, max: 2, noNaN: true }),
            fc.float({ min: -1, max: 2, noNaN: true }),
          ),
          { minLength: 3, maxLength: 3 },
        ),
        (outline) => {
          const [w, h] = [9, 7];
          const cover = filled([outline], w, h);
          // The area of a triangle inside a pixel, by clipping it to the pixel.
          for (const [px, py] of [
            [0, 0],
            [4, 3],
            [8, 6],
          ] as const) {
            const scaled = outline.map(([x, y]) => [x * w - px, y * h - py] as [number, number]);
            expect(Math.abs(cover[py * w + px]! - areaInUnitSquare(scaled))).toBeLessThan(2e-4);
          }
        },
      ),
      { numRuns: 200 },
    );
  });
  it('is filled alike whichever way round it is drawn, and is nothing with two nodes', () => {
    const star: [number, number, number, number, number, number][] = [
      [0.5, 0.1, 0, 0, 0.2, 0.05],
      [0.9, 0.9, 0, 0, 0, 0],
      [0.1, 0.4, 0, 0.1, 0, -0.1],
    ];
    const back = [...star].reverse().map(([x, y, a, b, c, d]) => [x, y, c, d, a, b] as const);
    const [one1, two] = [one('path', { path: star }), one('path', { path: back })];
    one1.forEach((v, i) => expect(v).toBeCloseTo(two[i]!, 4));
    expect(Math.max(...one('path', { path: star.slice(0, 2) }))).toBe(0);
  });
});

/** Clips a polygon to the unit square (Sutherland and Hodgman) and returns its area. */
function areaInUnitSquare(polygon: [number, number][]): number {
  const sides: [(p: [number, number]) => number][] = [
    [(p) => p[0]],
    [(p) => 1 - p[0]],
    [(p) => p[1]],
    [(p) => 1 - p[1]],
  ];
  let out = polygon;
  for (const [depth] of sides)
    out = out.flatMap((p, i): [number, number][] => {
      const q = out[(i + 1) % out.length]!;
      const [a, b] = [depth(p), depth(q)];
      const cut: [number, number] = [
        p[0] + ((q[0] - p[0]) * a) / (a - b),
        p[1] + ((q[1] - p[1]) * a) / (a - b),
      ];
      return [...(a >= 0 ? [p] : []), ...(a >= 0 !== b >= 0 ? [cut] : [])];
    });
  return Math.abs(
    out.reduce(
      (s, [x, y], i) => s + x * out[(i + 1) % out.length]![1] - out[(i + 1) % out.length]![0] * y,
      0,
    ) / 2,
  );
}

describe('growing and feathering', () => {
  const dot = matte((x, y) => (x === 48 && y === 27 ? 1 : 0));
  it('a point grown by 8 pixels is a disc of 8½', () => {
    const area = numbers(grown(dot, 8)).reduce((a, b) => a + b, 0);
    expect(area / (Math.PI * 8.5 ** 2)).toBeCloseTo(1, 1);
  });
  it('growing and shrinking a half plane moves its edge by as much', () => {
    const half = matte((x) => (x < 40 ? 1 : 0));
    for (const by of [3, 9]) {
      expect([...numbers(grown(half, by)).slice(27 * W + 38 + by, 27 * W + 42 + by)]).toEqual([
        1, 1, 0, 0,
      ]);
      expect([...numbers(grown(half, -by)).slice(27 * W + 38 - by, 27 * W + 42 - by)]).toEqual([
        1, 1, 0, 0,
      ]);
    }
  });
  it('a feather falls from 1 to 0 between its two reaches and never rises', () => {
    const soft = numbers(
      feathered(
        matte((x) => (x < 40 ? 1 : 0)),
        6,
        10,
      ),
    ).slice(27 * W, 28 * W);
    expect(soft[33]).toBe(1);
    expect(soft[50]).toBe(0);
    for (let x = 1; x < W; x++) expect(soft[x]!).toBeLessThanOrEqual(soft[x - 1]! + 1e-6);
    expect(soft[37]! + soft[38]!).toBeGreaterThan(soft[46]! + soft[47]!);
  });
});

describe('keys', () => {
  const plain = (c: number[]): MatteContext => ({
    ...moment(1, 1),
    clip: leafOf(
      c.map((v) => [v]),
      1,
      1,
      'encoded',
    ),
  });
  it('a luma key covers its range, softly', () => {
    const at = (y: number) =>
      one('luma-key', { low: 50, high: 80, softness: 10 }, plain([y, y, y]))[0]!;
    expect([at(0.2), at(0.6), at(0.95)]).toEqual([0, 1, 0]);
    expect(at(0.45)).toBeCloseTo(0.5, 5);
  });
  it('counts in shares of the clip: its brightest 5 % begins at the 95th percentile', () => {
    const tones = { p1: 0.02, p5: 0.05, p25: 0.2, p50: 0.3, p75: 0.45, p95: 0.62, p99: 0.8 };
    expect(toneAt(0.95, tones)).toBeCloseTo(0.62, 9);
    expect(toneAt(0.85, tones)).toBeCloseTo(0.535, 9);
    const at = (y: number) =>
      one(
        'luma-key',
        { count: 'share', low: 95, high: 100, softness: 0 },
        { ...plain([y, y, y]), tones },
      )[0]!;
    expect([at(0.6), at(0.63), at(3)]).toEqual([0, 1, 1]);
  });
  it('a chroma key covers its colour and neither grey nor the opposite', () => {
    const at = (c: number[]) => one('chroma-key', { colour: [0.1, 0.7, 0.2] }, plain(c))[0]!;
    expect([at([0.1, 0.7, 0.2]), at([0.5, 0.5, 0.5]), at([0.7, 0.1, 0.6])]).toEqual([1, 0, 0]);
  });
  it("takes a screen's colour off what is left, and leaves luma and other colours alone", () => {
    const key = {
      kind: matteOf('chroma-key')!,
      combine: 'or' as const,
      invert: true,
      values: [values('chroma-key', { spill: 100 })],
    };
    const off = (c: number[]) => {
      const out = engine.compute(
        cleaned(
          [key],
          leafOf(
            c.map((v) => [v]),
            1,
            1,
            'encoded',
          ),
        ),
      );
      return [0, 1, 2].map((p) => engine.memory.plane(out, p)[0]!);
    };
    const [r, g, b] = off([0.4, 0.6, 0.42]);
    expect(Math.max(r!, g!, b!) - Math.min(r!, g!, b!)).toBeLessThan(0.03);
    expect(0.2126 * r! + 0.7152 * g! + 0.0722 * b!).toBeCloseTo(
      0.2126 * 0.4 + 0.7152 * 0.6 + 0.0722 * 0.42,
      5,
    );
    off([0.8, 0.3, 0.7]).forEach((v, i) => expect(v).toBeCloseTo([0.8, 0.3, 0.7][i]!, 6));
  });
});

describe('joining', () => {
  const box = (shape: number[], combine: 'or' | 'and' | 'minus', invert = false) =>
    ({
      kind: matteOf('box')!,
      combine,
      invert,
      values: [values('box', { shape: shape as never })],
    }) as const;
  const [a, b] = [
    [0.35, 0.5, 300, 200, 0],
    [0.6, 0.5, 300, 300, 0],
  ];
  const all = (...m: ReturnType<typeof box>[]) => numbers(coverOf(m, moment())!);
  it('or, and, minus are those of sets, and a matte with itself is itself', () => {
    const [x, y] = [all(box(a!, 'or')), all(box(b!, 'or'))];
    all(box(a!, 'or'), box(b!, 'or')).forEach((v, i) => expect(v).toBe(Math.max(x[i]!, y[i]!)));
    all(box(a!, 'or'), box(b!, 'and')).forEach((v, i) => expect(v).toBe(Math.min(x[i]!, y[i]!)));
    all(box(a!, 'or'), box(b!, 'minus')).forEach((v, i) =>
      expect(v).toBeCloseTo(Math.min(x[i]!, 1 - y[i]!), 6),
    );
    expect(all(box(a!, 'or'), box(a!, 'or'))).toEqual(x);
    all(box(a!, 'minus')).forEach((v, i) => expect(v).toBeCloseTo(1 - x[i]!, 6));
  });
  it('one bound to several places covers all of them', () => {
    const both = numbers(
      coverOf(
        [{ ...box(a!, 'or'), values: [...box(a!, 'or').values, ...box(b!, 'or').values] }],
        moment(),
      )!,
    );
    expect(both).toEqual(all(box(a!, 'or'), box(b!, 'or')));
  });
});
