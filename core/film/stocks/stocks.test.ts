import { readFileSync } from 'node:fs';
import Ajv from 'ajv/dist/2020';
import { describe, expect, it } from 'vitest';
import { AS_MADE, Film, printFor, type Stock, STOCKS } from '..';

const fits = new Ajv({ strict: false }).compile(
  JSON.parse(readFileSync('docs/stock.schema.json', 'utf8')) as object,
);
const sum = (row: readonly number[]): number => row.reduce((a, b) => a + b, 0);

describe.each(STOCKS.map((s) => [s.id, s] as const))('the stock %s', (_, stock) => {
  it('is as docs/stock.schema.json says', () => {
    fits(stock);
    expect(fits.errors).toBeNull();
  });
  it('has rows that sum to 1, so that a neutral exposure is one', () => {
    for (const rows of [
      stock.sensitivity,
      stock.interlayer,
      stock.dyes,
      Object.values(stock.filters ?? {}),
    ])
      for (const r of rows) expect(sum(r)).toBeCloseTo(1, 9);
  });
});

describe('a stock that nobody made', () => {
  // The simplest stock the schema allows: equal curves, no crosstalk between layers.
  const one = { base: 0.1, gamma: 0.7, start: -1.4, toe: 0.2, range: 2, shoulder: 0.2 };
  const own = [
    [1, 0, 0],
    [0, 1, 0],
    [0, 0, 1],
  ];
  const made = {
    id: 'made-up',
    name: 'Made up',
    help: '',
    kind: 'negative',
    layers: 'colour',
    speed: 160,
    sensitivity: own,
    curves: [one, one, one],
    interlayer: own,
    dyes: own,
    sharpness: [0, 1, 2].map(() => ({ half: 50, overshoot: 0, reach: 10 })),
    granularity: { rms: [5, 5, 5], discs: [6, 6, 6], over: [[1, 1]], common: 0 },
    push: { gamma: 0.1, speed: 0.3, fog: 0 },
    cross: [0, 1, 2].map(() => ({ ...one, gamma: 1.2, start: 0.7 })),
    fading: { loss: [0, 0, 0], stain: [0, 0, 0] },
    age: 0,
    crossover: [],
  };
  it('fits the schema, is neutral and rises', () => {
    expect(fits(made)).toBe(true);
    const film = new Film(made as unknown as Stock, printFor(made as unknown as Stock), AS_MADE);
    let last = 0;
    for (let s = -6; s <= 6; s++) {
      const light = film.through(film.exposures([0.18 * 2 ** s, 0.18 * 2 ** s, 0.18 * 2 ** s]));
      expect(Math.max(...light) - Math.min(...light)).toBeLessThan(1e-9);
      expect(light[1]).toBeGreaterThan(last);
      last = light[1];
    }
  });
  it('is refused where something is missing or of another kind', () => {
    const { speed: _, ...without } = made;
    for (const broken of [
      without,
      { ...made, kind: 'slide' },
      { ...made, curves: [one] },
      { ...made, wobble: 1 },
    ])
      expect(fits(broken)).toBe(false);
  });
});
