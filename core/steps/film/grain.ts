import { type Granularity, log10d, pow10d, stockOf, STOCKS } from '../../film';
import { pointwise, imageOp, type ImageNode } from '../../graph';
import { onColour, SRGB_DECODE, SRGB_ENCODE } from '../../image';
import type { TableSpec } from '../../kernel';
import { choice, number } from '../../parameters';
import { builtStep, FrameContext } from '../declare';
import { grainPicture } from './grain-picture';
import { FILM_GAUGE, gaugeOf } from './halation';
import type { Grain } from './grain-picture';
import { densityTable, developed, filmOf, ratioTable, sigmaOf } from './stage';

/**
 * Density of an encoded value when viewed directly, and its inverse: the density of a film that
 * transmits this light.
 */
const MOST = 2.9;
const densityOf = (v: number): number => Math.min(MOST, -log10d(Math.max(SRGB_DECODE.fn(v), 1e-9)));
const DENSITY: TableSpec = {
  key: 'encoded-to-density',
  layout: { kind: 'floatbits', eMin: -6, eMax: 1, odd: false, low: [0, MOST] },
  fn: (v) => (v < 2 ** -6 ? MOST : densityOf(v)),
};
const ENCODED = densityTable('density-to-encoded', (d) => SRGB_ENCODE.fn(pow10d(-d)));

/** Grain on a picture that no film response made. Its light is taken for a film's transmission. */
function grained(input: ImageNode, grain: Grain, at: FrameContext): ImageNode {
  return imageOp({
    shape: `grained-${input.planes}`,
    inputs: [pointwise(input), pointwise(grainPicture(grain, 3, at))],
    planes: input.planes,
    domain: 'encoded',
    params: ([0, 1, 2] as const).map((c) => sigmaOf(grain, c, input.width)),
    tables: [DENSITY, ENCODED, ratioTable(grain.granularity)],
    build: (b) =>
      onColour(b.pixel(0), (c) =>
        c.map((x, i) => {
          const d = b.lookup(0, x);
          const moved = d.add(b.pixel(1)[i]!.mul(b.lookup(2, d)).mul(b.param(i)));
          // The change of light by the density's change is added, so that without grain every bit
          // stays.
          return x.add(b.lookup(1, moved).sub(b.lookup(1, d)));
        }),
      ),
  });
}

/** Film grain. */
export const grain = builtStep({
  id: 'grain',
  family: 'film',
  label: 'Grain',
  help: 'The grain of a stock at its gauge, new with every frame, the same in every render. Above a film response it lies in its density.',
  domain: 'encoded',
  start: { amount: 100 },
  parameters: [
    number('amount', 'Amount', '%', 0, 4000, 0, {
      soft: [0, 300],
      help: '100 is what the stock’s granularity says.',
    }),
    choice(
      'stock',
      'Stock',
      { film: 'as the film below', ...Object.fromEntries(STOCKS.map((s) => [s.id, s.name])) },
      'film',
      {
        help: 'Where no film response lies directly below, the daylight negative.',
      },
    ),
    FILM_GAUGE,
    number('clouds', 'Clouds', '%', 25, 1000, 100, {
      soft: [50, 200],
      help: 'Their diameter; 100 is the stock’s.',
    }),
    number('colour', 'Colour', '%', 0, 100, 100, {
      help: 'How far the layers’ grain differs; 0 is grey grain.',
    }),
  ],
  build: (input, v, at) => {
    const amount = v.amount / 100;
    if (amount === 0) return input;
    const film = filmOf(input);
    const stock = v.stock === 'film' ? (film?.film.stock ?? STOCKS[0]!) : stockOf(v.stock);
    const own = stock.granularity,
      clouds = v.clouds / 100;
    const colour = v.colour / 100;
    // Grey grain is that of the green layer in all three: of one size and one strength.
    const greyer = ([r, g, b]: Granularity['rms']): Granularity['rms'] => [
      g + (r - g) * colour,
      g,
      g + (b - g) * colour,
    ];
    const granularity: Granularity = {
      ...own,
      rms: greyer(own.rms),
      discs: greyer(own.discs).map((d) => d * clouds) as unknown as Granularity['discs'],
      common: 1 - (1 - own.common) * colour,
    };
    const made: Grain = {
      granularity,
      amount,
      gauge: gaugeOf(v.gauge, film?.gauge),
      seed: at.seed,
    };
    return film ? developed({ ...film, grain: made }, at) : grained(input, made, at);
  },
});
