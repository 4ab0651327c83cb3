/**
 * Looks over time: which frames they read, what they make of them, and that a frame depends on
 * nothing else.
 */
import { afterAll, describe, expect, it } from 'vitest';
import { Engine, type Image, Memory } from '../engine';
import { inDomain } from '../image';
import {
  edit,
  emptyLook,
  type LookDocument,
  type Mover,
  readLook,
  SHIPPED,
  type SpanUse,
} from '../look';
import { stepOf } from '../steps';
import { leafOf, randomPlanes } from '../testing';
import type { ClipTime, Rate } from '../time';
import { type ClipFrame, looksElsewhere, plan, reachOf, requirements } from '.';

const W = 24,
  H = 14,
  FRAMES = 40;
const TIME: ClipTime = { frames: FRAMES, rate: [25, 1], cues: { hit: [17] } };
const pictures = Array.from({ length: FRAMES }, (_, f) =>
  randomPlanes(3, W, H, 100 + f).map((p) => p.map(Math.abs)),
);
const bedrocks = pictures.map((p, f) => leafOf(p, W, H, 'light', `frame ${f}`));
const at =
  (time: ClipTime, only?: ReadonlySet<number>) =>
  (frame: number): ClipFrame | undefined =>
    only && !only.has(frame)
      ? undefined
      : { bedrock: bedrocks[frame % FRAMES]!, content: 'clip', frame, time, at: at(time, only) };

const engines: Engine[] = [];
const engineOf = (limit = 1 << 28): Engine => {
  const e = new Engine({ limit, helpers: 0 });
  engines.push(e);
  return e;
};
/** An engine that may keep so many checkpoints; what it spills goes to the map. */
function engineWithPast(pictures: number): {
  readonly engine: Engine;
  readonly aside: Map<string, Uint8Array>;
} {
  const memory = new Memory(1 << 28),
    aside = new Map<string, Uint8Array>();
  const bytesOf = ({ address, bytes }: Image): Uint8Array =>
    new Uint8Array(memory.wasm.buffer, address, bytes);
  const store = {
    write: (key: string, image: Image) => void aside.set(key, bytesOf(image).slice()),
    has: (key: string) => aside.has(key),
    read: (key: string, into: Image) => bytesOf(into).set(aside.get(key)!),
    drop: (key: string) => void aside.delete(key),
    close: () => aside.clear(),
  };
  const engine = new Engine({
    limit: 1 << 28,
    helpers: 0,
    memory,
    past: { bytes: () => pictures * W * H * 4 * 4, store },
  });
  engines.push(engine);
  return { engine, aside };
}
afterAll(() => engines.forEach((e) => e.close()));

function pixels(engine: Engine, look: LookDocument, frame: number, time = TIME): Float32Array[] {
  const { result } = plan(look, at(time)(frame)!);
  const image = engine.compute(inDomain(result, 'light'), { frame });
  return Array.from({ length: image.planes }, (_, p) => engine.memory.plane(image, p).slice());
}

const base = emptyLook('Time', 3);
const withStep = (
  id: string,
  parameters: Record<string, unknown> = {},
  source: 'below' | 'clip' = 'clip',
): LookDocument => {
  const step = edit.newStep(stepOf(id)!, []);
  const settings = Object.fromEntries(
    Object.entries(parameters).map(([k, value]) => [k, { value }]),
  );
  return edit.addLayer(
    base,
    edit.newLayer(
      'Top',
      source,
      [],
      [{ ...step, parameters: settings as (typeof step)['parameters'] }],
    ),
  );
};

describe('a trail', () => {
  /** By the definition: each copy by itself, in double precision. */
  const reference = (
    frame: number,
    count: number,
    spacing: number,
    fade: number,
    join: (a: number, b: number) => number,
  ) =>
    [0, 1, 2].map((p) =>
      Float64Array.from({ length: W * H }, (_, i) => {
        let v: number | undefined;
        for (let k = count - 1; k >= 0; k--) {
          const f = frame - k * spacing;
          if (f < 0) continue;
          const own = pictures[f]![p]![i]! * fade ** k;
          v = v === undefined ? own : join(v, own);
        }
        return v!;
      }),
    );
  const worst = (a: readonly ArrayLike<number>[], b: readonly ArrayLike<number>[]): number =>
    Math.max(
      ...a.map((p, i) =>
        Array.from(p).reduce(
          (m, v, k) => Math.max(m, Math.abs(v - b[i]![k]!) / Math.max(1, Math.abs(b[i]![k]!))),
          0,
        ),
      ),
    );

  for (const [how, join] of [
    ['lighten', Math.max],
    ['add', (a: number, b: number) => a + b],
  ] as const)
    it(`of ${how} is exactly its copies, whatever their number, and nothing from before the clip`, () => {
      for (const count of [1, 2, 3, 5, 8, 13])
        for (const spacing of [1, 2])
          for (const frame of [0, 3, 31]) {
            const look = withStep('trail', { count, spacing, fade: 70, combine: how });
            expect(
              worst(pixels(engineOf(), look, frame), reference(frame, count, spacing, 0.7, join)),
            ).toBeLessThan(2e-6);
          }
    });

  it('laid one copy over the other does what doubling does', () => {
    // A tint of no strength turns doubling off.
    const quick = withStep('trail', { count: 11, fade: 90 }),
      direct = withStep('trail', { count: 11, fade: 90, across: 1e-9 });
    const [a, b] = [pixels(engineOf(), quick, 30), pixels(engineOf(), direct, 30)];
    for (let p = 0; p < 3; p++)
      a[p]!.forEach((v, i) => expect(Math.abs(v - b[p]![i]!)).toBeLessThan(1e-4));
  });

  it('is the same played, jumped to and in pieces', () => {
    for (const parameters of [
      { count: 13, combine: 'add' },
      { count: 20 },
      { count: 6, growth: 3, turn: 4, tinted: 50 },
      { count: 5, combine: 'screen', fading: 'linear' },
    ]) {
      const look = withStep('trail', parameters);
      const played = engineOf(),
        frames = [24, 25, 26, 27, 28];
      const all = frames.map((f) => pixels(played, look, f));
      frames.forEach((f, i) => expect(pixels(engineOf(), look, f)).toEqual(all[i]));
      const backwards = engineOf();
      [...frames]
        .reverse()
        .forEach((f, i) => expect(pixels(backwards, look, f)).toEqual(all[frames.length - 1 - i]));
    }
  });

  it('is the same when its past is put aside, and makes nothing of it twice', () => {
    for (const parameters of [
      { count: 20 },
      { count: 13, combine: 'add', spacing: 2 },
      { count: 5, combine: 'screen', growth: 3 },
    ]) {
      const look = withStep('trail', parameters);
      const roomy = engineOf(),
        { engine, aside } = engineWithPast(3);
      let most = 0;
      for (let f = 30; f < 38; f++) {
        expect(pixels(engine, look, f)).toEqual(pixels(roomy, look, f));
        expect(engine.tally.computed).toBe(roomy.tally.computed);
        most = Math.max(most, aside.size);
      }
      expect(most).toBeGreaterThan(0);
      // At most the copies from before the first frame, and as many merges for later frames.
      const { before } = reachOf(look, { ...TIME, content: 'clip' }, [37]);
      expect(most).toBeLessThanOrEqual(2 * (before + 1));
      engine.close();
      expect(aside.size).toBe(0);
    }
  });

  it('makes each of its copies once, also of the first frames that are made', () => {
    const alone = withStep('trail', { count: 30 }),
      blur = {
        ...edit.newStep(stepOf('blur')!, []),
        key: 'blur',
        parameters: { radius: { value: 200 } },
      };
    const look = {
      ...alone,
      layers: alone.layers.map((l) => ({ ...l, steps: [blur, ...l.steps] })),
    };
    const engine = engineOf();
    pixels(engine, look, 30);
    const first = engine.tally.computed;
    for (let f = 31; f < 36; f++) {
      pixels(engine, look, f);
      // The new copy, merges of four and what joins them: not the other 29 copies at two passes
      // each.
      expect(engine.tally.computed).toBeLessThanOrEqual(20);
    }
    expect(first).toBeGreaterThanOrEqual(60);
  });

  it('finds most of what it needs when playing: six merges for sixty copies', () => {
    const look = withStep('trail', { count: 30, combine: 'lighten' });
    const engine = engineOf();
    for (let f = 6; f < 36; f++) pixels(engine, look, f);
    // The input, the merges of 2, 4, 8, 16 and of two that overlap, and what goes over the clip.
    expect(engine.tally.computed).toBeLessThanOrEqual(9);
  });

  it('takes each frame of the clip in once, however many copies of it are shown', () => {
    for (const parameters of [{ count: 8 }, { count: 8, across: 4 }]) {
      let loads = 0;
      const counted = (frame: number): ClipFrame => {
        const own = bedrocks[frame]!;
        const bedrock = {
          ...own,
          load: (...args: Parameters<typeof own.load>) => (
            args[0] === 0 && loads++,
            own.load(...args)
          ),
        };
        return { bedrock, content: 'clip', frame, time: TIME, at: counted };
      };
      const look = withStep('trail', parameters),
        engine = engineOf();
      const play = (frame: number) =>
        engine.compute(inDomain(plan(look, counted(frame)).result, 'encoded'), { frame });
      // After every part of the past was computed for an earlier frame.
      for (let frame = 10; frame < 20; frame++) play(frame);
      loads = 0;
      for (let frame = 20; frame < 30; frame++) play(frame);
      expect(loads).toBe(10);
    }
  });

  it('holds a moving past: each copy has the values of its own frame', () => {
    const faded = edit.addStep(
      withStep('trail', { count: 2, fade: 100 }),
      'top',
      edit.newStep(stepOf('exposure')!, []),
    );
    const look = edit.moveStep(faded, 'top', 'exposure', 0);
    const moved = edit.addMover(look, 'ramp', 'top/exposure/stops');
    const ramp: LookDocument = {
      ...moved,
      movers: [
        {
          ...moved.movers![0]!,
          parameters: { over: { value: 0 } },
          instants: { from: [{ from: 'cue', cue: 'hit' }] },
          targets: [{ path: 'top/exposure/stops', how: 'add', amount: { value: -20 } }],
        },
      ],
      pins: [{ key: 'hit', label: 'Hit', kind: 'cue', many: false }],
    };
    expect('look' in readLook(ramp)).toBe(true);
    // On the cue's frame the present is dark; the copy, taken from the frame before, is not.
    const [r] = pixels(engineOf(), ramp, 17);
    r!.forEach((v, i) =>
      expect(v).toBeCloseTo(Math.max(pictures[16]![0]![i]!, pictures[17]![0]![i]! * 2 ** -20), 5),
    );
  });
});

describe('what a look looks at', () => {
  it('is found without a picture: trails, layer times, and trails of layers below', () => {
    const clip = { content: 'clip', frames: FRAMES, rate: [25, 1] as Rate, pins: {} };
    expect(requirements(base, clip, 20)).toEqual([20]);
    expect(requirements(withStep('trail', { count: 4, spacing: 2 }), clip, 20)).toEqual([
      14, 16, 18, 20,
    ]);
    expect(requirements(withStep('trail', { count: 4, spacing: 2 }), clip, 3)).toEqual([1, 3]);
    const held = edit.setLayerTime(withStep('exposure'), 'top', 'offset', { value: -5 });
    expect(requirements(held, clip, 20)).toEqual([15, 20]);
    const over = edit.addLayer(withStep('trail', { count: 3 }), {
      ...edit.newLayer('Late', 'below', []),
      time: { offset: { value: -10 } },
    });
    expect(requirements(over, clip, 20)).toEqual([8, 9, 10, 18, 19, 20]);
    expect(reachOf(over, clip, [5, 20, 30])).toEqual({ before: 12, behind: 0 });
    expect(looksElsewhere(withStep('exposure'))).toBe(false);
  });

  it('is all that is needed: with those frames and no other at hand the picture is the same', () => {
    const look = edit.setLayerTime(
      edit.addLayer(withStep('trail', { count: 9, spacing: 1 }), {
        ...edit.newLayer('Late', 'below', []),
        blend: 'screen',
        time: { cadence: { value: 'every' }, held: { value: 4 } },
      }),
      'late',
      'offset',
      { value: 3 },
    );
    const only = new Set(
      requirements(look, { content: 'clip', frames: FRAMES, rate: [25, 1], pins: {} }, 21),
    );
    const engine = engineOf();
    const whole = engine
      .planes(engine.compute(plan(look, at(TIME)(21)!).result))
      .planes.map((p) => p.slice());
    const part = engineOf();
    const got = part
      .planes(part.compute(plan(look, at(TIME, only)(21)!).result))
      .planes.map((p) => p.slice());
    expect(got).toEqual(whole);
  });
});

describe('a look in time', () => {
  const cue: LookDocument = {
    ...withStep('invert'),
    pins: [{ key: 'hit', label: 'Hit', kind: 'cue', many: false }],
  };
  const span: SpanUse = { from: { from: 'cue', cue: 'hit' }, to: { from: 'end' } };

  it('strikes on its cue: the clip bit for bit on the frame before, all of it on the frame itself, at any rate', () => {
    for (const rate of [
      [24000, 1001],
      [24, 1],
      [25, 1],
      [50, 1],
      [60, 1],
    ] as const) {
      const time = { ...TIME, rate };
      for (const look of [
        edit.setSpan(cue, { layer: 'top' }, span),
        edit.setSpan(cue, {}, span),
        edit.setSpan(cue, { layer: 'top', step: 'invert' }, span),
      ]) {
        expect('look' in readLook(look)).toBe(true);
        expect(pixels(engineOf(), look, 16, time)).toEqual(pictures[16]);
        expect(pixels(engineOf(), look, 17, time)).toEqual(pixels(engineOf(), cue, 17, time));
      }
    }
  });

  it('costs nothing outside its span', () => {
    const { result } = plan(edit.setSpan(cue, {}, span), at(TIME)(3)!);
    expect(result).toBe(bedrocks[3]);
  });

  it('moves parameters, dials and what follows them; several act by replacing, multiplying, adding', () => {
    const look = edit.addDial(withStep('exposure'), {
      key: 'push',
      label: 'Push',
      kind: 'number',
      min: 0,
      max: 4,
      value: 1,
    });
    const driven = edit.setParameter(look, 'top', 'exposure', 'stops', {
      dial: 'push',
      from: 0,
      to: 4,
    });
    const key = (frame: number, value: number) => ({
      at: { from: 'start' as const, offset: { value: frame }, unit: 'clip-frames' as const },
      value,
    });
    const mover = (m: Partial<Mover>): Mover => ({
      key: 'm',
      name: 'M',
      on: true,
      kind: 'keys',
      parameters: {},
      targets: [],
      ...m,
    });
    const path = 'top/exposure/stops';
    const movers = [
      mover({ key: 'a', keys: [key(0, 2)], targets: [{ path, how: 'add' }] }),
      mover({ key: 'b', keys: [key(0, 50)], targets: [{ path, how: 'multiply' }] }),
      mover({
        key: 'c',
        keys: [key(0, 0), key(10, 3)],
        targets: [{ path: '+dials/push', how: 'replace' }],
      }),
    ];
    const all = { ...driven, movers };
    expect('look' in readLook(all)).toBe(true);
    // At frame 10 the dial is at 3: half of it, plus two.
    const [r] = pixels(engineOf(), all, 10);
    r!.forEach((v, i) => expect(v / pictures[10]![0]![i]!).toBeCloseTo(2 ** 3.5, 2));
  });
});

describe('shipped looks', () => {
  it('are the same played, jumped to and in pieces', () => {
    const bigger = (f: number) =>
      randomPlanes(3, 64, 36, 7 + f).map((p) => p.map((v) => Math.abs(v) / 3));
    const frames = [0, 1, 2, 3].map((f) => leafOf(bigger(f), 64, 36, 'light', `big ${f}`));
    const clip = (frame: number): ClipFrame | undefined => ({
      bedrock: frames[frame % 4]!,
      content: 'clip',
      frame,
      time: TIME,
      whole: {
        tones: { p1: 0, p5: 0.1, p25: 0.2, p50: 0.4, p75: 0.6, p95: 0.9, p99: 1 },
        magenta: 0.01,
        warmth: 0.02,
      },
      at: clip,
    });
    const made = (engine: Engine, look: LookDocument, frame: number) => {
      const image = engine.compute(plan(look, clip(frame)!).result, { frame });
      return [0, 1, 2].map((p) => engine.memory.plane(image, p).slice());
    };
    for (const { look } of SHIPPED) {
      const played = engineOf();
      const all = [20, 21, 22].map((f) => made(played, look, f));
      [22, 20, 21].forEach((f) => expect(made(engineOf(), look, f)).toEqual(all[f - 20]));
    }
  }, 120_000);
});
