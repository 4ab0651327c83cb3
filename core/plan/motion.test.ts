/** What looks do with a clip's motion: frames in between, exposures, bands. */
import { afterAll, describe, expect, it } from 'vitest';
import { inBetween, motionIn } from '../assets';
import { retimeOf, timeOf } from '../clip';
import { Engine } from '../engine';
import { type ImageNode } from '../graph';
import { inDomain, type RawFrame } from '../image';
import {
  edit,
  emptyLook,
  type KeyUse,
  type LookDocument,
  type Mover,
  readLook,
  type Setting,
} from '../look';
import { stepOf } from '../steps';
import { grayFrame, leafOf } from '../testing';
import { type ClipTime } from '../time';
import type { Pair } from '../trace';
import { asksFor, clipFrame, type ClipFrame, needs, plan } from '.';
import { retimedFrame } from './retimed';

const W = 96,
  H = 72,
  FRAMES = 30;
const SPEED = 4;
const TIME: ClipTime = { frames: FRAMES, rate: [25, 1], cues: { hit: [10] } };
const clip = {
  content: 'clip',
  frames: FRAMES,
  rate: [25, 1] as const,
  pins: { hit: [{ frame: 10 }] },
};

/**
 * A bright bar eight pixels wide on black that moves right by four a frame, with its true motion.
 */
const bar = (x: number, frame: number, left = 10): number =>
  x >= left + SPEED * frame && x < left + 8 + SPEED * frame ? 1 : 0;
const plane = (f: (x: number) => number): Float32Array =>
  Float32Array.from({ length: W * H }, (_, o) => f(o % W));
const picture = (frame: number) =>
  leafOf(
    [0, 1, 2].map(() => plane((x) => bar(x, frame))),
    W,
    H,
    'light',
    `bar ${frame}`,
  );
/** The motion at half the picture's size, as it is measured of footage. */
function pairOf(frame: number): Pair {
  const [w, h] = [W / 2, H / 2];
  const small = (f: (x: number) => number) =>
    Float32Array.from({ length: w * h }, (_, o) => f((o % w) * 2));
  const moves = (of: number, sign: number) => ({
    width: w,
    height: h,
    u: small((x) => (bar(x, of) ? (sign * SPEED) / 2 : 0)),
    v: small(() => 0),
  });
  return {
    forward: moves(frame, 1),
    backward: moves(frame + 1, -1),
    doubtFirst: small(() => 0),
    doubtSecond: small(() => 0),
  };
}
const as = { fit: 'fit', shape: W / H, size: { width: W, height: H } } as const;
const motion = (frame: number) =>
  motionIn({ width: W / 2, height: H / 2, pair: () => pairOf(frame) }, `clip:${frame}`, as);
const at = (frame: number, measured = true): ClipFrame => ({
  bedrock: picture(frame),
  content: 'clip',
  frame,
  time: TIME,
  at: (f) => at(f, measured),
  part: () => (measured ? motion(frame) : undefined),
});

const rawOf = (f: number): RawFrame =>
  grayFrame(`clip:${f}`, { width: 4, height: 3 }, new Uint8Array(12).fill(10 * f));
const engine = new Engine({ limit: 1 << 28, helpers: 0 });
afterAll(() => engine.close());
const row = (node: ImageNode, y = H / 2): Float32Array => {
  const image = engine.compute(inDomain(node, 'light'));
  return engine.memory.plane(image, 0).slice(y * W, (y + 1) * W);
};
const sum = (v: Float32Array): number => v.reduce((s, x) => s + x, 0);
/** The centre of the light. */
const middle = (v: Float32Array): number => v.reduce((s, x, i) => s + x * i, 0) / sum(v);

const withStep = (id: string, parameters: Record<string, unknown>): LookDocument => {
  const step = edit.newStep(stepOf(id)!, []);
  const settings = Object.fromEntries(
    Object.entries(parameters).map(([k, value]) => [k, { value }]),
  );
  return edit.addLayer(
    emptyLook('Moves', 3),
    edit.newLayer(
      'Top',
      'clip',
      [],
      [{ ...step, parameters: settings as (typeof step)['parameters'] }],
    ),
  );
};
const slowed = (speed: number, between: string, more: object = {}): LookDocument =>
  edit.addLayer(emptyLook('Slow', 3), {
    ...edit.newLayer('Top', 'clip', []),
    time: { speed: { value: speed }, between: { value: between }, ...more },
  });

describe('time between frames', () => {
  it('puts what moves where it is at that moment; a mix shows it twice, nearest once', () => {
    const quarter = (between: string) => row(plan(slowed(25, between), at(9)).result);
    // Frame 9 at a quarter of the speed is 2.25.
    const moved = quarter('motion');
    // Within what motion at half the size can tell about an edge.
    expect(Math.abs(middle(moved) - (13.5 + SPEED * 2.25))).toBeLessThan(0.15);
    expect(Math.max(...moved)).toBeCloseTo(1, 2);
    expect(Math.abs(sum(moved) - 8)).toBeLessThan(0.8);
    const mixed = quarter('mix');
    expect(mixed[10 + SPEED * 2]).toBeCloseTo(0.75, 5);
    expect(mixed[17 + SPEED * 3]).toBeCloseTo(0.25, 5);
    expect(quarter('nearest')).toEqual(row(picture(2)));
  });

  it('leaves frames that there are as they are, bit for bit', () => {
    for (const frame of [0, 8, 16])
      expect(row(plan(slowed(25, 'motion'), at(frame)).result)).toEqual(row(picture(frame / 4)));
  });

  it('mixes where nothing was measured', () => {
    expect(row(plan(slowed(25, 'motion'), at(9, false)).result)).toEqual(
      row(plan(slowed(25, 'mix'), at(9)).result),
    );
    expect(row(inBetween(picture(2), picture(3), undefined, 0.25))).toEqual(
      row(plan(slowed(25, 'mix'), at(9)).result),
    );
  });

  it('asks for the two frames around and their motion, for none where a frame is its own', () => {
    expect(needs(slowed(25, 'motion'), clip, 9)).toEqual({
      frames: [2, 3, 9],
      parts: { motion: [2] },
    });
    expect(needs(slowed(25, 'motion'), clip, 8)).toEqual({ frames: [2, 8], parts: { motion: [] } });
    expect(needs(slowed(25, 'mix'), clip, 9)).toEqual({ frames: [2, 3, 9], parts: { motion: [] } });
    expect(needs(slowed(50, 'motion', { reverse: { value: true } }), clip, 1)).toEqual({
      frames: [1, 28, 29],
      parts: { motion: [28] },
    });
    expect(
      [
        slowed(25, 'motion'),
        slowed(25, 'mix'),
        withStep('motion-blur', {}),
        withStep('motion-blur', { angle: 0 }),
      ].map((l) => asksFor('motion', l)),
    ).toEqual([true, false, true, false]);
  });

  it('goes on evenly where the speed moves: no frame is jumped, no step is jerked', () => {
    const look = slowed(100, 'motion');
    const moved = edit.addMover(look, 'ramp', 'top/+time/speed');
    const ramp: LookDocument = {
      ...moved,
      layers: moved.layers.map((l) => ({ ...l, timeFrom: { from: 'cue', cue: 'hit' } })),
      pins: [{ key: 'hit', label: 'Hit', kind: 'cue', many: false }],
      movers: [
        {
          ...moved.movers![0]!,
          parameters: { over: { value: 0.4 }, ease: { value: 'soft' } },
          instants: { from: [{ from: 'cue', cue: 'hit' }] },
          targets: [{ path: 'top/+time/speed', how: 'replace', amount: { value: 25 } }],
        },
      ],
    };
    expect('look' in readLook(ramp)).toBe(true);
    const places = Array.from(
      { length: 16 },
      (_, i) => (middle(row(plan(ramp, at(5 + i)).result)) - 13.5) / SPEED,
    );
    places.slice(0, 6).forEach((p, i) => expect(p).toBeCloseTo(5 + i, 2));
    const speeds = places.slice(1).map((p, i) => p - places[i]!);
    expect(speeds.at(-1)).toBeCloseTo(0.25, 1);
    speeds.slice(1).forEach((s, i) => expect(Math.abs(s - speeds[i]!)).toBeLessThan(0.2));
  });
});

describe('motion blur', () => {
  it('is as long as the way during the exposure, flat, and keeps all light', () => {
    // An exposure of two frames covers eight pixels, the bar's own length.
    const v = row(plan(withStep('motion-blur', { angle: 720 }), at(5)).result);
    expect(Math.abs(sum(v) - 8)).toBeLessThan(0.15);
    expect(Math.abs(middle(v) - (13.5 + SPEED * 5))).toBeLessThan(0.3);
    const lit = Array.from(v).filter((x) => x > 0.02).length;
    expect(Math.abs(lit - 16)).toBeLessThanOrEqual(2);
    expect(Math.max(...v)).toBeLessThanOrEqual(1.001);
  });

  it('leaves what stands still and what no light passes, and all of it at an angle of 0', () => {
    const look = withStep('motion-blur', { angle: 360 });
    const still: ClipFrame = {
      ...at(5),
      part: () => motionIn({ width: W / 2, height: H / 2, pair: () => standing }, 'still', as),
    };
    const none = {
      width: W / 2,
      height: H / 2,
      u: new Float32Array((W * H) / 4),
      v: new Float32Array((W * H) / 4),
    };
    const standing: Pair = {
      forward: none,
      backward: none,
      doubtFirst: none.u,
      doubtSecond: none.u,
    };
    row(plan(look, still).result).forEach((v, i) => expect(v).toBeCloseTo(bar(i, 5), 5));
    expect(row(plan(withStep('motion-blur', { angle: 0 }), at(5)).result)).toEqual(row(picture(5)));
    expect(row(plan(look, at(5, false)).result)).toEqual(row(picture(5)));
  });

  it('is asked for where a mover or a dial alone opens the shutter', () => {
    const shut = withStep('motion-blur', { angle: 0 });
    const moved = edit.addMover(shut, 'wave', 'top/motion-blur/angle');
    expect(asksFor('motion', moved)).toBe(true);
    expect(needs(moved, clip, 5).parts.motion).toEqual([5]);
    const dialled = edit.addDial(shut, {
      key: 'open',
      label: 'Open',
      kind: 'number',
      min: 0,
      max: 360,
      value: 90,
    });
    const driven = edit.setParameter(dialled, 'top', 'motion-blur', 'angle', {
      dial: 'open',
      from: 0,
      to: 360,
    });
    expect(needs(driven, clip, 5).parts.motion).toEqual([5]);
  });

  it('takes the motion before it where the clip ends', () => {
    expect(needs(withStep('motion-blur', { angle: 180 }), clip, FRAMES - 1).parts.motion).toEqual([
      FRAMES - 2,
    ]);
  });
});

describe('a drawn shape that moves with its shutter open', () => {
  /** A white box, or another shape, that goes right by `step` pixels a frame over black. */
  const drawn = (
    matte: string,
    shutter: number,
    parameters: object,
    target: string,
    amount: Setting,
  ): LookDocument => {
    const layer = edit.newLayer('top', 'fill', []);
    const solid = {
      ...edit.newStep(stepOf('plain-colour')!, []),
      parameters: { colour: { value: [1, 1, 1] as const } },
    };
    const own = {
      key: 'own',
      matte,
      on: true,
      combine: 'or' as const,
      invert: false,
      parameters: { ...parameters, shutter: { value: shutter } },
    };
    const still = edit.addLayer(
      { ...emptyLook('shape'), bedrock: false },
      { ...layer, key: 'top', steps: [solid], mattes: [own] },
    );
    const ramp: Mover = {
      key: 'go',
      name: 'Go',
      on: true,
      kind: 'ramp',
      parameters: {
        over: { value: 10 },
        unit: { value: 'clip-frames' },
        ease: { value: 'linear' },
      },
      targets: [{ path: `top/@own/${target}`, how: 'add', amount }],
    };
    return { ...still, movers: [ramp] };
  };
  const dark = (frame: number): ClipFrame => ({
    ...at(frame),
    bedrock: leafOf(
      [0, 1, 2].map(() => new Float32Array(W * H)),
      W,
      H,
      'light',
      'dark',
    ),
  });
  /** A box of half-width 8 pixels; the parameter is in lines. */
  const box = (shutter: number, step: number) => {
    const half = (8 * 1080) / H;
    // An offset is added to the place, in lines.
    return drawn('box', shutter, { shape: { value: [0.25, 0.5, half, 4000, 0] } }, 'shape', {
      value: (10 * step * 1080) / H,
    });
  };
  const cover = (look: LookDocument, frame: number): Float32Array => {
    expect(readLook(look)).toHaveProperty('look');
    const found = plan(look, dark(frame)).mattes.get('top')!;
    return engine.memory.plane(engine.compute(found), 0).slice((H / 2) * W, (H / 2 + 1) * W);
  };

  it('is flat along its way, as long as its way, and loses nothing', () => {
    // Four pixels a frame with the shutter open all the time: a plateau of 16 − 4 pixels.
    const [sharp, smeared] = [cover(box(0, 4), 5), cover(box(360, 4), 5)];
    expect(Math.abs(sum(smeared) - sum(sharp))).toBeLessThan(1e-3 * sum(sharp));
    expect(middle(smeared)).toBeCloseTo(middle(sharp), 2);
    expect(Array.from(smeared).filter((v) => Math.abs(v - 1) < 0.01).length).toBeGreaterThanOrEqual(
      11,
    );
    const touched = Array.from(smeared).filter((v) => v > 0.02).length;
    expect(Math.abs(touched - (16 + 4))).toBeLessThanOrEqual(1);
    // A smear longer than the box: nowhere full, and flat at their ratio except at the ends.
    const long = cover(box(720, 16), 2),
      flat = Array.from(long).filter((v) => Math.abs(v - 0.5) < 0.005).length;
    expect(Math.max(...long)).toBeLessThan(0.51);
    expect(Math.abs(flat - 16)).toBeLessThanOrEqual(2);
  });
  it('is as it was where it stands still, or is shut', () => {
    expect(cover(box(360, 0), 5)).toEqual(cover(box(0, 0), 5));
    const { movers, ...still } = box(360, 4);
    expect(movers).toHaveLength(1);
    expect(plan(still, dark(5)).mattes.get('top')!.key).toBe(
      plan({ ...box(0, 4), movers: [] }, dark(5)).mattes.get('top')!.key,
    );
  });
  it('smears a side that crosses and a path that is carried', () => {
    const wipe = (shutter: number) => drawn('side', shutter, {}, 'place', { value: 50 });
    expect(sum(cover(wipe(360), 5))).toBeCloseTo(sum(cover(wipe(0), 5)), 1);
    const between = (v: Float32Array) => Array.from(v).filter((x) => x > 0.02 && x < 0.98).length;
    expect(between(cover(wipe(360), 5))).toBeGreaterThanOrEqual(between(cover(wipe(0), 5)) + 3);
    const corners = [
      [0.2, -1, 0, 0, 0, 0],
      [0.4, -1, 0, 0, 0, 0],
      [0.4, 2, 0, 0, 0, 0],
      [0.2, 2, 0, 0, 0, 0],
    ];
    const carried = (shutter: number) =>
      drawn('path', shutter, { path: { value: corners as never } }, 'path', { value: 600 });
    expect(sum(cover(carried(360), 5))).toBeCloseTo(sum(cover(carried(0), 5)), 1);
    expect(between(cover(carried(360), 5))).toBeGreaterThan(between(cover(carried(0), 5)));
  });
});

describe('tape with its fields half a frame apart', () => {
  const tape = (fields: string, system = '625') =>
    withStep('tape-signal', { fields, system, hue: 0, grade: 'studio' });
  it('asks for the frame before and its motion, and only then', () => {
    expect(needs(tape('motion'), clip, 9)).toEqual({ frames: [8, 9], parts: { motion: [8] } });
    expect(needs(tape('motion'), clip, 0)).toEqual({ frames: [0], parts: { motion: [] } });
    expect(needs(tape('weave'), clip, 9)).toEqual({ frames: [9], parts: { motion: [] } });
  });
  it('shows what moves half a frame further back in the rows of the first field', () => {
    // Here the picture's rows fall between raster rows, so the result is the mean of both fields.
    const [both, one] = ['motion', 'weave'].map((f) => row(plan(tape(f), at(9)).result)) as [
      Float32Array,
      Float32Array,
    ];
    expect(middle(one) - middle(both)).toBeCloseTo(SPEED / 4, 0);
    expect(middle(one) - middle(both)).toBeGreaterThan(0.5);
    // The other system starts with the other field. Without measured motion both fields show one
    // frame.
    expect(row(plan(tape('motion', '525'), at(9)).result)).not.toEqual(
      row(plan(tape('weave', '525'), at(9)).result),
    );
    expect(row(plan(tape('motion'), at(9, false)).result)).toEqual(one);
    expect(row(plan(tape('motion'), at(0)).result)).toEqual(row(plan(tape('weave'), at(0)).result));
  });
});

describe('tape of footage whose frames follow each other as fast as fields', () => {
  const tape = (fields: string, system = '625') =>
    withStep('tape-signal', { fields, system, hue: 0, grade: 'studio' });
  const fast = (frame: number, rate: readonly [number, number]): ClipFrame => ({
    ...at(frame),
    time: { ...TIME, rate },
    at: (f) => fast(f, rate),
  });
  const seen = (fields: string, frame: number, rate: readonly [number, number], system = '625') =>
    row(plan(tape(fields, system), fast(frame, rate)).result);
  const FIELDS = [50, 1] as const;
  it('shows each of two frames in the rows of its own field', () => {
    expect(needs(tape('own'), { ...clip, rate: FIELDS }, 9)).toEqual({
      frames: [8, 9],
      parts: { motion: [] },
    });
    // The mean of both fields lies half a frame's movement behind.
    for (const frame of [8, 9])
      expect(middle(seen('weave', frame, FIELDS)) - middle(seen('own', frame, FIELDS))).toBeCloseTo(
        SPEED / 2,
        0,
      );
    // Which field still shows the frame before depends on the system.
    expect(seen('own', 8, FIELDS)).not.toEqual(seen('own', 8, FIELDS, '525'));
    expect(seen('own', 0, FIELDS)).toEqual(seen('weave', 0, FIELDS));
  });
  it('is as one frame at the rate of frames', () => {
    for (const fields of ['own', 'bob', 'pulldown'])
      expect(seen(fields, 9, [25, 1])).toEqual(seen('weave', 9, [25, 1]));
    expect(needs(tape('own'), clip, 9).frames).toEqual([9]);
  });
  it('is one field alone: what stands across all rows stands still, and nothing of the frame before is seen', () => {
    expect(needs(tape('bob'), { ...clip, rate: FIELDS }, 9).frames).toEqual([9]);
    const [bob, weave] = [seen('bob', 9, FIELDS), seen('weave', 9, FIELDS)];
    bob.forEach((v, i) => expect(Math.abs(v - weave[i]!)).toBeLessThan(1e-6));
  });
  it('shows four frames of film as two, two, and two that are woven of neighbours', () => {
    const film = [24000, 1001] as const;
    const asks = [4, 5, 6, 7].map(
      (f) => needs(tape('pulldown', '525'), { ...clip, rate: film }, f).frames,
    );
    expect(asks).toEqual([[4], [5], [5, 6], [6, 7]]);
    for (const f of [4, 5])
      expect(seen('pulldown', f, film, '525')).toEqual(seen('weave', f, film, '525'));
    // Each row of the picture lies on a row of one field or the other: over all rows, half and
    // half.
    for (const f of [6, 7]) {
      const behind = Array.from({ length: H }, (_, y) => {
        const [one, both] = ['weave', 'pulldown'].map((how) =>
          row(plan(tape(how, '525'), fast(f, film)).result, y),
        ) as [Float32Array, Float32Array];
        return middle(one) - middle(both);
      });
      expect(Math.abs(sum(Float32Array.from(behind)) / H - SPEED / 2)).toBeLessThan(0.3);
      expect([Math.min(...behind) > -0.1, Math.max(...behind) < SPEED + 0.1]).toEqual([true, true]);
    }
    expect(seen('pulldown', 6, film)).toEqual(seen('weave', 6, film));
  });
});

describe('a trail as a band', () => {
  const trail = (bands: boolean) => withStep('trail', { count: 5, spacing: 3, fade: 100, bands });
  it('has no gaps between its copies, and its front stays where it is', () => {
    const comb = row(plan(trail(false), at(16)).result),
      band = row(plan(trail(true), at(16)).result);
    const [first, end] = [10 + SPEED * 4, 18 + SPEED * 16];
    expect(Math.min(...comb.subarray(first, end))).toBe(0);
    expect(Math.min(...band.subarray(first, end))).toBeGreaterThan(0.95);
    expect(band[end + 1]).toBe(0);
  });

  it('asks for the motion of each of its copies, and is a comb until that is measured', () => {
    expect(needs(trail(true), clip, 16).parts.motion).toEqual([4, 7, 10, 13, 16]);
    expect(row(plan(trail(true), at(16, false)).result)).toEqual(
      row(plan(trail(false), at(16)).result),
    );
  });
});

describe('a moved placement', () => {
  const key = (frame: number, x: number): KeyUse => ({
    at: { from: 'start', offset: { value: frame }, unit: 'clip-frames' },
    value: [x, 0.5],
  });
  /**
   * The bar of frame 0 on a layer of its own that moves by `x` of the frame's width in ten frames.
   */
  const moved = (shutter: number, x: number): LookDocument => {
    const layer = {
      ...edit.newLayer('Top', 'clip', []),
      placement: { shutter: { value: shutter } },
    };
    const flies: Mover = {
      key: 'm',
      name: 'M',
      on: true,
      kind: 'keys',
      parameters: {},
      keys: [key(0, 0.3), key(10, 0.3 + x)],
      targets: [{ path: 'top/+placement/position', how: 'replace' }],
    };
    return {
      ...edit.addLayer({ ...emptyLook('Flies', 3), bedrock: false }, layer),
      movers: [flies],
    };
  };
  const still = (frame: number): ClipFrame => ({
    ...at(frame),
    bedrock: leafOf(
      [0, 1, 2].map(() => plane((x) => (x >= 44 && x < 52 ? 1 : 0))),
      W,
      H,
      'light',
      'still',
    ),
  });

  it('smears by its own way while the shutter is open: as long, flat, with all its light', () => {
    expect('look' in readLook(moved(360, 0.5))).toBe(true);
    // 48 pixels in ten frames: 4.8 during the exposure.
    const sharp = row(plan(moved(0, 0.5), still(5)).result),
      v = row(plan(moved(360, 0.5), still(5)).result);
    expect(sum(sharp)).toBeCloseTo(8, 3);
    expect(Math.abs(sum(v) - 8)).toBeLessThan(8e-3);
    expect(middle(v)).toBeCloseTo(middle(sharp), 2);
    expect(v.filter((x) => x > 0.99).length).toBeGreaterThanOrEqual(3);
    // At half its height it is as long as the bar; near zero, as long as the bar and its movement.
    const lit = v.filter((x) => x > 0.5).length;
    expect(Math.abs(lit - 8)).toBeLessThanOrEqual(1);
    expect(Math.abs(v.filter((x) => x > 0.02).length - (8 + 4.8))).toBeLessThanOrEqual(2);
    expect(Math.max(...v)).toBeLessThanOrEqual(1.0001);
  });

  it('is as it was where it stands still, or the shutter is shut', () => {
    expect(row(plan(moved(360, 0), still(5)).result)).toEqual(
      row(plan(moved(0, 0), still(5)).result),
    );
    const { movers, ...unmoved } = moved(360, 0.5);
    expect(movers).toHaveLength(1);
    expect(row(plan(unmoved, still(5)).result)).toEqual(row(still(5).bedrock));
  });
});

describe('a trail spaced by how far what moves has come', () => {
  /** Speed in lines a frame; a line is 1/1080 of the height. */
  const LINES = (SPEED * 1080) / H;
  const speeds = (f: (i: number) => number | null) =>
    Array.from({ length: FRAMES - 1 }, (_, i) => f(i));
  const measured = (f: (i: number) => number | null) => ({ ...clip, found: { speeds: speeds(f) } });
  const seen = (frame: number, f: (i: number) => number | null): ClipFrame => {
    const time = timeOf(measured(f));
    const there = (i: number): ClipFrame => ({ ...at(i), time, at: there });
    return there(frame);
  };
  const byWay = (lines: number, count = 5, more = {}) =>
    withStep('trail', { count, spacing: lines, unit: 'way', fade: 100, ...more });

  it('is what frames apart give where all moves evenly', () => {
    const even = () => LINES;
    expect(row(plan(byWay(2 * LINES), seen(16, even)).result)).toEqual(
      row(plan(withStep('trail', { count: 5, spacing: 2, fade: 100 }), at(16)).result),
    );
    expect(needs(byWay(2 * LINES), measured(even), 16).frames).toEqual([8, 10, 12, 14, 16]);
    // The latest frame that is far enough back: 2.5 frames round up to 3.
    expect(needs(byWay(2.5 * LINES, 3), measured(even), 16).frames).toEqual([11, 13, 16]);
  });
  it('goes further back where what moves is slow, and leaves no second copy on one frame where it is fast', () => {
    expect(
      needs(
        byWay(LINES, 3),
        measured((i) => (i < 14 ? LINES : LINES / 3)),
        16,
      ).frames,
    ).toEqual([12, 13, 16]);
    expect(
      needs(
        byWay(LINES / 2, 5),
        measured(() => LINES),
        16,
      ).frames,
    ).toEqual([14, 15, 16]);
  });
  it('finds none before the clip, nor longer ago than three seconds', () => {
    expect(
      needs(
        byWay(4 * LINES, 7),
        measured(() => LINES),
        16,
      ).frames,
    ).toEqual([0, 4, 8, 12, 16]);
    const long = {
      ...clip,
      frames: 200,
      found: { speeds: Array.from({ length: 199 }, (_, i) => (i < 100 ? 100 : 0)) },
    };
    expect(needs(byWay(50, 3), long, 174).frames).toEqual([99, 174]);
    expect(needs(byWay(50, 3), long, 176).frames).toEqual([176]);
  });
  it('counts each frame as one copy apart until anything is measured, and asks for motion', () => {
    expect(asksFor('motion', byWay(50))).toBe(true);
    expect(asksFor('speeds', withStep('trail', { unit: 'seconds' }))).toBe(false);
    expect(needs(byWay(500, 4), clip, 16).frames).toEqual([13, 14, 15, 16]);
    expect(
      needs(
        byWay(20, 2),
        measured(() => null),
        16,
      ).frames,
    ).toEqual([15, 16]);
  });
  it('does not depend on what is known of frames before those it looks at', () => {
    // Sums of hundredths that equal a copy's distance exactly, or miss it by the order of addition.
    const fine = (i: number) => [7.07, 4.93, 11.99, 0.01, 6.1, 5.9][i % 6]!;
    for (let frame = 12; frame < FRAMES; frame++) {
      const all = needs(byWay(12, 4), measured(fine), frame).frames;
      const late = needs(
        byWay(12, 4),
        measured((i) => (i < frame - 9 ? null : fine(i))),
        frame,
      ).frames;
      expect(late).toEqual(all);
      expect(all).toHaveLength(4);
    }
  });
  it('counts along the clip’s time as it runs', () => {
    const slow = {
      ...measured(() => LINES),
      retime: {
        places: [{ frame: 0, speed: 50, to: 'smooth' as const }],
        backwards: false,
        between: 'nearest' as const,
      },
    };
    // Frame 32 shows footage frame 16; a copy 2 footage frames back is 4 frames back in the slowed
    // clip.
    expect(needs(byWay(2 * LINES, 3), slow, 32).frames).toEqual([12, 14, 16]);
    const back = {
      ...slow,
      retime: {
        ...slow.retime,
        places: [{ frame: 0, speed: 100, to: 'smooth' as const }],
        backwards: true,
      },
    };
    expect(needs(byWay(2 * LINES, 3), back, 10).frames).toEqual([
      FRAMES - 11,
      FRAMES - 9,
      FRAMES - 7,
    ]);
  });
  it('as a band has no gaps where its copies lie unevenly', () => {
    const band = row(
      plan(
        byWay(2 * LINES, 3, { bands: true }),
        seen(16, (i) => (i % 2 ? LINES : 0.8 * LINES)),
      ).result,
    );
    const lit = Array.from(band).flatMap((v, x) => (v > 0.9 ? [x] : []));
    expect(lit.at(-1)! - lit[0]!).toBe(lit.length - 1);
    expect(lit.length).toBeGreaterThan(8 + 4 * SPEED);
  });
});

describe('a retimed clip', () => {
  const retime = {
    places: [{ frame: 0, speed: 25, to: 'smooth' as const }],
    backwards: false,
    between: 'motion' as const,
  };
  const retimed = { ...clip, retime };
  const made = (frame: number, between: 'nearest' | 'mix' | 'motion' = 'motion'): ClipFrame =>
    retimedFrame((f) => (f < FRAMES ? at(f) : undefined), {
      map: retimeOf({ ...retimed, retime: { ...retime, between } })!,
      between,
      time: timeOf(retimed),
      follows: () => true,
    })(frame)!;

  it('is as long as its speed says, and its cues stay on their frames of the footage', () => {
    expect(timeOf(retimed)).toMatchObject({ frames: 4 * FRAMES, cues: { hit: [40] } });
  });
  it('shows what moves where it is at that moment, by whole frames the frame itself, bit for bit', () => {
    expect(Math.abs(middle(row(made(9).bedrock)) - (13.5 + SPEED * 2.25))).toBeLessThan(0.15);
    expect(row(made(8).bedrock)).toEqual(row(picture(2)));
    expect(row(made(9, 'nearest').bedrock)).toEqual(row(picture(2)));
    expect(Math.max(...row(made(9, 'mix').bedrock))).toBeCloseTo(1, 5);
  });
  it('asks for the frames and the motion of its footage, and under a look that looks back for those of its past', () => {
    expect(needs(null, retimed, 9)).toEqual({ frames: [2, 3], parts: { motion: [2] } });
    expect(needs(null, retimed, 8)).toEqual({ frames: [2], parts: { motion: [] } });
    expect(needs(withStep('trail', { count: 2, spacing: 4 }), retimed, 9).frames).toEqual([
      1, 2, 3,
    ]);
  });
  it('a look that retimes it asks for the same, and gives the same pictures', () => {
    const look: LookDocument = {
      ...emptyLook('slow'),
      retime: {
        places: [{ at: { from: 'start' }, speed: { value: 25 }, to: 'smooth' }],
        backwards: false,
        between: 'motion',
      },
    };
    expect(asksFor('motion', look)).toBe(true);
    for (const frame of [8, 9, 17]) {
      expect(needs(look, clip, frame)).toEqual(needs(null, retimed, frame));
      const sources = new Map(
        needs(look, clip, frame).frames.map((f) => [f, { own: rawOf(f), others: {} }]),
      );
      const facts = {
        ...clip,
        encoding: 'srgb',
        fit: 'fit',
        pixelAspect: 1,
        balance: null,
      } as const;
      const [own, byLook] = [
        clipFrame(sources, { ...facts, retime }, frame, { width: W, height: H }),
        clipFrame(sources, facts, frame, { width: W, height: H, look }),
      ];
      expect(byLook.time.frames).toBe(4 * FRAMES);
      expect(byLook.bedrock.key).toBe(own.bedrock.key);
      expect(plan(look, byLook).result).toBe(byLook.bedrock);
    }
  });
  it('never asks for a motion that the footage has not: at its ends, standing still, backwards', () => {
    const blurred = withStep('motion-blur', { angle: 360 });
    for (const backwards of [false, true]) {
      const whole = { ...clip, retime: { ...retime, backwards } };
      for (let frame = 0; frame < 4 * FRAMES; frame++)
        for (const m of needs(blurred, whole, frame).parts.motion)
          expect(m).toBeLessThan(FRAMES - 1);
    }
  });
  it('moves in each of its frames by its share of the way', () => {
    const wake = engine.compute(made(8).part!('motion')!.onward);
    const there = engine.memory.plane(wake, 0)[(H / 2) * W + Math.round(13.5 + SPEED * 2)]!;
    expect(there).toBeCloseTo(SPEED / 4, 1);
  });
  it('footage that goes with the picture is moved with it', () => {
    const covered = (f: number): ClipFrame => ({
      ...at(f),
      footage: { matte: picture(f), other: picture(f) },
    });
    const between = retimedFrame(covered, {
      map: retimeOf(retimed)!,
      between: 'motion',
      time: timeOf(retimed),
      follows: (pin) => pin === 'matte',
    })(9)!;
    expect(row(between.footage!['matte']!)).toEqual(row(between.bedrock));
    expect(row(between.footage!['other']!)).not.toEqual(row(between.bedrock));
  });
});
