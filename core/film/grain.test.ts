import { describe, expect, it } from 'vitest';
import {
  APERTURE,
  type GaugeId,
  GAUGES,
  micronsPerPixel,
  STOCKS,
  throughCircle,
  throughSquare,
} from '.';
import { Engine } from '../engine';
import { grainPicture, sigmaOf } from '../steps';

const engine = new Engine({ limit: 2 ** 31 - 65536, helpers: 0 });
const { granularity } = STOCKS.find((s) => s.id === 'daylight')!;

/** J₁ by its integral (Bessel): (1/π)∫ cos(τ − x sin τ) dτ. */
function j1(x: number): number {
  const n = 200;
  let sum = 0;
  for (let i = 0; i < n; i++) {
    const t = ((i + 0.5) / n) * Math.PI;
    sum += Math.cos(t - x * Math.sin(t));
  }
  return sum / n;
}
const jinc = (x: number): number => (x === 0 ? 1 : (2 * j1(x)) / x);

it('lets through apertures what the spectrum [2J₁(πdf)/(πdf)]² says', () => {
  for (const d of [5.8, 12]) {
    let sum = 0;
    const df = 0.00025;
    for (let f = df / 2; f < 0.6; f += df)
      sum += (jinc(Math.PI * d * f) * jinc(Math.PI * APERTURE * f)) ** 2 * 2 * Math.PI * f * df;
    expect(throughCircle(d, APERTURE) / sum).toBeCloseTo(1, 2);
    const p = 4,
      step = 0.01;
    let square = 0;
    for (let u = step / 2; u < 0.8; u += step)
      for (let v = step / 2; v < 0.8; v += step) {
        const sinc = (f: number) => Math.sin(Math.PI * f * p) / (Math.PI * f * p);
        square += (jinc(Math.PI * d * Math.hypot(u, v)) * sinc(u) * sinc(v)) ** 2 * step * step * 4;
      }
    expect(throughSquare(d, p) / square).toBeCloseTo(1, 1);
  }
});

/** A frame of density noise of one layer at density 1.0. */
function noise(
  gauge: GaugeId,
  width: number,
  height: number,
  layer: 0 | 1 | 2,
  frame = 3,
): Float32Array {
  const grain = { granularity, amount: 1, gauge, seed: 77 };
  const image = engine.compute(
    grainPicture(grain, 3, {
      frame,
      seconds: frame / 25,
      rate: [25, 1] as const,
      seed: 1,
      width,
      height,
    }),
  );
  const sigma = sigmaOf(grain, layer, width);
  return engine.memory.plane(image, layer).map((v) => v * sigma);
}

const CASES = [540, 1080, 2160].flatMap((lines) =>
  (Object.keys(GAUGES) as GaugeId[]).map((gauge) => [gauge, lines] as const),
);

describe.each(CASES)('%s at %d lines', (gauge, lines) => {
  const width = Math.round((lines * 16) / 9),
    height = Math.max(540, Math.round(lines * 0.75)),
    p = micronsPerPixel(gauge, width);
  const layer = 1,
    d = granularity.discs[layer];
  const cov = (dx: number, dy: number): number =>
    (throughSquare(d, p, dx * p, dy * p) / throughCircle(d, APERTURE)) *
    (granularity.rms[layer] / 1000) ** 2;

  it("is as granular through an aperture as the stock's number says, and leaves the mean density alone", () => {
    const field = noise(gauge, width, height, layer);
    const radius = Math.max(APERTURE / p, 8) / 2,
      m = Math.ceil(radius);
    const inside: [number, number][] = [];
    for (let y = -m; y <= m; y++)
      for (let x = -m; x <= m; x++) if (x * x + y * y <= radius * radius) inside.push([x, y]);
    const reach = Math.ceil(d / p) + 1;
    // The sum of the covariances of all pixels in the aperture.
    let expected = 0;
    const has = new Set(inside.map(([x, y]) => `${x},${y}`));
    for (let dy = -reach; dy <= reach; dy++)
      for (let dx = -reach; dx <= reach; dx++)
        expected += cov(dx, dy) * inside.filter(([x, y]) => has.has(`${x + dx},${y + dy}`)).length;
    expected = Math.sqrt(expected) / inside.length;
    const means: number[] = [];
    const step = Math.max(m, Math.floor(Math.sqrt((width * height) / 4000)));
    for (let y = m; y < height - m; y += step)
      for (let x = m; x < width - m; x += step)
        means.push(
          inside.reduce((s, [i, j]) => s + field[(y + j) * width + x + i]!, 0) / inside.length,
        );
    expect(means.length).toBeGreaterThan(1000);
    const mean = means.reduce((a, b) => a + b, 0) / means.length;
    const sigma = Math.sqrt(means.reduce((s, v) => s + (v - mean) ** 2, 0) / means.length);
    expect(Math.abs(sigma / expected - 1)).toBeLessThan(0.1);
    expect(Math.abs(field.reduce((a, b) => a + b, 0) / field.length)).toBeLessThan(0.005);
  });

  it('falls to a half over the lag that discs of its diameter have, pixel included', () => {
    const field = noise(gauge, width, 540, layer);
    const at = (lag: number) => {
      let sum = 0,
        n = 0;
      for (let y = 0; y < 540; y++)
        for (let x = 0; x < width - 16; x++) {
          sum += field[y * width + x]! * field[y * width + x + lag]!;
          n++;
        }
      return sum / n;
    };
    const half = (f: (lag: number) => number): number => {
      const zero = f(0);
      let lag = 1;
      while (f(lag) > zero / 2) lag++;
      const [a, b] = [f(lag - 1) / zero, f(lag) / zero];
      return lag - 1 + (a - 0.5) / (a - b);
    };
    const [measured, stated] = [half(at), half((lag) => cov(lag, 0))];
    expect(Math.abs(measured / stated - 1)).toBeLessThan(0.1);
    // Where a pixel is far smaller than a disc, the half-width is 0.40 of the disc's diameter.
    if (p < d / 4) expect(Math.abs((measured * p) / (0.404 * d) - 1)).toBeLessThan(0.15);
  });
});

it('is another grain in each frame, and the same grain in each run', () => {
  const [a, b, again] = [
    noise('sixteen', 960, 200, 0, 1),
    noise('sixteen', 960, 200, 0, 2),
    noise('sixteen', 960, 200, 0, 1),
  ];
  expect(again).toEqual(a);
  const correlation = a.reduce((s, v, i) => s + v * b[i]!, 0) / a.reduce((s, v) => s + v * v, 0);
  expect(Math.abs(correlation)).toBeLessThan(0.02);
});
