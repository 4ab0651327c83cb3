import { describe, expect, it } from 'vitest';
import {
  AS_MADE,
  Film,
  measuredGamma,
  negativeDensity,
  printFor,
  reversalDensity,
  sceneLight,
  type Stock,
  STOCKS,
  type Three,
} from '.';
import { Engine } from '../engine';
import { inDomain, SRGB_ENCODE } from '../image';
import { type Values, withDefaults } from '../parameters';
import { lowerSteps, type FilmValues, filmFor, stepOf } from '../steps';
import { leafOf, randomFrom } from '../testing';
import { pushed } from './response';

const filmOf = (stock: Stock, how = AS_MADE) => new Film(stock, printFor(stock), how);
const grey = (stops: number): Three =>
  [0.18, 0.18, 0.18].map((v) => v * 2 ** stops) as unknown as Three;
const shown = (film: Film, light: Three): Three => film.through(film.exposures(light)) as Three;
const STOPS = Array.from({ length: 161 }, (_, i) => -8 + i / 10);
const NEUTRAL = STOCKS.filter((s) => s.crossover.length === 0 && s.age === 0);

/** Oklab's a and b (Ottosson, 2020). */
function oklab([r, g, b]: Three): [number, number] {
  const [l, m, s] = [
    0.4122214708 * r + 0.5363325363 * g + 0.0514459929 * b,
    0.2119034982 * r + 0.6806995451 * g + 0.1073969566 * b,
    0.0883024619 * r + 0.2817188376 * g + 0.6299787005 * b,
  ].map(Math.cbrt) as [number, number, number];
  return [
    1.9779984951 * l - 2.428592205 * m + 0.4505937099 * s,
    0.0259040371 * l + 0.7827717662 * m - 0.808675766 * s,
  ];
}

/** CIE L*a*b* of linear BT.709 light, D65. */
function lab([r, g, b]: Three): Three {
  const xyz = [
    (0.4123908 * r + 0.3575843 * g + 0.1804808 * b) / 0.9504559,
    0.212639 * r + 0.7151687 * g + 0.0721923 * b,
    (0.0193308 * r + 0.1191948 * g + 0.9505322 * b) / 1.0890578,
  ].map((t) => (t > 216 / 24389 ? Math.cbrt(t) : (24389 / 27 / 116) * t + 16 / 116)) as [
    number,
    number,
    number,
  ];
  return [116 * xyz[1] - 16, 500 * (xyz[0] - xyz[1]), 200 * (xyz[1] - xyz[2])];
}
/** CIEDE2000 against the neutral of the same lightness, where its hue terms vanish. */
function fromNeutral(light: Three): number {
  const [, a, b] = lab(light);
  const c = Math.hypot(a, b),
    mean = c / 2,
    g = 0.5 * (1 - Math.sqrt(mean ** 7 / (mean ** 7 + 25 ** 7)));
  const chroma = Math.hypot(a * (1 + g), b);
  return chroma / (1 + 0.045 * (chroma / 2));
}

describe.each(STOCKS.map((s) => [s.id, s] as const))('%s', (_, stock) => {
  const film = filmOf(stock);
  const ramp = STOPS.map((s) => shown(film, grey(s)));

  it('rises with the exposure from −8 to +8 stops in every channel', () => {
    for (const c of [0, 1, 2])
      for (let i = 1; i < ramp.length; i++)
        expect(ramp[i]![c]!).toBeGreaterThanOrEqual(ramp[i - 1]![c]!);
  });
  it('turns its hue by less than 15° a stop where there is colour', () => {
    for (let i = 10; i < ramp.length; i++) {
      const [now, before] = [ramp[i]!, ramp[i - 10]!].map(oklab) as [
        [number, number],
        [number, number],
      ];
      const chroma = (v: readonly number[]) => Math.hypot(v[0]!, v[1]!);
      if (chroma(now) < 0.02 || chroma(before) < 0.02) continue;
      const turn = Math.atan2(
        now[0] * before[1] - now[1] * before[0],
        now[0] * before[0] + now[1] * before[1],
      );
      expect(Math.abs((turn * 180) / Math.PI)).toBeLessThan(15);
    }
  });
  it('gains the gamma that its data say by a stop of push, in every layer', () => {
    const density = stock.kind === 'negative' ? negativeDensity : reversalDensity;
    for (const curve of stock.curves) {
      const gamma = (stops: number) =>
        measuredGamma((x) => density(pushed(curve, stock, stops), x));
      expect(gamma(1) / gamma(0)).toBeCloseTo(1 + stock.push.gamma, 2);
    }
  });
  it('shows an 18 % grey at the rated exposure as its print says', () => {
    if (stock.kind === 'negative')
      expect(shown(film, grey(0))[1]).toBeCloseTo(printFor(stock).grey, 6);
  });
});

it.each(NEUTRAL.map((s) => [s.id, s] as const))(
  '%s is neutral within ΔE 1 from −4 to +4 stops',
  (_, stock) => {
    for (const s of STOPS.filter((v) => Math.abs(v) <= 4))
      expect(fromNeutral(shown(filmOf(stock), grey(s)))).toBeLessThan(1);
  },
);
it('has neutral stocks among its stocks', () => expect(NEUTRAL.length).toBeGreaterThanOrEqual(2));

describe('processing', () => {
  const daylight = STOCKS.find((s) => s.id === 'daylight')!;
  const contrast = (film: Film) => Math.log2(shown(film, grey(1))[1] / shown(film, grey(-1))[1]);
  const chroma = (film: Film) => {
    const [a, b] = oklab(shown(film, [0.3, 0.12, 0.1]));
    return Math.hypot(a, b);
  };
  it('with the bleach skipped is harder and paler, whichever stage it is skipped at', () => {
    for (const kept of [{ silver: 0.7 }, { silverPrint: 0.7 }]) {
      const film = filmOf(daylight, { ...AS_MADE, ...kept });
      expect(contrast(film)).toBeGreaterThan(contrast(filmOf(daylight)));
      expect(chroma(film)).toBeLessThan(chroma(filmOf(daylight)));
    }
  });
  it('a point of printer light is 0.025 of print exposure: four of red take red away, and nothing else', () => {
    const [plain, red] = [filmOf(daylight), filmOf(daylight, { ...AS_MADE, points: [4, 0, 0] })];
    expect(red.dye(0, 0.9)).toBeGreaterThan(plain.dye(0, 0.9));
    expect(red.dye(1, 0.9)).toBe(plain.dye(1, 0.9));
    // Print exposure and negative density trade one for one.
    expect(red.dye(1, 0.9)).toBe(plain.dye(1, 0.9));
    expect(plain.dye(1, 0.9 - 0.1)).toBeCloseTo(
      filmOf(daylight, { ...AS_MADE, points: [0, 4, 0] }).dye(1, 0.9),
      9,
    );
  });
  it("in the other kind's chemistry a negative is looked at itself and a reversal film is printed, both with grey where it was", () => {
    const reversal = STOCKS.find((s) => s.id === 'reversal')!;
    const [a, b] = [daylight, reversal].map((s) => filmOf(s, { ...AS_MADE, cross: true }));
    expect([a!.printed, b!.printed]).toEqual([false, true]);
    for (const film of [a!, b!])
      for (const v of shown(film, grey(0))) expect(v).toBeCloseTo(0.115, 2);
    expect(Math.max(...shown(b!, grey(-2))) - Math.min(...shown(b!, grey(-2)))).toBeGreaterThan(
      0.002,
    );
  });
  it('of old dyes each fades at its own pace', () => {
    const old = filmOf(
      STOCKS.find((s) => s.id === 'reversal')!,
      { ...AS_MADE, years: 60 },
    );
    const [r, g, b] = shown(old, grey(-3));
    expect(g).toBeGreaterThan(r);
    expect(g).toBeGreaterThan(b * 0.9);
  });
});

describe('scene light', () => {
  it('is what a BT.709 camera saw: 18 % grey stands at 40.9 % of its signal', () => {
    const signal = 1.099 * 0.18 ** 0.45 - 0.099;
    expect(sceneLight('bt709', 0)(signal ** 2.4)).toBeCloseTo(0.18, 9);
    expect(sceneLight('bt709', 0)(1)).toBeCloseTo(1, 9);
  });
  it('puts PQ’s grey card of 26 cd/m² at 0.18, and leaves log and HLG clips alone', () => {
    expect(sceneLight('pq', 0)(26 / 203)).toBeCloseTo(0.18, 9);
    for (const id of ['acescct', 'cineon', 'linear', 'hlg'] as const)
      expect(sceneLight(id, 3)(4.2)).toBe(4.2);
  });
  it('lets highlights reach as many stops above clipped white as it is told, and nothing below the knee', () => {
    for (const reach of [1, 2, 5]) {
      const scene = sceneLight('srgb', reach);
      expect(scene(1)).toBeCloseTo(2 ** reach, 6);
      expect(scene(0.05)).toBe(sceneLight('srgb', 0)(0.05));
      for (let l = 0.02; l < 1.4; l += 0.01) expect(scene(l + 0.01)).toBeGreaterThan(scene(l));
    }
  });
});

describe('the kernels', () => {
  const engine = new Engine({ limit: 1 << 28, helpers: 0 });
  const step = stepOf('film-response')!;
  const [W, H] = [64, 48];
  const random = randomFrom(5);
  // Sixteen stops of linear light.
  const planes = [0, 1, 2].map(() =>
    Float32Array.from({ length: W * H }, () => 0.18 * 2 ** (random() * 16 - 8)),
  );
  it.each([
    ...STOCKS.map((s) => ({ stock: s.id })),
    { stock: 'daylight', push: 2, 'red-points': 6, contrast: 25, flare: 1, white: 'xenon' },
    { stock: 'night', bleach: 'print', silver: 80, years: 30 },
    { stock: 'daylight', bleach: 'film', silver: 50 },
    { stock: 'reversal', cross: true },
    { stock: 'daylight', cross: true },
    { stock: 'monochrome', filter: 'orange', exposure: 1.5 },
  ] as Partial<Values>[])('are within 1e-3 of the double model: %j', (asked) => {
    const values = withDefaults(step, { ...asked, softness: 0 });
    const at = {
      frame: 0,
      seconds: 0,
      rate: [25, 1] as const,
      seed: 1,
      width: W,
      height: H,
      encoding: 'acescct' as const,
    };
    const image = engine.compute(
      inDomain(
        lowerSteps([{ step, values, mix: 1, at }], leafOf(planes, W, H, 'light')),
        'encoded',
      ),
    );
    const { film } = filmFor(values as FilmValues);
    const gain = 2 ** (values['exposure'] as number);
    let most = 0;
    for (let i = 0; i < W * H; i++) {
      const light = planes.map((p) => p[i]! * gain) as unknown as Three;
      film.through(film.exposures(light, values['filter'] as string)).forEach((v, p) => {
        const e = SRGB_ENCODE.fn(v);
        most = Math.max(
          most,
          Math.abs(engine.memory.plane(image, p)[i]! - e) / Math.max(1, Math.abs(e)),
        );
      });
    }
    expect(most).toBeLessThan(1e-3);
  });
});
