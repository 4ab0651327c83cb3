import { describe, expect, it } from 'vitest';
import {
  bandedShare,
  bareEdge,
  blackOf,
  type CodePlanes,
  inspectedFrame,
  Inspection,
  strongShare,
} from '.';
import { inTarget, lookFrame } from '../clip';
import { Engine } from '../engine';
import { fitInto } from '../image';
import { leafOf } from '../testing';

const [W, H] = [64, 36];
type Colour = readonly [number, number, number];
/** A picture from a function of x and y. */
const picture = (
  of: (x: number, y: number) => Colour | number,
  width = W,
  height = H,
): CodePlanes => {
  const plane = (c: 0 | 1 | 2) =>
    Float32Array.from({ length: width * height }, (_, i) => {
      const v = of(i % width, Math.floor(i / width));
      return typeof v === 'number' ? v : v[c];
    });
  return { width, height, stride: width, planes: [plane(0), plane(1), plane(2)] };
};
const flat = (v: number, share = 1) => picture((x) => (x < share * W ? v : 0.5));
const frame = (after: CodePlanes, light = flat(0.3), before = after) => ({ after, before, light });

describe('the inspection', () => {
  it('makes runs of frames of what is above its limit, counted from the clip’s own number', () => {
    const inspection = new Inspection(100, 25);
    for (const v of [0.5, 0, 0, 0.5, 1.2, 0.5, 0]) inspection.add(frame(flat(v, 0.5)));
    expect(inspection.flags()).toEqual([
      { kind: 'crushed', first: 101, last: 102, worst: 0.5 },
      { kind: 'clipped', first: 104, last: 104, worst: 0.5 },
      { kind: 'outside', first: 104, last: 104, worst: 0.5 },
      { kind: 'crushed', first: 106, last: 106, worst: 0.5 },
    ]);
  });
  it('flags flashes with the most in a second', () => {
    const inspection = new Inspection(10, 24);
    for (let f = 0; f < 50; f++) inspection.add(frame(flat(0.5), flat(Math.floor(f / 2) % 2)));
    expect(inspection.flags()).toEqual([
      { kind: 'general-flashes', first: 12, last: 58, worst: 6 },
    ]);
  });
  it('has nothing to flag in a picture within its limits', () => {
    const inspection = new Inspection(0, 25);
    for (let f = 0; f < 5; f++) inspection.add(frame(flat(0, 0.03)));
    expect(inspection.flags()).toEqual([]);
  });
  it('looks at the picture, not at the bars it is fitted between', () => {
    const engine = new Engine({ limit: 1 << 26, helpers: 0 });
    const portrait = leafOf(
      [0.5, 0.4, 0.3].map((v) => new Float32Array(18 * 32).fill(v)),
      18,
      32,
      'light',
    );
    const fitted = fitInto(portrait, 64, 32, { fit: 'fit' });
    const inspection = new Inspection(0, 25);
    const seen = inspectedFrame(engine, { bedrock: fitted, result: fitted, frame: 0 }, 'bt709');
    expect([seen.after.width, seen.after.height]).toEqual([18, 32]);
    // A look with “fill” is inspected only where it covers the frame: here, the clip's area.
    const filling = inspectedFrame(
      engine,
      { bedrock: fitted, result: fitted, frame: 0 },
      'bt709',
      true,
    );
    expect([filling.after.width, filling.after.height]).toEqual([18, 32]);
    inspection.add(seen);
    expect(inspection.flags()).toEqual([]);
  });
  it('nor at those of a look’s own frame, also about a clip that is fitted in it', () => {
    const engine = new Engine({ limit: 1 << 26, helpers: 0 });
    const framed = lookFrame(
      { shape: [1, 1], lies: 'bars', rounded: 0 },
      { width: 64, height: 32 },
    );
    const inspected = (width: number, height: number) => {
      const clip = leafOf(
        [0.5, 0.4, 0.3].map((v) => new Float32Array(width * height).fill(v)),
        width,
        height,
        'light',
      );
      const placed = inTarget(fitInto(clip, 32, 32, { fit: 'fit' }), framed);
      return inspectedFrame(engine, { bedrock: placed, result: placed, frame: 0 }, 'bt709').after;
    };
    expect([inspected(32, 32).width, inspected(32, 32).height]).toEqual([32, 32]);
    expect([inspected(18, 32).width, inspected(18, 32).height]).toEqual([18, 32]);
  });
  it('flags a black that the look lifted, not one that the clip has', () => {
    const dark = flat(0.14, 0.5);
    const lifted = new Inspection(0, 25);
    lifted.add(frame(dark, undefined, flat(0.01, 0.5)));
    expect(lifted.flags().map((f) => f.kind)).toEqual(['lifted-black']);
    expect(lifted.flags()[0]!.worst).toBeCloseTo(0.14, 2);
    const own = new Inspection(0, 25);
    own.add(frame(dark));
    expect(own.flags()).toEqual([]);
  });
});

describe('checks of a frame', () => {
  it('find the luma that a hundredth lies below', () => {
    expect(blackOf(picture((x, y) => (x + y * W < 0.02 * W * H ? 0.1 : 0.6)))).toBeCloseTo(0.1, 2);
    expect(blackOf(flat(-0.2))).toBeCloseTo(-0.2, 2);
  });
  it('count colours near the primaries as strong, skin and greys not', () => {
    const primaries: Colour[] = [
      [1, 0, 0],
      [0, 1, 0],
      [0, 0, 1],
      [1, 0, 1],
    ];
    for (const c of primaries) expect(strongShare(picture((x) => (x < W / 2 ? c : 0.5)))).toBe(0.5);
    for (const c of [0, 0.5, 1, [0.8, 0.6, 0.5] as const])
      expect(strongShare(picture(() => c))).toBe(0);
  });
  it('find bands in a gradient of 8 bits that was stretched, none before, and none under grain', () => {
    // A sixth of all codes over the width: each code is a plateau of many pixels.
    const coded = (x: number) => Math.round(40 + (x / 512) * 40) / 255;
    const stretched = (x: number) => (coded(x) - 0.15) * 3;
    const rough = (x: number, y: number) =>
      ((Math.imul(x * 374761393 + y * 668265263, 1274126177) >>> 8) / 2 ** 24 - 0.5) * (6 / 255);
    expect(bandedShare(picture((x) => stretched(x), 512))).toBeGreaterThan(0.5);
    expect(bandedShare(picture((x) => coded(x), 512))).toBe(0);
    expect(bandedShare(picture((x, y) => stretched(x) + rough(x, y), 512))).toBe(0);
    expect(bandedShare(picture((x) => x / 512, 512))).toBe(0);
    expect(bandedShare(picture((x) => (Math.floor(x / 8) % 2) / 100, 512))).toBe(0);
  });
  it('find the edge that was uncovered, not bars that were there before nor a dark picture', () => {
    const full = flat(0.5),
      shifted = picture((x) => (x < 2 ? 0 : 0.5));
    expect(bareEdge(shifted, full)).toBe(1);
    expect(
      bareEdge(
        picture((x, y) => (x < 2 && y < 9 ? 0 : 0.5)),
        full,
      ),
    ).toBeCloseTo(0.25, 5);
    expect(bareEdge(shifted, shifted)).toBe(0);
    expect(bareEdge(full, full)).toBe(0);
    expect(bareEdge(flat(0), flat(0.03))).toBe(0);
  });
});
