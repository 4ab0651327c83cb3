/** Subjects: the cut, strokes, marked frames, and what is carried. */
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { RawFrame } from '../image';
import { motionOfFrames, trackedFrame } from '../trace';
import { coloursOf } from './colour';
import { fromEdge, partsWith } from './cut-out';
import { MinCut } from './min-cut';
import {
  isStroke,
  isSubjectMark,
  type MadeMatte,
  nextWorthAMark,
  painted,
  type SubjectMark,
  subjectMattes,
} from '.';

describe('a minimum cut', () => {
  /** The least of all cuts, tried one by one. */
  function leastOf(
    terminals: readonly number[],
    edges: readonly (readonly [number, number, number])[],
  ): number {
    const costs = Array.from({ length: 2 ** terminals.length }, (_, side) =>
      costOf(terminals, edges, (i) => (side >> i) & 1),
    );
    return Math.min(...costs);
  }
  const costOf = (
    terminals: readonly number[],
    edges: readonly (readonly [number, number, number])[],
    on: (i: number) => number,
  ): number =>
    terminals.reduce((n, t, i) => n + (t > 0 && !on(i) ? t : t < 0 && on(i) ? -t : 0), 0) +
    edges.reduce((n, [a, b, c]) => n + (on(a) !== on(b) ? c : 0), 0);

  it('costs as little as the cheapest of all', () => {
    const node = fc.integer({ min: 0, max: 7 });
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: -20, max: 20 }), { minLength: 8, maxLength: 8 }),
        fc.array(fc.tuple(node, node, fc.integer({ min: 0, max: 15 })), { maxLength: 20 }),
        (terminals, all) => {
          const edges = all.filter(([a, b]) => a !== b);
          const graph = new MinCut(8, edges.length);
          terminals.forEach((t, i) => (graph.terminal[i] = t));
          for (const [a, b, c] of edges) graph.edge(a, b, c);
          const cut = graph.solve();
          expect(costOf(terminals, edges, (i) => cut[i]!)).toBe(leastOf(terminals, edges));
        },
      ),
      { numRuns: 400 },
    );
  });
});

describe('strokes', () => {
  it('paint discs along their way; later ones lie over earlier ones', () => {
    const on = painted([{ on: true, radius: 0.1, points: [0.25, 0.5, 0.75, 0.5] }], 40, 20);
    expect(on[10 * 40 + 20]).toBe(1);
    expect(on[10 * 40 + 4]).toBe(0);
    expect(on[14 * 40 + 20]).toBe(0);
    const both = painted(
      [
        { on: true, radius: 0.1, points: [0.25, 0.5, 0.75, 0.5] },
        { on: false, radius: 0.05, points: [0.5, 0.5] },
      ],
      40,
      20,
    );
    expect(both[10 * 40 + 20]).toBe(-1);
    expect(both[10 * 40 + 12]).toBe(1);
  });
  it('paint a pixel at least', () => {
    expect(painted([{ on: true, radius: 0.001, points: [0.5, 0.5] }], 9, 9)[4 * 9 + 4]).toBe(1);
  });
  it('are refused where they cannot be used', () => {
    const good = { on: true, radius: 0.1, points: [0, 0.5] };
    expect(isStroke(good)).toBe(true);
    for (const bad of [
      { ...good, radius: 0 },
      { ...good, points: [0] },
      { ...good, points: [0, 'x'] },
      { ...good, points: [0, NaN] },
      { ...good, on: 1 },
      { ...good, more: 1 },
      null,
    ])
      expect(isStroke(bad)).toBe(false);
    expect(isSubjectMark({ frame: 3, strokes: [good] })).toBe(true);
    expect(isSubjectMark({ frame: 0.5, strokes: [good] })).toBe(false);
    expect(isSubjectMark({ frame: 3, strokes: [good], x: 1 })).toBe(false);
  });
});

const W = 192,
  H = 108;
/** Something that does not repeat, 0…1. */
const noise = (x: number, y: number): number => {
  const n = (x * 374761393 + y * 668265263) >>> 0;
  return (((n ^ (n >>> 13)) * 1274126177) >>> 0) / 2 ** 32;
};
const RADIUS = 20;
const middleAt = (f: number): readonly [number, number] => [50 + 3 * f, 54];
const isOn = (f: number, o: number): boolean => {
  const [x, y] = middleAt(f);
  return ((o % W) + 0.5 - x) ** 2 + (Math.floor(o / W) + 0.5 - y) ** 2 < RADIUS ** 2;
};
/** A red disc that moves by three pixels a frame over a green ground, both with a pattern. */
function frameOf(f: number): RawFrame {
  const planes = [0, 1, 2].map(() => new Uint8Array(W * H));
  for (let o = 0; o < W * H; o++) {
    const [x, y] = [o % W, Math.floor(o / W)];
    const on = isOn(f, o),
      n = 50 * noise(on ? Math.floor((x - 3 * f) / 3) + 900 : Math.floor(x / 3), Math.floor(y / 3));
    planes[0]![o] = (on ? 150 : 50) + n;
    planes[1]![o] = (on ? 50 : 110) + n;
    planes[2]![o] = 60 + n;
  }
  const format = { width: W, height: H, layout: 'rgb', chroma: [1, 1], depth: 8 } as const;
  return {
    format: { ...format, alpha: false, full: true, matrix: 'bt709' },
    planes,
    key: `disc ${f}`,
  };
}
const FRAMES = 12;
const all = Array.from({ length: FRAMES }, (_, f) => frameOf(f));
const source = {
  frame: (f: number) => Promise.resolve(all[f]!),
  pair: (f: number) =>
    Promise.resolve(motionOfFrames(trackedFrame(all[f]!), trackedFrame(all[f + 1]!))),
};
async function made(marks: readonly SubjectMark[], cuts: readonly number[] = []) {
  const out: MadeMatte[] = [];
  for await (const m of subjectMattes({ marks, cuts }, FRAMES, source)) out[m.frame] = m;
  return out;
}
const [x5, y5] = middleAt(5);
const BEGINS: SubjectMark = {
  frame: 5,
  strokes: [
    { on: true, radius: 0.08, points: [(x5 - 8) / W, y5 / H, (x5 + 8) / W, y5 / H] },
    { on: false, radius: 0.05, points: [0.1, 0.1, 0.9, 0.1, 0.9, 0.9, 0.1, 0.9] },
  ],
};
function met({ frame, matte }: MadeMatte): number {
  let [both, any] = [0, 0];
  matte.data.forEach((v, o) => {
    const [a, b] = [v >= 128, isOn(frame, o)];
    if (a && b) both++;
    if (a || b) any++;
  });
  return both / any;
}

describe('a subject', () => {
  it('is cut out by two strokes, and carried both ways as it moves', async () => {
    const mattes = await made([BEGINS]);
    expect(mattes.length).toBe(FRAMES);
    expect(mattes[5]!.sure).toBe(2);
    for (const m of mattes) expect(met(m)).toBeGreaterThan(0.93);
    // The farther from the mark, the less sure.
    expect(mattes[11]!.sure).toBeLessThan(mattes[6]!.sure);
    expect(mattes.every((m) => m.sure === 2 || (m.sure > 0 && m.sure < 1))).toBe(true);
  });
  it('is the same whenever it is made', async () => {
    const [a, b] = [await made([BEGINS]), await made([BEGINS])];
    a.forEach((m, f) => expect(m.matte.data).toEqual(b[f]!.matte.data));
  });
  it('ends at cuts: a shot without strokes on it has no mattes', async () => {
    const mattes = await made([BEGINS], [4, 8]);
    expect(Object.keys(mattes)).toEqual(['4', '5', '6', '7']);
    expect(await made([{ ...BEGINS, strokes: [BEGINS.strokes[1]!] }])).toEqual([]);
  });
  it('is corrected on another frame, and nothing changes on the far side of where it begins', async () => {
    const [x, y] = middleAt(10);
    const plain = await made([BEGINS]);
    // The correction takes the left half away.
    const off = {
      on: false,
      radius: 0.06,
      points: [(x - 12) / W, (y - 6) / H, (x - 12) / W, (y + 6) / H],
    };
    const mended = await made([BEGINS, { frame: 10, strokes: [off] }]);
    expect(mended[10]!.sure).toBe(2);
    expect(mended[10]!.matte.data[Math.round(y) * W + Math.round(x - 12)]).toBe(0);
    expect(plain[10]!.matte.data[Math.round(y) * W + Math.round(x - 12)]).toBe(255);
    for (let f = 0; f <= 5; f++) expect(mended[f]!.matte.data).toEqual(plain[f]!.matte.data);
  });
  it('proposes the frame that is least sure', () => {
    expect(nextWorthAMark([0.5, 0.9, 2, 0.4, 0.8])).toBe(3);
    expect(nextWorthAMark([2, undefined, 2])).toBeUndefined();
    expect(nextWorthAMark([])).toBeUndefined();
  });
});

it('colours of Y′CbCr and of red, green and blue are told alike, at any range', () => {
  const size = { width: 4, height: 2, alpha: false, matrix: 'bt709', depth: 8 } as const;
  const gray = (code: number, full: boolean): RawFrame => ({
    format: { ...size, layout: 'yuv', chroma: [2, 2], full },
    planes: [
      new Uint8Array(8).fill(code),
      new Uint8Array(2).fill(128),
      new Uint8Array(2).fill(128),
    ],
    key: 'gray',
  });
  expect(coloursOf(gray(235, false)).planes[0][0]).toBeCloseTo(255, 3);
  expect(coloursOf(gray(16, false)).planes[0][0]).toBeCloseTo(0, 3);
  expect(coloursOf(gray(255, true)).planes[0][0]).toBeCloseTo(255, 3);
  const red: RawFrame = {
    format: { ...size, layout: 'rgb', chroma: [1, 1], full: true },
    planes: [new Uint8Array(8).fill(255), new Uint8Array(8), new Uint8Array(8)],
    key: 'red',
  };
  const [luma, cb, cr] = coloursOf(red).planes;
  // ITU-R BT.709: red is the extreme of Cr.
  expect(luma[0]).toBeCloseTo(54.2, 1);
  expect(cr[0]).toBeCloseTo(255.5, 1);
  expect(cb[0]).toBeCloseTo(98.8, 1);
});

it('distances are counted from the nearest edge; parts without what counts are left out', () => {
  const labels = Uint8Array.from([1, 1, 0, 0, 0, 1]);
  expect([...fromEdge(labels, 6, 1)]).toEqual([2, 1, 1, 2, 1, 1]);
  expect([...partsWith(labels, 6, (o) => o === 0)]).toEqual([1, 1, 0, 0, 0, 0]);
});
