import { describe, expect, it } from 'vitest';
import { Engine } from '../engine';
import {
  type EncodingId,
  encodingOf,
  ENCODINGS,
  fromWorking,
  inDomain,
  type RawFrame,
  SRGB_DECODE,
  SRGB_ENCODE,
  toWorking,
} from '../image';
import { withDefaults } from '../parameters';
import { lowerStep, CDL_SPACES, type CdlSpace, stepOf } from '../steps';
import { leafOf, randomFrom } from '../testing';
import { type Balance, balanced, balancedCodes, balanceValues, greyUnder } from './balance';
import { bedrockOf } from './bedrock';

const engine = new Engine({ limit: 1 << 26, helpers: 0 });
type Rgb = [number, number, number];
const N = 4096;
const LIST: Balance = {
  slope: [1.21, 0.94, 0.83],
  offset: [-0.043, 0.021, 0.06],
  power: [0.82, 1.13, 1.31],
  saturation: 1.17,
};

/** ASC CDL 1.2, straight from its formula. */
function standard(c: Rgb, { slope, offset, power, saturation }: Balance, hold: boolean): Rgb {
  const held = (v: number) => (hold ? Math.max(0, Math.min(1, v)) : v);
  const graded = c.map((v, i) => {
    const line = held(v * slope[i]! + offset[i]!);
    return line <= 0 ? line : line ** power[i]!;
  }) as Rgb;
  const luma = 0.2126 * graded[0] + 0.7152 * graded[1] + 0.0722 * graded[2];
  return graded.map((v) => held(luma + saturation * (v - luma))) as Rgb;
}
const times = (m: readonly number[], c: Rgb): Rgb =>
  [0, 3, 6].map((r) => m[r]! * c[0] + m[r + 1]! * c[1] + m[r + 2]! * c[2]) as Rgb;
const through = (f: ((x: number) => number) | undefined, c: Rgb): Rgb =>
  f ? (c.map(f) as Rgb) : c;

const random = randomFrom(5);
const codes = [0, 1, 2].map(() => Float32Array.from({ length: N }, () => random() * 1.1 - 0.05));
const at = (planes: readonly ArrayLike<number>[], i: number): Rgb => [
  planes[0]![i]!,
  planes[1]![i]!,
  planes[2]![i]!,
];
const largest = (found: readonly ArrayLike<number>[], wanted: (i: number) => Rgb): number => {
  let most = 0;
  for (let i = 0; i < N; i++)
    wanted(i).forEach((w, p) => {
      most = Math.max(most, Math.abs(found[p]![i]! - w) / Math.max(1, Math.abs(w)));
    });
  return most;
};

describe.each([true, false])('a decision list, held: %s', (hold) => {
  it('on the clip’s code values is the standard’s formula to a millionth', () => {
    const image = engine.compute(
      balancedCodes(leafOf(codes, N, 1, 'none'), { ...LIST, on: 'clip', hold }),
    );
    const found = [0, 1, 2].map((p) => engine.memory.plane(image, p));
    expect(largest(found, (i) => standard(at(codes, i), LIST, hold))).toBeLessThan(1e-6);
  });

  const spaces = Object.keys(CDL_SPACES) as CdlSpace[];
  it.each(
    spaces.flatMap((on) =>
      (on === 'clip' ? ENCODINGS : (['srgb'] as const)).map((encoding) => [on, encoding] as const),
    ),
  )('as a step on %s of a clip in %s is the standard’s formula to a millionth', (on, clip) => {
    const { fromLight, toLight, ...encoding } = encodingOf(
      on === 'clip' ? clip : (on as EncodingId),
    );
    const values = withDefaults(stepOf('cdl')!, { ...balanceValues(LIST), 'acts-on': on, hold });
    const input = leafOf(codes, N, 1, 'encoded');
    const image = engine.compute(
      lowerStep(stepOf('cdl')!, input, values, 1, {
        frame: 0,
        seconds: 0,
        rate: [25, 1] as const,
        seed: 1,
        width: N,
        height: 1,
        encoding: clip,
      }),
    );
    const found = [0, 1, 2].map((p) => engine.memory.plane(image, p));
    // One of the two conversions is steep near black, so a value counts as exact if it is so in
    // either space.
    const id = on === 'clip' ? clip : (on as EncodingId);
    const codesOf = (c: Rgb): Rgb =>
      on === 'srgb'
        ? c
        : through(
            fromLight?.fn,
            times(fromWorking({ ...encoding, id }), through(SRGB_DECODE.fn, c)),
          );
    const workingOf = (c: Rgb): Rgb =>
      on === 'srgb'
        ? c
        : through(SRGB_ENCODE.fn, times(toWorking({ ...encoding, id }), through(toLight?.fn, c)));
    let most = 0;
    for (let i = 0; i < N; i++) {
      const truth = standard(codesOf(at(codes, i)), LIST, hold),
        result = at(found, i);
      const [working, coded] = [workingOf(truth), codesOf(result)];
      const apart = (a: number, b: number) => Math.abs(a - b) / Math.max(1, Math.abs(b));
      result.forEach(
        (v, c) =>
          (most = Math.max(most, Math.min(apart(v, working[c]!), apart(coded[c]!, truth[c]!)))),
      );
    }
    expect(most).toBeLessThan(1e-6);
  });
});

describe('a balance', () => {
  const raw = (code: number): RawFrame => ({
    format: {
      width: 8,
      height: 8,
      layout: 'gray',
      chroma: [1, 1],
      depth: 16,
      alpha: false,
      full: true,
      matrix: 'bt709',
    },
    planes: [new Uint16Array(64).fill(code)],
    key: `grey ${code}`,
  });
  const clip = { encoding: 'bt709', fit: 'fit', pixelAspect: 1 } as const;
  const greyOf = (balance: Balance | null): Rgb => {
    const image = engine.compute(
      inDomain(bedrockOf(raw(30_000), { ...clip, balance }, { width: 8, height: 8 }), 'encoded'),
    );
    return [0, 1, 2].map((p) => engine.memory.plane(image, p)[9]!) as Rgb;
  };

  it.each(Object.keys(CDL_SPACES) as CdlSpace[])(
    'on %s lies on the bedrock, and greys are known without a picture',
    (on) => {
      const light = SRGB_ENCODE.fn(encodingOf('bt709').toLight!.fn(30_000 / 65_535));
      const neutral = { ...LIST, saturation: 1, on };
      const found = greyOf(neutral);
      greyUnder(light, neutral, 'bt709').forEach((v, i) => expect(found[i]!).toBeCloseTo(v, 4));
      expect(greyOf(null)).not.toEqual(found);
    },
  );

  it('that clamps holds what a list lifts beyond white, one that does not keeps it', () => {
    const lift: Balance = {
      slope: [4, 4, 4],
      offset: [0, 0, 0],
      power: [1, 1, 1],
      saturation: 1,
      on: 'clip',
    };
    expect(greyOf({ ...lift, hold: true })[0]).toBeCloseTo(1, 6);
    expect(greyOf(lift)[0]).toBeGreaterThan(1.5);
  });

  it('from before lists said what they act on is as it was', () => {
    const picture = leafOf(codes, N, 1, 'encoded');
    expect(balanced(picture, LIST).key).toBe(
      balanced(picture, { ...LIST, on: 'srgb', hold: false }).key,
    );
  });
});
