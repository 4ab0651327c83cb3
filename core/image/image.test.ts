import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  blur,
  codesToLight,
  encodingOf,
  ENCODINGS,
  LINEAR_LIGHT,
  enlarge,
  type FrameFormat,
  frameToLight,
  halve,
  inDomain,
  leaf,
  SRGB_ENCODE,
  toCodes,
  yuv420,
} from '.';
import { Engine } from '../engine';
import { pointwise, imageOp, type ImageNode } from '../graph';
import { cosTurnsd, exp2d, log2d, powd, sinTurnsd, type TableSpec } from '../kernel';
import { bitsThatDiffer, largestError, leafOf, randomPlanes } from '../testing';
import { AP1, between, BT709 } from './matrix';

const engine = new Engine({ limit: 1 << 28, helpers: 0 });
const through = (t: TableSpec, xs: readonly number[]): Float32Array => {
  const node = imageOp({
    shape: 'through',
    inputs: [pointwise(leafOf([xs], xs.length, 1, 'none'))],
    planes: 1,
    domain: 'none',
    tables: [t],
    build: (b) => [b.lookup(0, b.pixel(0)[0]!)],
  });
  return engine.memory.plane(engine.compute(node), 0);
};

describe('our own elementary functions', () => {
  it("agree with the engine's to the last few bits", () => {
    fc.assert(
      fc.property(
        fc.double({ min: -300, max: 300, noNaN: true }),
        (x) => Math.abs(exp2d(x) / Math.pow(2, x) - 1) < 1e-13,
      ),
    );
    fc.assert(
      fc.property(
        fc.double({ min: 1e-300, max: 1e300, noNaN: true }),
        (x) => Math.abs(log2d(x) - Math.log2(x)) < 1e-12,
      ),
    );
    fc.assert(
      fc.property(
        fc.double({ min: -50, max: 50, noNaN: true }),
        (x) =>
          Math.abs(sinTurnsd(x) - Math.sin(x * 2 * Math.PI)) < 1e-12 &&
          Math.abs(cosTurnsd(x) - Math.cos(x * 2 * Math.PI)) < 1e-12,
      ),
    );
    fc.assert(
      fc.property(
        fc.double({ min: 1e-6, max: 1e3, noNaN: true }),
        fc.double({ min: -4, max: 4, noNaN: true }),
        (x, y) => Math.abs(powd(x, y) / Math.pow(x, y) - 1) < 1e-12,
      ),
    );
  });
});

describe('encodings', () => {
  it('match known values of their standards', () => {
    const light = (id: (typeof ENCODINGS)[number], code: number) =>
      encodingOf(id).toLight!.fn(code);
    expect(light('srgb', 0.5)).toBeCloseTo(0.21404114, 7);
    expect(light('bt709', 0.5)).toBeCloseTo(0.18946457, 7);
    expect(light('pq', 0.58068888)).toBeCloseTo(203 / 203, 5);
    expect(light('hlg', 0.75)).toBeCloseTo(1, 6);
    expect(light('acescct', 0.4135884)).toBeCloseTo(0.18, 5);
    expect(light('cineon', 685 / 1023)).toBeCloseTo(1, 9);
    expect(light('cineon', 95 / 1023)).toBeCloseTo(0, 9);
  });

  it.each(ENCODINGS)(
    '%s in and out is the identity within 1 of 65535, over all 16-bit codes, by the kernels',
    (id) => {
      const engine = new Engine({ limit: 1 << 26, helpers: 0 });
      const codes = Float32Array.from({ length: 65536 }, (_, i) => i / 65535);
      const image = engine.compute(
        toCodes(codesToLight(leaf([codes, codes, codes], 256, 256, 'none'), id), id),
      );
      for (let p = 0; p < 3; p++) {
        const worst = engine.memory
          .plane(image, p)
          .reduce((w, v, i) => Math.max(w, Math.abs(v - codes[i]!)), 0);
        expect(worst * 65535).toBeLessThanOrEqual(1);
      }
    },
  );

  it.each(ENCODINGS.filter((id) => !LINEAR_LIGHT.includes(id)))(
    "%s leads to light and back within a twentieth of a 10-bit code, through the kernels' tables",
    (id) => {
      const codes = Array.from(
        { length: 256 },
        (_, i) => (id === 'cineon' ? 95 / 1023 : 0) + (i / 255) * (id === 'cineon' ? 0.8 : 1),
      );
      const back = through(encodingOf(id).fromLight!, [...through(encodingOf(id).toLight!, codes)]);
      // Below one or two codes the inverse of a power has an unbounded slope.
      codes.forEach((c, i) => {
        if (i > 1)
          expect(Math.abs(back[i]! - c)).toBeLessThan(id === 'pq' || id === 'cineon' ? 4e-5 : 1e-5);
      });
    },
  );

  it('keeps black black, white white, and negatives odd', () => {
    expect([...through(SRGB_ENCODE, [0, 1, -0.5, 4])].map((v) => Number(v.toFixed(5)))).toEqual([
      0, 1, -0.73536, 1.8248,
    ]);
  });

  it('converts primaries with white to white', () => {
    const m = between(AP1, BT709);
    [0, 3, 6].forEach((r) => expect(m[r]! + m[r + 1]! + m[r + 2]!).toBeCloseTo(1, 9));
    expect(m[0]).toBeCloseTo(1.705, 3);
  });

  it('leaves no trace of a conversion and its inverse', () => {
    const p = leafOf(randomPlanes(3, 5, 5, 1), 5, 5, 'light');
    expect(inDomain(inDomain(p, 'encoded'), 'light')).toBe(p);
  });
});

describe('resampling', () => {
  const sum = (p: ImageNode) =>
    engine.memory.plane(engine.compute(p), 0).reduce((a, b) => a + b, 0);
  const spot = (w: number, h: number, x: number, y: number) => {
    const v = new Float32Array(w * h);
    v[y * w + x] = 1;
    return leafOf([v], w, h, 'light');
  };

  it('keeps light when halving and enlarging away from the edge', () => {
    expect(sum(halve(spot(64, 64, 31, 32))) * 4).toBeCloseTo(1, 5);
    expect(sum(enlarge(spot(32, 32, 15, 16), 64, 64)) / 4).toBeCloseTo(1, 5);
  });

  it.each([1.3, 3.7, 9, 21])(
    'blurs by a sigma of %d pixels, measured, wherever the light stands',
    (sigma) => {
      const size = 256;
      const spread = (x: number) => {
        const v = engine.memory.plane(engine.compute(blur(spot(size, size, x, 128), sigma)), 0);
        let mean = 0,
          square = 0,
          all = 0;
        v.forEach((p, i) => {
          const d = i % size;
          all += p;
          mean += p * d;
          square += p * d * d;
        });
        return { all, mean: mean / all, sigma: Math.sqrt(square / all - (mean / all) ** 2) };
      };
      const at = [124, 125, 126, 127].map(spread);
      at.forEach((s, i) => {
        expect(s.all).toBeCloseTo(1, 4);
        expect(s.mean).toBeCloseTo(124 + i, 1);
        expect(Math.abs(s.sigma / sigma - 1)).toBeLessThan(0.012);
      });
    },
  );

  it('does not shimmer as a light moves: the peak stays within 0.6 %', () => {
    const peaks = Array.from({ length: 16 }, (_, i) =>
      Math.max(...engine.memory.plane(engine.compute(blur(spot(256, 256, 120 + i, 128), 12)), 0)),
    );
    expect(Math.max(...peaks) / Math.min(...peaks) - 1).toBeLessThan(0.006);
  });

  it.each([
    [1, 1],
    [3, 5],
    [64, 41],
  ] as const)('is the single reference bit for bit at %dx%d', (w, h) => {
    for (const sigma of [0.8, 3, 11])
      expect(
        bitsThatDiffer(engine, blur(leafOf(randomPlanes(3, w, h, 4), w, h, 'light'), sigma)),
      ).toBe(0);
  });
});

describe('frames', () => {
  const format: FrameFormat = {
    width: 4,
    height: 2,
    layout: 'yuv',
    chroma: [2, 2],
    depth: 8,
    alpha: false,
    full: false,
    matrix: 'bt709',
  };
  const grey = (y: number) => ({
    format,
    key: `grey${y}`,
    planes: [new Uint8Array(8).fill(y), new Uint8Array(2).fill(128), new Uint8Array(2).fill(128)],
  });

  it('takes 16 as black, 235 as white and equal chroma as no colour', () => {
    const codes = (y: number) =>
      [0, 1, 2].map(
        (p) =>
          engine.memory.plane(
            engine.compute(toCodes(frameToLight(grey(y), 'bt709'), 'bt709')),
            p,
          )[0]!,
      );
    codes(16).forEach((v) => expect(v).toBeCloseTo(0, 6));
    codes(235).forEach((v) => expect(v).toBeCloseTo(1, 5));
    codes(126).forEach((v) => expect(v).toBeCloseTo(110 / 219, 5));
  });

  it('gives back every luma code and neutral colour on its way out', () => {
    for (const y of [16, 17, 60, 128, 200, 235]) {
      const { luma, chroma } = yuv420(toCodes(frameToLight(grey(y), 'bt709'), 'bt709'));
      const [l, c] = engine.computeAll([luma, chroma]);
      expect(engine.memory.plane(l!, 0)[3]).toBe(y);
      expect([...engine.memory.plane(c!, 0), ...engine.memory.plane(c!, 1)]).toEqual([
        128, 128, 128, 128,
      ]);
    }
  });

  it('agrees with both references', () => {
    const raw = {
      format: { ...format, width: 14, height: 10 },
      key: 'noise',
      planes: [140, 35, 35].map((n, p) =>
        Uint8Array.from({ length: n }, (_, i) => (i * 73 + p * 91) % 256),
      ),
    };
    const light = frameToLight(raw, 'acescct');
    expect(bitsThatDiffer(engine, light)).toBe(0);
    expect(largestError(engine, inDomain(light, 'encoded'))).toBeLessThan(1e-4);
  });
});
