import { describe, expect, it } from 'vitest';
import { clipFrame, plan } from '.';
import { inTarget, lookFrame, placeInLookFrame, placeInTarget } from '../clip';
import { Engine } from '../engine';
import { fitInto, type Fitting, frameFit, type RawFrame } from '../image';
import { edit, emptyLook, type LookFrame } from '../look';
import { stepOf } from '../steps';
import { placeInClip, placeInFrame } from '../places';
import { bitsThatDiffer, leafOf, randomPlanes } from '../testing';

const engine = new Engine({ limit: 1 << 28, helpers: 0 });
const frame = (
  shape: [number, number],
  lies: LookFrame['lies'] = 'bars',
  rounded = 0,
): LookFrame => ({ shape, lies, rounded });
const WIDE = { width: 1920, height: 1080 };

describe('the frame of a look', () => {
  it('lies centred on whole pixels of what is delivered, inside it or around it', () => {
    expect(lookFrame(undefined, WIDE)).toBeUndefined();
    expect(lookFrame(frame([16, 9]), WIDE)).toBeUndefined();
    expect(lookFrame(frame([4, 3]), WIDE)).toMatchObject({
      width: 1440,
      height: 1080,
      x: 240,
      y: 0,
    });
    expect(lookFrame(frame([12, 5]), WIDE)).toMatchObject({
      width: 1920,
      height: 800,
      x: 0,
      y: 140,
    });
    expect(lookFrame(frame([9, 16]), WIDE)).toMatchObject({ width: 608, height: 1080, x: 656 });
    expect(lookFrame(frame([1, 1], 'fill'), WIDE)).toMatchObject({
      width: 1920,
      height: 1920,
      x: 0,
      y: -420,
    });
    for (const target of [
      { width: 41, height: 30 },
      { width: 3, height: 7 },
    ])
      for (const shape of [
        [4, 3],
        [1, 1],
        [9, 16],
        [100, 1],
      ] as const) {
        const at = lookFrame(frame([...shape]), target);
        if (at)
          expect(
            [at.x, at.y, at.width - 1, at.height - 1].every((v) => Number.isInteger(v) && v >= 0),
          ).toBe(true);
      }
  });

  it('puts its pixels there untouched, clear beyond', () => {
    const at = lookFrame(frame([1, 1]), { width: 20, height: 10 })!;
    const square = leafOf(randomPlanes(3, 10, 10, 5), 10, 10, 'light');
    const whole = engine.compute(inTarget(square, at));
    const [inner, outer] = [
      engine.memory.plane(engine.compute(square), 1),
      engine.memory.plane(whole, 1),
    ];
    for (let y = 0; y < 10; y++)
      for (let x = 0; x < 20; x++)
        expect(outer[y * 20 + x]).toBe(x < 5 || x >= 15 ? 0 : inner[y * 10 + x - 5]);
    expect(engine.memory.plane(engine.compute(inTarget(square, at)), 3).slice(0, 20)).toEqual(
      Float32Array.from({ length: 20 }, (_, x) => (x < 5 || x >= 15 ? 0 : 1)),
    );
    expect(bitsThatDiffer(engine, inTarget(square, at))).toBe(0);
  });

  it('rounds its corners by their radius: π/4 of each corner’s square is left', () => {
    const at = lookFrame(frame([1, 1], 'bars', 270), { width: 120, height: 80 })!;
    expect(at.radius).toBe(20);
    const white = leafOf(
      [1, 1, 1].map((v) => new Float32Array(80 * 80).fill(v)),
      80,
      80,
      'light',
    );
    const area = engine.memory
      .plane(engine.compute(inTarget(white, at)), 0)
      .reduce((a, b) => a + b, 0);
    expect(area / (80 * 80 - (4 - Math.PI) * 20 * 20)).toBeCloseTo(1, 3);
  });

  it('is where lines, places and layers count: its own height, not the target’s', () => {
    const look = { ...emptyLook('tall'), frame: frame([9, 16]) };
    const step = {
      ...edit.newStep(stepOf('vignette')!, []),
      parameters: { stops: { value: -2 }, softness: { value: 20 } },
    };
    const vignetted = edit.addLayer(look, edit.newLayer('edge', 'clip', [], [step]));
    const raw: RawFrame = {
      format: {
        width: 64,
        height: 36,
        depth: 8,
        layout: 'rgb',
        chroma: [1, 1],
        matrix: 'bt709',
        full: true,
        alpha: false,
      },
      planes: [0, 1, 2].map(() => new Uint8Array(64 * 36).fill(180)),
      key: 'flat',
    };
    const clip = {
      encoding: 'srgb',
      fit: 'fill',
      pixelAspect: 1,
      balance: null,
      content: 'a',
      rate: [25, 1],
      frames: 1,
    } as const;
    const asked = { width: 64, height: 36, look: vignetted };
    const at = clipFrame(new Map([[0, { own: raw, others: {} }]]), clip, 0, asked);
    expect([at.bedrock.width, at.bedrock.height]).toEqual([20, 36]);
    const planned = plan(vignetted, at);
    for (const p of [planned.result, planned.bedrock, ...planned.strata.values()])
      expect([p.width, p.height]).toEqual([64, 36]);
    const red = engine.memory.plane(engine.compute(planned.result), 0);
    const pixel = (x: number, y: number) => red[y * 64 + x]!;
    expect([0, 21, 42, 63].map((x) => pixel(x, 18))).toEqual([0, 0, 0, 0]);
    // Darkest in the corners of the look's frame, not in the corners of the target.
    expect(pixel(22, 0)).toBeGreaterThan(0);
    expect(pixel(22, 0)).toBeLessThan(0.9 * pixel(32, 18));
    expect(pixel(22, 0)).toBeCloseTo(pixel(41, 35), 5);
  });

  it('finds places in the target and back', () => {
    const at = lookFrame(frame([4, 3]), WIDE);
    expect(placeInTarget([0, 1], at)).toEqual([240 / 1920, 1]);
    expect(
      placeInLookFrame(placeInTarget([0.3, 0.8], at), at).map((v) => Number(v.toFixed(9))),
    ).toEqual([0.3, 0.8]);
  });
});

describe('a clip in a frame', () => {
  const lie = (more: Partial<Parameters<typeof frameFit>[0]>) =>
    frameFit({ clip: [400, 300], frame: [160, 90], fit: 'fit', ...more });
  it('fits, fills, stretches, or stays as large as it is', () => {
    expect(lie({}).size).toEqual([120 / 160, 1]);
    expect(lie({ fit: 'fill' }).size).toEqual([1, 120 / 90]);
    expect(lie({ fit: 'stretch' }).size).toEqual([1, 1]);
    // 300 rows are 300 of the frame's 1080 lines, for the original and for its proxy.
    expect(lie({ fit: 'stay' }).size[1]).toBeCloseTo(300 / 1080, 9);
    expect(lie({ fit: 'stay', clip: [40, 30], lines: 300 }).size[1]).toBeCloseTo(300 / 1080, 9);
  });

  it('is reframed about its middle, and never uncovers a frame that it fills', () => {
    expect(lie({ reframe: { x: 0.25, y: 0.5, closer: 200 } })).toEqual({
      size: [1.5, 2],
      middle: [0.25, 0.5],
    });
    const high = lie({ fit: 'fill', reframe: { x: 0.9, y: 0, closer: 100 } });
    expect(high.middle).toEqual([0.5, 0.375]);
    const framing = {
      clip: [400, 300],
      frame: [160, 90],
      fit: 'fit',
      reframe: { x: 0.3, y: 0.6, closer: 150 },
    } as const;
    expect(placeInFrame([0.3, 0.6], framing)).toEqual([0.5, 0.5]);
    expect(
      placeInClip(placeInFrame([0.1, 0.9], framing), framing).map((v) => Number(v.toFixed(9))),
    ).toEqual([0.1, 0.9]);
  });

  const ramp = leafOf(
    [
      Float32Array.from({ length: 80 * 40 }, (_, i) => (i % 80) / 80),
      new Float32Array(3200),
      new Float32Array(3200),
    ],
    80,
    40,
    'light',
  );
  const red = (fitting: Fitting) =>
    engine.memory.plane(engine.compute(fitInto(ramp, 40, 40, fitting)), 0).slice(20 * 40, 21 * 40);
  it('shows the part that reframing names, at its size', () => {
    // Filling 40 × 40 from 80 × 40: forty columns, from the twentieth; reframed to the left edge,
    // from the first.
    expect(red({ fit: 'fill' })[0]).toBeCloseTo(20 / 80, 6);
    expect(red({ fit: 'fill', reframe: { x: 0, y: 0.5, closer: 100 } })[0]).toBeCloseTo(0, 6);
    const close = red({ fit: 'fill', reframe: { x: 0.5, y: 0.5, closer: 200 } });
    expect(close[39]! - close[0]!).toBeCloseTo(39 / 160, 5);
  });

  it('is clear where moving it leaves the frame uncovered', () => {
    const moved = fitInto(ramp, 40, 40, { fit: 'stretch', reframe: { x: 0, y: 0.5, closer: 100 } });
    const cover = engine.memory.plane(engine.compute(moved), 3).slice(0, 40);
    expect(
      [...cover.slice(0, 20)].every((v) => v === 0) && [...cover.slice(20)].every((v) => v === 1),
    ).toBe(true);
    expect(bitsThatDiffer(engine, moved)).toBe(0);
  });
});
