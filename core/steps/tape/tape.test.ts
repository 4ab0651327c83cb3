import { describe, expect, it } from 'vitest';
import { lowerStep, lowerSteps, stepOf, STEPS, type Use } from '..';
import { Engine } from '../../engine';
import type { ImageNode } from '../../graph';
import { type Values, withDefaults } from '../../parameters';
import {
  ACROSS,
  activeSamples,
  afterCopies,
  amplitude,
  butterworth,
  carrierNoise,
  type GradeId,
  GRADES,
  lumaGain,
  RATE,
  SYSTEMS,
} from '../../tape';
import {
  bitsThatDiffer,
  largestError,
  leafOf,
  onSmallRaster,
  randomPlanes,
  shareBeyond,
} from '../../testing';
import { whiteNoise } from './by-row';
import { begun, tapeOf } from './raster';
import { AS_IT_IS, filtered, slid } from './raster-lines';
import { woven } from './raster-ways';
import { noiseWeights } from './tape-noise';
import { signalOf, type SignalValues } from './tape-signal';

const engine = new Engine({ limit: 1 << 30, helpers: 0 });
const at = {
  frame: 7,
  seconds: 7 / 25,
  rate: [25, 1] as const,
  seed: 0x1234567,
  width: 96,
  height: 54,
};
const use = (id: string, values: Partial<Values> = {}, more: Partial<Use['at']> = {}): Use => ({
  step: stepOf(id)!,
  values: withDefaults(stepOf(id)!, values),
  mix: 1,
  at: { ...at, ...more },
});
const planesOf = (p: ImageNode): Float32Array[] => {
  const image = engine.compute(p);
  return Array.from({ length: image.planes }, (_, i) => engine.memory.plane(image, i).slice());
};
const raster = (plane: (x: number, y: number, p: number) => number, rows = 16): ImageNode =>
  leafOf(
    [0, 1, 2].map((p) =>
      Float32Array.from({ length: ACROSS * rows }, (_, i) =>
        plane(i % ACROSS, Math.floor(i / ACROSS), p),
      ),
    ),
    ACROSS,
    rows,
    'none',
  );
/** The first operation that a step does on the raster. */
const workOf = (step: Use) =>
  tapeOf(lowerSteps([step], leafOf(randomPlanes(3, 96, 54, 1), 96, 54, 'encoded')))!.works[0]!;

it('weaves two pictures row by row, the field that comes first from the earlier', () => {
  const [a, b] = [0.25, 0.75].map((v) => raster(() => v));
  const rows = (system: '525' | '625') =>
    [0, 1, 2, 3].map((y) => planesOf(woven(a!, b!, system))[0]![y * ACROSS + 7]);
  expect(rows('625')).toEqual([0.25, 0.75, 0.25, 0.75]);
  expect(rows('525')).toEqual([0.75, 0.25, 0.75, 0.25]);
});

/** Amplitude of a wave of `f` MHz in the middle of a row. */
function contrastOf(row: Float32Array, f: number): number {
  const from = 120,
    length = Math.round((Math.floor((480 * f) / RATE) * RATE) / f);
  let [re, im] = [0, 0];
  for (let i = 0; i < length; i++) {
    const turn = 2 * Math.PI * (f / RATE) * (from + i);
    re += row[from + i]! * Math.cos(turn);
    im += row[from + i]! * Math.sin(turn);
  }
  return (2 * Math.hypot(re, im)) / length;
}
const phaseOf = (row: Float32Array, f: number): number => {
  let [re, im] = [0, 0];
  const length = Math.round((Math.floor((480 * f) / RATE) * RATE) / f);
  for (let i = 0; i < length; i++) {
    const turn = 2 * Math.PI * (f / RATE) * (120 + i);
    re += row[120 + i]! * Math.cos(turn);
    im += row[120 + i]! * Math.sin(turn);
  }
  return Math.atan2(im, re) / (2 * Math.PI);
};

const SIGNALS = Object.keys(GRADES) as GradeId[];
describe.each(SIGNALS)('tape of the grade %s', (grade) => {
  const { luma, chroma, delay } = GRADES[grade];
  const plain = { grade, hue: 0 } as const;
  /** Sweeps a wave through the operation: luma with amplitude 0.2 about grey, chroma about 0. */
  const swept = (f: number, p: number, values: Partial<Values> = plain): Float32Array => {
    const wave = raster(
      (x, _, plane) =>
        (plane === p ? 0.2 * Math.cos(2 * Math.PI * (f / RATE) * x) : 0) + (plane === 0 ? 0.45 : 0),
    );
    const made = planesOf(workOf(use('tape-signal', values))(wave, 1));
    return made[p]!.slice(8 * ACROSS, 9 * ACROSS).map((v) => (p === 0 ? v - 0.45 : v));
  };
  const fallsAt = (p: number): number => {
    const share = (f: number) => contrastOf(swept(f, p), f) / 0.2;
    let low = 0.1,
      high = 6;
    for (let i = 0; i < 16; i++) {
      const middle = (low + high) / 2;
      if (share(middle) > Math.SQRT1_2) low = middle;
      else high = middle;
    }
    return low;
  };
  it('has luma and colour down by 3 dB where its data say', () => {
    expect(Math.abs(fallsAt(0) / luma.width - 1)).toBeLessThan(0.05);
    expect(Math.abs(fallsAt(1) / chroma.width - 1)).toBeLessThan(0.05);
  });
  it('lags with its colour by as many nanoseconds', () => {
    // From the phase of chroma against luma. With bleed the delay is that of low frequencies;
    // without bleed, of all.
    for (const [f, more, bleed] of [
      [0.05, 0, 100],
      [0.05, 200, 100],
      [0.1, 0, 0],
      [0.3, 200, 0],
    ] as const) {
      const [c, y] = [swept(f, 2, { ...plain, delay: more, bleed }), swept(f, 0, plain)];
      const period = 1000 / f;
      const late = ((((phaseOf(c, f) - phaseOf(y, f)) * period) % period) + period) % period;
      expect(Math.abs(late - (delay + more))).toBeLessThan(4);
    }
  });
  it('loses bandwidth with every copy as its filter’s order says', () => {
    const weights = signalOf(withDefaults(stepOf('tape-signal')!, plain) as SignalValues).chroma;
    for (const n of [2, 3]) {
      const f = afterCopies(chroma.width, chroma.order, n);
      expect(Math.abs(amplitude(weights, f) ** n - Math.SQRT1_2)).toBeLessThan(0.03);
    }
  });
  it('has noise with the spectrum of a demodulated carrier in luma', () => {
    const rows = 256;
    const noise = planesOf(
      filtered(
        whiteNoise(
          raster(() => 0, rows),
          5,
          3,
        ),
        [noiseWeights(grade).luma, AS_IT_IS, AS_IT_IS],
      ),
    )[0]!;
    const shape = carrierNoise(
      GRADES[grade].deEmphasis,
      lumaGain(luma.width, luma.order, luma.peak),
    );
    // Power per band against the response, each relative to its sum.
    const bands = Array.from({ length: 12 }, (_, i) => 0.4 + i * 0.18 * luma.width * 0.45);
    const powers = bands.map((f) => {
      let sum = 0;
      for (let y = 0; y < rows; y++)
        for (const g of [f - 0.04, f, f + 0.04])
          sum += contrastOf(noise.subarray(y * ACROSS, (y + 1) * ACROSS), g) ** 2;
      return sum;
    });
    const stated = bands.map((f) => shape(f) ** 2);
    const total = (of: number[]) => of.reduce((a, b) => a + b, 0);
    powers.forEach((v, i) =>
      expect(
        Math.abs(10 * Math.log10(v / total(powers) / (stated[i]! / total(stated)))),
      ).toBeLessThan(1),
    );
    const sigma = Math.sqrt(noise.reduce((s, v) => s + v * v, 0) / noise.length);
    expect(sigma).toBeCloseTo(1, 1);
  });
});

it('is a Butterworth response where nothing peaks it', () => {
  const gain = butterworth(0.5, 2);
  expect(20 * Math.log10(gain(0.5))).toBeCloseTo(-3.01, 2);
  expect(20 * Math.log10(gain(5) / gain(10))).toBeCloseTo(12.04, 1);
});

describe('the raster', () => {
  it('holds the frame in the middle of 720 samples: 52 µs of 625 lines, 52.7 of 525', () => {
    expect(activeSamples('625')).toBeCloseTo(702, 6);
    expect(activeSamples('525')).toBeCloseTo(711.45, 6);
    for (const system of ['525', '625'] as const) {
      const white = leafOf(
        [0, 1, 2].map((_, p) =>
          Float32Array.from({ length: 300 * 200 }, (_, i) => (p === 0 ? (i % 300) / 300 : 0.5)),
        ),
        300,
        200,
        'encoded',
      );
      const { source } = begun(white, system);
      expect([source.width, source.height]).toEqual([720, SYSTEMS[system].rows]);
    }
  });
  it('brings a smooth picture back as it was', () => {
    const [W, H] = [320, 180];
    const smooth = leafOf(
      [0, 1, 2].map((p) =>
        Float32Array.from(
          { length: W * H },
          (_, i) => 0.5 + 0.3 * Math.sin((i % W) / (18 + p)) * Math.cos(Math.floor(i / W) / 15),
        ),
      ),
      W,
      H,
      'encoded',
    );
    const made = planesOf(
      lowerSteps([use('tape-noise', { luma: 1e-6 }, { width: W, height: H })], smooth),
    );
    planesOf(smooth).forEach((plane, p) => {
      for (let y = 4; y < H - 4; y++)
        for (let x = 4; x < W - 4; x++)
          expect(Math.abs(made[p]![y * W + x]! - plane[y * W + x]!)).toBeLessThan(0.01);
    });
  });
  it('is left once, however many tape steps lie on one another', () => {
    const made = lowerSteps(
      [
        use('tape-signal'),
        use('tape-noise', { luma: 100 }),
        use('line-jitter', { jitter: 80 }),
        use('dubbing', { copies: 3 }),
      ],
      leafOf(randomPlanes(3, 96, 54, 2), 96, 54, 'encoded'),
    );
    const shapes: string[] = [];
    const seen = new Set<ImageNode>();
    const visit = (n: ImageNode): void => {
      if (seen.has(n)) return;
      seen.add(n);
      if (n.kind !== 'operation') return;
      shapes.push(n.shape);
      n.inputs.forEach((i) => visit(i.from));
    };
    visit(made);
    expect(shapes.filter((s) => s.includes('-back-'))).toHaveLength(1);
    expect(shapes.filter((s) => s.includes('-ycc'))).toHaveLength(1);
  });
});

describe('dubbing', () => {
  const steps = [
    use('tape-signal', { hue: 9 }),
    use('tape-noise', { luma: 120, colour: 80 }),
    use('dropouts', { amount: 12 }),
    use('line-jitter', { jitter: 120 }),
  ];
  const input = leafOf(randomPlanes(3, 96, 54, 3), 96, 54, 'encoded');
  it('is D₂ after D₁ on the raster, bit for bit, each generation with faults of its own', () => {
    const one = tapeOf(lowerSteps(steps, input))!,
      two = tapeOf(lowerSteps([...steps, use('dubbing', { copies: 2 })], input))!;
    const direct = one.works.reduce((now, work) => work(now, 2), one.raster);
    expect(planesOf(two.raster)).toEqual(planesOf(direct));
    const same = one.works.reduce((now, work) => work(now, 1), one.raster);
    expect(planesOf(same)).not.toEqual(planesOf(direct));
  });
});

describe('moved lines', () => {
  it('wrap: with a white picture nothing dark comes in, whatever moves it', () => {
    const white = leafOf(
      [0, 1, 2].map(() => new Float32Array(96 * 54).fill(0.7)),
      96,
      54,
      'encoded',
    );
    for (const [id, values] of [
      ['line-jitter', { jitter: 4000, wave: 20000 }],
      ['head-switch', { rows: 40, shift: 12, skew: 8, noise: 0 }],
    ] as const)
      for (const plane of planesOf(lowerSteps([use(id, values)], white)))
        for (const v of plane) expect(v).toBeGreaterThan(0.69);
  });
  it('are read between samples once, however many slides follow one another', () => {
    const wave = raster((x) => Math.sin(x / 9));
    const by = (from: ImageNode, samples: number) =>
      slid(from, 'by', [samples], [], (b) => b.param(0));
    expect(planesOf(by(by(wave, 3.25), 4.25))).toEqual(planesOf(by(wave, 7.5)));
    // A shift by whole samples does not interpolate.
    const [moved] = planesOf(by(wave, 5)),
      [still] = planesOf(wave);
    for (let x = 10; x < ACROSS; x++) expect(moved![x]).toBeCloseTo(still![x - 5]!, 6);
  });
  it('show blanking in a tracking band only if asked', () => {
    const white = leafOf(
      [0, 1, 2].map(() => new Float32Array(96 * 54).fill(0.9)),
      96,
      54,
      'encoded',
    );
    const darkest = (blanking: boolean) =>
      Math.min(
        ...planesOf(
          lowerSteps(
            [
              use('tracking-band', {
                strength: 100,
                height: 300,
                position: 50,
                wander: 0,
                shift: 12,
                blanking,
              }),
            ],
            white,
          ),
        )[0]!,
      );
    expect(darkest(false)).toBeGreaterThan(0.15);
    expect(darkest(true)).toBeLessThan(0.05);
  });
});

describe.each(
  STEPS.filter((s) => s.family === 'tape' && s.id !== 'channel-drift').map(
    (s) => [s.id, s] as const,
  ),
)('%s', (_, step) => {
  it("gives the single reference's bits on the raster, and stays near the double one", () => {
    for (const seed of [1, 2]) {
      const made = onSmallRaster(step, at, seed);
      expect(bitsThatDiffer(engine, made)).toBe(0);
      if (step.jumps) expect(shareBeyond(engine, made, 1e-3)).toBeLessThan(0.02);
      else expect(largestError(engine, made)).toBeLessThan(2e-3);
    }
  });
});

it("comes back to the frame with the single reference's bits, with and without coverage", () => {
  for (const planes of [3, 4]) {
    const input = leafOf(randomPlanes(planes, 23, 17, planes), 23, 17, 'encoded');
    expect(
      bitsThatDiffer(
        engine,
        lowerStep(stepOf('scanlines')!, input, withDefaults(stepOf('scanlines')!, { bend: 6 }), 1, {
          ...at,
          width: 23,
          height: 17,
        }),
      ),
    ).toBe(0);
  }
}, 240_000);
