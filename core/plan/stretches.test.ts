/** Clips that are a part of a file, and files with several shots. */
import { afterAll, describe, expect, it } from 'vitest';
import {
  type ClipFacts,
  type InOut,
  isRetimed,
  lengthOf,
  momentAt,
  reachedAt,
  timeOf,
} from '../clip';
import { Engine } from '../engine';
import { inDomain, type RawFrame } from '../image';
import { edit, emptyLook, type LookDocument } from '../look';
import { stepOf } from '../steps';
import { grayFrame } from '../testing';
import { clipFrame, needs, plan, requirements, type SourceFrame } from '.';

const W = 32,
  H = 18,
  FRAMES = 40;
const size = { width: W, height: H };
/** Frame `f` of the footage: a grey level of its own. */
const rawOf = (f: number): RawFrame =>
  grayFrame(`footage:${f}`, size, new Uint8Array(W * H).fill(20 + 5 * f));
const pair = {
  width: W,
  height: H,
  pair: () => expect.unreachable('no motion is wanted here') as never,
};

const whole: ClipFacts = {
  encoding: 'srgb',
  fit: 'fit',
  lines: H,
  balance: null,
  pixelAspect: 1,
  content: 'footage',
  rate: [25, 1],
  frames: FRAMES,
  pins: { hit: [{ frame: 20 }] },
};
const part = (inOut: InOut, more: Partial<ClipFacts> = {}): ClipFacts => ({
  ...whole,
  inOut,
  ...more,
});

const engine = new Engine({ limit: 1 << 28, helpers: 0 });
afterAll(() => engine.close());
/** The code value in the middle of a frame; 0 where nothing is there. */
function seen(look: LookDocument, clip: ClipFacts, frame: number): number {
  const sources = new Map(
    requirements(look, clip, frame).map((f): [number, SourceFrame] => [
      f,
      { own: rawOf(f), others: {}, parts: { motion: pair } },
    ]),
  );
  const image = engine.compute(
    inDomain(plan(look, clipFrame(sources, clip, frame, { ...size, look })).result, 'encoded'),
  );
  return Math.round(255 * engine.memory.plane(image, 0)[(H / 2) * W + W / 2]!);
}
const code = (f: number): number => 20 + 5 * f;
const bare = emptyLook('Bare', 3);
const layerTime = (values: Record<string, unknown>): LookDocument =>
  edit.addLayer(emptyLook('Timed', 3), {
    ...edit.newLayer('Top', 'clip', []),
    time: Object.fromEntries(Object.entries(values).map(([k, value]) => [k, { value }])) as never,
  });
const trail: LookDocument = edit.addLayer(
  { ...emptyLook('Trail', 3), bedrock: false },
  edit.newLayer(
    'Top',
    'clip',
    [],
    [
      {
        ...edit.newStep(stepOf('trail')!, []),
        parameters: Object.fromEntries(
          Object.entries({
            count: 2,
            spacing: 3,
            unit: 'frames',
            fading: 'geometric',
            fade: 0,
            combine: 'lighten',
          }).map(([k, value]) => [k, { value }]),
        ) as never,
      },
    ],
  ),
);

describe('a clip between in and out', () => {
  it('is as long as they say and shows those frames', () => {
    const clip = part({ in: 10, out: 17 });
    expect([lengthOf(clip), isRetimed(clip)]).toEqual([8, false]);
    expect([0, 1, 7].map((f) => seen(bare, clip, f))).toEqual([10, 11, 17].map(code));
    expect(needs(bare, clip, 3)).toEqual({ frames: [13], parts: { motion: [] } });
  });
  it('keeps cues on their frames of the footage, and has none that lie outside', () => {
    expect(timeOf({ ...part({ in: 15, out: 30 }), pins: whole.pins! }).cues).toEqual({ hit: [5] });
    expect(timeOf({ ...part({ in: 21, out: 30 }), pins: whole.pins! }).cues).toEqual({ hit: [] });
  });
  it('keeps a retime on its frames of the footage whatever in and out are', () => {
    const retime = {
      places: [{ frame: 12, speed: 50, to: 'at-once' as const }],
      backwards: false,
      between: 'nearest' as const,
    };
    for (const first of [0, 8, 12, 20]) {
      const clip = part({ in: first, out: 31 }, { retime });
      const slow = reachedAt(clip, Math.max(12, first) + 4) - reachedAt(clip, Math.max(12, first));
      expect([momentAt(clip, 0), slow, lengthOf(clip)]).toEqual([
        first,
        8,
        Math.max(0, 12 - first) * 2 === 0 ? (32 - first) * 2 : (12 - first) * 2 + 40,
      ]);
    }
  });
  it('runs backwards from its out', () => {
    const retime = {
      places: [{ frame: 0, speed: 100, to: 'at-once' as const }],
      backwards: true,
      between: 'nearest' as const,
    };
    const clip = part({ in: 5, out: 14 }, { retime });
    expect(Array.from({ length: 10 }, (_, f) => momentAt(clip, f))).toEqual([
      14, 13, 12, 11, 10, 9, 8, 7, 6, 5,
    ]);
  });
  it('is under a look’s retime too', () => {
    const lookRetime = {
      places: [{ frame: 0, speed: 50, to: 'at-once' as const }],
      backwards: false,
      between: 'nearest' as const,
    };
    const clip = part({ in: 6, out: 9 }, { lookRetime });
    expect([lengthOf(clip), [0, 2, 4, 7].map((f) => momentAt(clip, f))]).toEqual([8, [6, 7, 8, 9]]);
  });
});

describe('spare frames', () => {
  const clip = part({ in: 10, out: 30 });
  it('are the past of a clip’s first frames, and what comes after its last', () => {
    expect(requirements(trail, clip, 1)).toEqual([8, 11]);
    expect(requirements(trail, part({ in: 2, out: 30 }), 0)).toEqual([2]);
    expect([0, 2].map((f) => seen(layerTime({ offset: -4 }), clip, f))).toEqual([6, 8].map(code));
    expect(seen(layerTime({ offset: 5 }), clip, 20)).toBe(code(35));
    // The file has no frames beyond: the layer is empty there and what lies below it shows.
    expect(seen(layerTime({ offset: -40 }), clip, 3)).toBe(code(13));
  });
  it('are none across a cut, and none of a retimed clip', () => {
    expect(requirements(trail, { ...clip, cuts: [10] }, 1)).toEqual([11]);
    expect(requirements(trail, { ...clip, cuts: [9] }, 1)).toEqual([11]);
    expect(requirements(trail, { ...clip, cuts: [8] }, 1)).toEqual([8, 11]);
    const retime = {
      places: [{ frame: 0, speed: 50, to: 'at-once' as const }],
      backwards: false,
      between: 'nearest' as const,
    };
    expect(requirements(trail, { ...clip, retime }, 1)).toEqual([11]);
  });
});

describe('a cut inside a clip', () => {
  const cut = { ...whole, cuts: [20] };
  it('is where a frame of the clip says so, forwards and backwards', () => {
    expect(timeOf({ ...cut, pins: {} }).cuts).toEqual([20]);
    expect(timeOf({ ...part({ in: 15, out: 30 }, { cuts: [20] }), pins: {} }).cuts).toEqual([5]);
    const retime = {
      places: [{ frame: 0, speed: 100, to: 'at-once' as const }],
      backwards: true,
      between: 'nearest' as const,
    };
    const there = timeOf({ ...cut, retime, pins: {} });
    // Backwards, the earlier shot begins with its own last frame.
    expect([there.cuts, momentAt({ ...cut, retime }, there.cuts![0]!)]).toEqual([[20], 19]);
  });
  it('is where trails end', () => {
    expect(seen(trail, cut, 19)).toBe(code(19));
    expect(requirements(trail, cut, 21)).toEqual([21]);
    expect(requirements(trail, cut, 23)).toEqual([20, 23]);
    expect(requirements(trail, whole, 21)).toEqual([18, 21]);
  });
  it('is where held pictures begin anew', () => {
    const held = layerTime({ cadence: 'every', held: 6 });
    expect([17, 18, 19, 20, 23, 24].map((f) => seen(held, cut, f))).toEqual(
      [12, 18, 18, 20, 20, 24].map(code),
    );
    expect(seen(held, whole, 20)).toBe(code(18));
  });
  it('is not crossed by what lies between frames', () => {
    const retime = {
      places: [{ frame: 0, speed: 25, to: 'at-once' as const }],
      backwards: false,
      between: 'mix' as const,
    };
    const slow = { ...cut, retime };
    expect([76, 77, 79, 80].map((f) => seen(bare, slow, f))).toEqual([19, 19, 19, 20].map(code));
    expect([117, 118]).toContain(seen(bare, { ...whole, retime }, 78));
    expect(
      needs(bare, { ...slow, retime: { ...retime, between: 'motion' } }, 78).parts.motion,
    ).toEqual([]);
  });
  it('has the motion of a shot’s last frame from the one before it', () => {
    const blurred = edit.addLayer(
      emptyLook('Blurred', 3),
      edit.newLayer(
        'Top',
        'clip',
        [],
        [{ ...edit.newStep(stepOf('motion-blur')!, []), parameters: { angle: { value: 180 } } }],
      ),
    );
    expect(needs(blurred, cut, 19).parts.motion).toEqual([18]);
    expect(needs(blurred, cut, 20).parts.motion).toEqual([20]);
    expect(needs(blurred, whole, 19).parts.motion).toEqual([19]);
  });
});
