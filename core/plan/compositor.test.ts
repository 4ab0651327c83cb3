import { describe, expect, it } from 'vitest';
import { plan } from '.';
import { blend, BLEND_IDS } from '../compositing';
import { Engine, type Image } from '../engine';
import { keysOf, type ImageNode } from '../graph';
import { fitInto, halve, packedForPage, toCodes } from '../image';
import { edit, emptyLook, SHIPPED, shippedLook, type StepUse } from '../look';
import { stepOf } from '../steps';
import { A_MINUTE, bitsThatDiffer, leafOf, randomPlanes } from '../testing';

const engine = new Engine({ limit: 1 << 28, helpers: 0 });
const [W, H] = [61, 37];
const bedrock = leafOf(
  randomPlanes(3, W, H, 11).map((p) => p.map((v) => Math.abs(v) / 4)),
  W,
  H,
  'light',
  'clip',
);
const clip = { bedrock, content: 'abc', frame: 3, time: A_MINUTE };
const planesOf = (e: Engine, image: Image) =>
  Array.from({ length: image.planes }, (_, p) => e.memory.plane(image, p));

describe('a look on a clip', () => {
  it.each(SHIPPED.map((s) => [s.id, s.look] as const))(
    '%s gives the same bits fused freely, cut at layers, and one operation at a time',
    (_, look) => {
      const { result } = plan(look, clip);
      const fresh = new Engine({ limit: 1 << 28, helpers: 0 });
      // The reference engine is too slow for a whole tape raster; the tape tests compare a few rows
      // of one.
      const onTape = look.layers.some((l) =>
        l.steps.some((s) => stepOf(s.step)!.family === 'tape'),
      );
      if (onTape)
        return expect(planesOf(fresh, fresh.compute(result, { keepCheckpoints: true }))).toEqual(
          planesOf(engine, engine.compute(result)),
        );
      expect(bitsThatDiffer(engine, result)).toBe(0);
      expect(bitsThatDiffer(fresh, result, true)).toBe(0);
    },
  );

  it('is the clip at no strength, bit for bit', () => {
    const look = edit.setDial(shippedLook('silt')!, 'strength', 0);
    expect(plan(look, clip).result).toBe(bedrock);
  });

  it("gives grain by the clip's content and frame, not by chance", () => {
    const key = (content: string, frame: number) =>
      plan(shippedLook('soft-lens')!, { ...clip, content, frame }).result.key;
    expect(key('abc', 3)).toBe(key('abc', 3));
    expect(key('abc', 3)).not.toBe(key('abc', 4));
    expect(key('abc', 3)).not.toBe(key('abd', 3));
  });

  it('recomputes only the top layer when only the top layer changes', () => {
    const bench = new Engine({ limit: 1 << 28, helpers: 0 });
    const look = shippedLook('silt')!;
    bench.compute(plan(look, clip).result, { keepCheckpoints: true });
    bench.compute(plan(edit.changeLayer(look, 'silver', { opacity: { value: 20 } }), clip).result, {
      keepCheckpoints: true,
    });
    expect(bench.tally.computed).toBe(1);
    bench.compute(plan(look, clip).result, { keepCheckpoints: true });
    expect(bench.tally.computed).toBe(0);
  });

  it('still does after small pictures of the layers were made', () => {
    const bench = new Engine({ limit: 1 << 28, helpers: 0 });
    const look = shippedLook('silt')!;
    const { result, strata } = plan(look, clip);
    bench.compute(result, { keepCheckpoints: true });
    for (const layer of strata.values())
      bench.compute(packedForPage(toCodes(halve(layer), 'srgb')), { keepCheckpoints: true });
    bench.compute(plan(edit.changeLayer(look, 'silver', { opacity: { value: 20 } }), clip).result, {
      keepCheckpoints: true,
    });
    expect(bench.tally.computed).toBe(1);
  });

  it('keeps of what stays as it is what all else is made from: the same bits, and each further move computes no more than it must', () => {
    const look = shippedLook('soft-lens')!;
    for (const [dial, most] of [
      ['frame', 2],
      ['age', 30],
      ['bloom', 30],
    ] as const) {
      const bench = new Engine({ limit: 1 << 28, helpers: 0 });
      const at = (v: number) => plan(edit.setDial(look, dial, v), clip).result;
      const moves = [20, 30, 40, 50].map(at);
      const counts = moves.slice(1).map((now, i) => {
        const last = keysOf(moves[i]!);
        const image = bench.compute(now, {
          keepCheckpoints: new Set([...keysOf(now)].filter((key) => last.has(key))),
        });
        const { computed } = bench.tally;
        expect(planesOf(bench, image)).toEqual(planesOf(engine, engine.compute(now)));
        return computed;
      });
      expect(counts[1]).toBe(counts[2]);
      expect(counts[1]).toBeLessThan(counts[0]!);
      expect(counts[1]).toBeLessThanOrEqual(most);
    }
  });

  it('has at hand what a step is mixed with, and the grain, while only their shares move', () => {
    const bench = new Engine({ limit: 1 << 28, helpers: 0 });
    const larger = leafOf(
      randomPlanes(3, 160, 120, 11).map((p) => p.map((v) => Math.abs(v) / 4)),
      160,
      120,
      'light',
      'larger',
    );
    const grains = (amount: number, radius = 30) => {
      const steps: StepUse[] = [
        {
          ...edit.newStep(stepOf('blur')!, []),
          mix: { value: amount },
          parameters: { radius: { value: radius } },
        },
        {
          ...edit.newStep(stepOf('grain')!, []),
          parameters: { amount: { value: amount }, clouds: { value: 400 } },
        },
      ];
      return plan(
        { ...emptyLook('Grained'), layers: [edit.newLayer('a', 'clip', [], steps)] },
        { ...clip, bedrock: larger },
      ).result;
    };
    const computed = (now: ImageNode, last: ImageNode) => {
      const before = keysOf(last);
      bench.compute(now, {
        keepCheckpoints: new Set([...keysOf(now)].filter((key) => before.has(key))),
      });
      return bench.tally.computed;
    };
    computed(grains(20), grains(10));
    expect(computed(grains(30), grains(20))).toBe(1);
    // The blur is computed again, the grain is not.
    expect(computed(grains(31, 40), grains(30))).toBe(3);
    expect(computed(grains(32, 40), grains(31, 40))).toBe(3);
    expect(computed(grains(33, 40), grains(32, 40))).toBe(1);
  });

  it('forgets the oldest pictures when memory is short, and computes the same', () => {
    const small = new Engine({ limit: (2 << 16) + 1_500_000, helpers: 0 });
    const { result } = plan(shippedLook('soft-lens')!, clip);
    const roomy = planesOf(engine, engine.compute(result));
    for (let frame = 0; frame < 12; frame++)
      small.compute(plan(shippedLook('soft-lens')!, { ...clip, frame }).result);
    expect(planesOf(small, small.compute(result))).toEqual(roomy);
  });
});

describe('blending', () => {
  it.each(BLEND_IDS)('%s agrees with the single reference for every pair of plane counts', (id) => {
    for (const below of [3, 4])
      for (const above of [3, 4]) {
        const make = (planes: number, seed: number) =>
          leafOf(randomPlanes(planes, 9, 7, seed), 9, 7, 'encoded');
        expect(bitsThatDiffer(engine, blend(id, make(below, 1), make(above, 2), 0.7))).toBe(0);
      }
  });

  const once = (id: (typeof BLEND_IDS)[number], b: number, s: number) =>
    engine.memory.plane(
      engine.compute(
        blend(
          id,
          leafOf([[b], [b], [b]], 1, 1, 'encoded'),
          leafOf([[s], [s], [s]], 1, 1, 'encoded'),
          1,
        ),
      ),
      0,
    )[0]!;
  it('follows the W3C formulas', () => {
    expect(once('multiply', 0.5, 0.4)).toBeCloseTo(0.2, 6);
    expect(once('screen', 0.5, 0.4)).toBeCloseTo(0.7, 6);
    expect(once('overlay', 0.25, 0.4)).toBeCloseTo(0.2, 6);
    expect(once('soft-light', 0.25, 0.75)).toBeCloseTo(0.25 + 0.5 * (0.5 - 0.25), 6);
    expect(once('difference', 0.25, 1.5)).toBeCloseTo(1.25, 6);
    expect(once('multiply', 2, 0.5)).toBeCloseTo(1.5, 6);
  });
});

describe('fitting and packing', () => {
  it('leaves clear bars beside a portrait clip, covered by nothing', () => {
    const portrait = leafOf(randomPlanes(3, 54, 96, 1), 54, 96, 'light');
    const fitted = fitInto(portrait, 96, 54, { fit: 'fit' });
    const cover = engine.memory.plane(engine.compute(fitted), 3);
    expect(fitted.planes).toBe(4);
    expect(cover[27 * 96]).toBe(0);
    expect(cover[27 * 96 + 48]).toBe(1);
    expect(cover.reduce((a, b) => a + b, 0) / 54).toBeCloseTo((54 * 54) / 96, 1);
  });

  it('fills without bars, and keeps a flat picture flat when made smaller', () => {
    const flat = leafOf(
      [0, 1, 2].map(() => new Float32Array(200 * 90).fill(0.5)),
      200,
      90,
      'light',
    );
    const image = engine.compute(fitInto(flat, 48, 48, { fit: 'fill' }));
    expect(image.planes).toBe(3);
    engine.memory.plane(image, 1).forEach((v) => expect(v).toBeCloseTo(0.5, 6));
  });

  it('packs the bytes red, green, blue, 255', () => {
    const picture = leafOf([[1], [0.5], [0]], 1, 1, 'light');
    const image = engine.compute(packedForPage(toCodes(picture, 'srgb')));
    expect([...new Uint8Array(engine.memory.row(image, 0, 0).slice().buffer)]).toEqual([
      255, 188, 0, 255,
    ]);
  });
});
