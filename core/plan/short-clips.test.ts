/** Shipped looks on clips of a few frames, of which music videos are full. */
import { afterAll, describe, expect, it } from 'vitest';
import { type ClipFacts, lengthOf } from '../clip';
import { Engine } from '../engine';
import { inDomain, type RawFrame } from '../image';
import { type DialValues, type LookDocument, SHIPPED, shippedLook, underLook } from '../look';
import { stepOf } from '../steps';
import { grayFrame } from '../testing';
import type { Pair } from '../trace';
import { clipFrame, plan, requirements, type SourceFrame } from '.';

const W = 64,
  H = 36;
const size = { width: W, height: H };
const GREY = 110;
/** A grey picture with a bright bar that moves on by two columns a frame. */
const rawOf = (f: number, bar = true): RawFrame =>
  grayFrame(
    `footage:${f}${bar ? '' : ' plain'}`,
    size,
    Uint8Array.from({ length: W * H }, (_, o) => {
      const x = (o % W) - ((2 * f) % W);
      return bar && x >= 0 && x < 8 ? 220 : GREY;
    }),
  );
const moves = (u: number) => ({
  width: W / 2,
  height: H / 2,
  u: new Float32Array((W * H) / 4).fill(u),
  v: new Float32Array((W * H) / 4),
});
const pair: Pair = {
  forward: moves(1),
  backward: moves(-1),
  doubtFirst: new Float32Array((W * H) / 4),
  doubtSecond: new Float32Array((W * H) / 4),
};
const clipOf = (frames: number): ClipFacts => ({
  encoding: 'srgb',
  fit: 'fit',
  lines: H,
  balance: null,
  pixelAspect: 1,
  content: `clip of ${frames}`,
  rate: [25, 1],
  frames,
  pins: {},
});

const engine = new Engine({ limit: 1 << 28, helpers: 0 });
afterAll(() => engine.close());
/** A look's picture at a frame of a clip, in code values from 0 to 1. */
function seen(
  look: LookDocument,
  clip: ClipFacts,
  frame: number,
  { dials = {}, bar = true }: { dials?: DialValues; bar?: boolean } = {},
): readonly Float32Array[] {
  const sources = new Map(
    requirements(look, clip, frame).map((f): [number, SourceFrame] => {
      if (f < 0 || f >= clip.frames) throw new Error(`a clip of ${clip.frames} has no frame ${f}`);
      return [
        f,
        {
          own: rawOf(f, bar),
          others: {},
          parts: { motion: { width: W / 2, height: H / 2, pair: () => pair } },
        },
      ];
    }),
  );
  const at = clipFrame(sources, clip, frame, { ...size, look, dials });
  const image = engine.compute(inDomain(plan(look, at, dials).result, 'encoded'), { frame });
  expect([image.width, image.height]).toEqual([W, H]);
  return [0, 1, 2].map((p) => engine.memory.plane(image, p).slice());
}

describe.each([1, 2, 9, 25])('on a clip of %i frames', (frames) => {
  it.each(SHIPPED.map((s) => [s.id, s.look] as const))(
    '%s makes a picture of the first, a middle and the last',
    (_, look) => {
      const clip = clipOf(frames);
      const length = lengthOf(underLook(clip, look, {}));
      expect(length).toBeGreaterThanOrEqual(1);
      const shown = new Set([0, length >> 1, length - 1]);
      // A whole raster of tape at each of them takes long.
      const onTape = look.layers.some((l) =>
        l.steps.some((s) => stepOf(s.step)!.family === 'tape'),
      );
      for (const frame of onTape ? [length - 1] : shown)
        for (const plane of seen(look, clip, frame))
          expect(plane.every(Number.isFinite), `frame ${frame}`).toBe(true);
    },
    60_000,
  );
});

describe('on nine frames', () => {
  const clip = clipOf(9);
  it('Torn Paper Run flies in within five, flashes as it arrives, and lies until the last', () => {
    const look = shippedLook('torn-paper-run')!;
    const middle = Array.from({ length: 9 }, (_, f) => {
      const [, green] = seen(look, clip, f, { bar: false, dials: { tear: 0 } });
      return green![(H / 2) * W + W / 2]!;
    });
    // It is outside at first, and in the middle as it is until it arrives.
    expect(middle[0]).toBe(0);
    for (const value of middle.slice(1, 5)) expect(value).toBeCloseTo(GREY / 255, 2);
    expect(Math.min(...middle.slice(5))).toBeGreaterThan(GREY / 255);
    // It is brightest in the frame in which it arrives, and from then on only less so.
    expect(middle.indexOf(Math.max(...middle))).toBe(5);
    for (let f = 6; f < 9; f++) expect(middle[f]!).toBeLessThanOrEqual(middle[f - 1]!);
  });
  it('Spool Back runs backwards, and shorter the faster it winds', () => {
    const look = shippedLook('spool-back')!;
    const under = (speed: number) => underLook(clip, look, { speed });
    expect(under(100).lookRetime!.backwards).toBe(true);
    expect([100, 300, 700].map((speed) => lengthOf(under(speed)))).toEqual([9, 3, 1]);
  });
});
