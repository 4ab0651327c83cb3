import {
  AS_MADE,
  Film,
  GAUGES,
  isDisplayCoded,
  printFor,
  type Processing,
  sceneLight,
  stockOf,
  STOCKS,
  type Three,
} from '../../film';
import { pointwise, Hasher, imageOp, type ImageNode } from '../../graph';
import { type EncodingId, inDomain, onColour, SRGB_DECODE, SRGB_ENCODE } from '../../image';
import { exp2d, log2d, Remembered, type TableSpec } from '../../kernel';
import { choice, flag, number, optionsFrom, type ValuesOf } from '../../parameters';
import { builtStep, type FrameContext, type Plot } from '../declare';
import { developed, layersOf } from './stage';

/**
 * Projector lights as linear BT.709, the largest channel 1: a xenon short arc (5900 K) and a
 * tungsten lamp (3200 K, half adapted to).
 */
const WHITES = {
  neutral: [1, 1, 1],
  xenon: [1, 0.965, 0.9],
  tungsten: [1, 0.87, 0.68],
} as const satisfies Record<string, Three>;

const FILTERS = {
  none: 'none',
  yellow: 'yellow',
  orange: 'orange',
  red: 'red',
  green: 'green',
  blue: 'blue',
};
/** Names of the gauges, by id. */
export const GAUGE_NAMES = optionsFrom(GAUGES, (g) => g.label);

const points = <const Id extends string>(id: Id, label: string) =>
  number(id, label, 'points', -40, 40, 0, {
    soft: [-16, 16],
    help: 'Printer light: 0.025 of log₁₀ exposure a point.',
  });

const PARAMETERS = [
  choice('stock', 'Stock', Object.fromEntries(STOCKS.map((s) => [s.id, s.name])), 'daylight'),
  choice('gauge', 'Gauge', GAUGE_NAMES, 'thirty-five'),
  number('exposure', 'Exposure', 'stops', -8, 8, 0, { soft: [-3, 3] }),
  number('highlights', 'Highlights', 'stops', 0, 8, 2, {
    soft: [0, 5],
    help: 'How far above clipped white the scene is taken to have reached; log clips hold their own highlights.',
  }),
  number('push', 'Push', 'stops', -2, 4, 0, { soft: [-1, 3] }),
  choice('filter', 'Taking filter', FILTERS, 'none', { help: 'Of monochrome stock.' }),
  points('red-points', 'Red light'),
  points('green-points', 'Green light'),
  points('blue-points', 'Blue light'),
  number('contrast', 'Contrast', '%', -60, 60, 0, {
    soft: [-30, 30],
    help: 'Of the print stock; film that is looked at itself has none.',
  }),
  choice(
    'bleach',
    'Bleach',
    { none: 'as usual', film: 'skipped on the film', print: 'skipped on the print' },
    'none',
  ),
  number('silver', 'Silver kept', '%', 0, 100, 60),
  flag('cross', 'Cross process', false, {
    help: "Developed in the other kind's chemistry: a reversal film as a negative, a negative as a reversal film.",
  }),
  number('years', 'Years', 'years', 0, 100, 0, {
    help: 'How long its dyes have faded, each at its own pace.',
  }),
  number('softness', 'Softness', '%', 0, 400, 100, {
    soft: [0, 200],
    help: "100 is what the stock's data say for its gauge.",
  }),
  number('flare', 'Flare', '%', 0, 10, 0.2, { soft: [0, 2] }),
  choice(
    'white',
    'Projector',
    { neutral: 'neutral', xenon: 'xenon', tungsten: 'tungsten' },
    'neutral',
  ),
] as const;
/** How a film is exposed, developed, printed and projected. */
export type FilmValues = ValuesOf<typeof PARAMETERS>;

function processingOf(v: FilmValues): Processing {
  const silver = v.silver / 100;
  return {
    ...AS_MADE,
    push: v.push,
    cross: v.cross,
    silver: v.bleach === 'film' ? silver : 0,
    silverPrint: v.bleach === 'print' ? silver : 0,
    points: [v['red-points'], v['green-points'], v['blue-points']],
    printContrast: 1 + v.contrast / 100,
    years: v.years,
    flare: v.flare / 100,
    white: WHITES[v.white],
  };
}

const films = new Remembered<Film>(24);
/** A stock with its processing, and a name for cache keys; from a small cache. */
export function filmFor(v: FilmValues): { film: Film; name: string } {
  const stock = stockOf(v.stock),
    how = processingOf(v);
  const h = new Hasher().text(stock.id).text(JSON.stringify(how));
  const name = h.hex();
  return { film: films.of(name, () => new Film(stock, printFor(stock), how)), name };
}

/** Scene light from a picture's light, or directly from its encoded values. */
function sceneTable(encoding: EncodingId, reach: number, from: 'light' | 'encoded'): TableSpec {
  const scene = sceneLight(encoding, reach);
  const fn = from === 'light' ? scene : (v: number) => scene(SRGB_DECODE.fn(v));
  const least = 2 ** (from === 'light' ? -24 : -10),
    most = 2 ** (from === 'light' ? 14 : 6);
  return {
    key: `scene-${from}-${encoding}-${reach}`,
    layout: {
      kind: 'floatbits',
      eMin: from === 'light' ? -24 : -10,
      eMax: from === 'light' ? 14 : 6,
      odd: false,
      low: [fn(least) / least, 0],
      bits: 7,
    },
    fn: (l) => (l < least ? (l * fn(least)) / least : fn(Math.min(l, most))),
  };
}

/** Layer exposures of a picture: its scene light through each layer's sensitivity. */
function exposuresOf(input: ImageNode, film: Film, v: FilmValues, at: FrameContext): ImageNode {
  const encoding = at.encoding ?? 'srgb';
  const layers = layersOf(film);
  const rows = film.sensitivities(v.filter);
  const gain = exp2d(v.exposure);
  // An encoded picture is not converted to light first.
  const light = inDomain(input, 'light'),
    from = light.kind === 'operation' && light.shape.startsWith('convert-') ? input : light;
  const stretched = isDisplayCoded(encoding) || from.domain === 'encoded';
  return imageOp({
    shape: `exposed-${from.planes}-${layers.length}-${stretched ? 'scene' : 'as-it-is'}`,
    inputs: [pointwise(from)],
    planes: layers.length + (from.planes === 4 ? 1 : 0),
    domain: 'none',
    params: layers.flatMap((c) => rows[c].map((k) => k * gain)),
    tables: stretched
      ? [sceneTable(encoding, v.highlights, from.domain === 'encoded' ? 'encoded' : 'light')]
      : [],
    build: (b) =>
      onColour(b.pixel(0), (c) => {
        const scene = stretched ? c.map((x) => b.lookup(0, x)) : c;
        return layers.map((_, r) =>
          scene.map((x, i) => x.mul(b.param(r * 3 + i))).reduce((s, x) => s.add(x)),
        );
      }),
  });
}

/** Density of each layer and screen light, over scene light in stops from mid grey. */
function plotOf(v: FilmValues, encoding: EncodingId): Plot {
  const { film } = filmFor(v);
  const [from, to] = [-8, 8];
  const over = (f: (exposure: number) => number): [number, number][] =>
    Array.from({ length: 65 }, (_, i) => {
      const stops = from + ((to - from) * i) / 64;
      return [stops, f(0.18 * exp2d(stops + v.exposure))];
    });
  const scene = sceneLight(encoding, v.highlights);
  const names = ['red', 'green', 'blue'] as const;
  const layers = layersOf(film).map((c) => ({
    name: layersOf(film).length === 1 ? 'density' : `${names[c]} layer`,
    of: layersOf(film).length === 1 ? ('all' as const) : names[c],
    points: over((e) => film.developed(c, e) + film.curves[c].base),
  }));
  // Encoded screen light, scaled to the density axis.
  const screen = over((e) => SRGB_ENCODE.fn(film.through([e, e, e])[1]) * MOST_DENSITY);
  return {
    x: { label: 'stops from mid grey', from, to },
    y: { label: 'density', from: 0, to: MOST_DENSITY },
    lines: [...layers, { name: 'on the screen', of: 'all', points: screen }],
    place: (tone) => log2d(Math.max(scene(SRGB_DECODE.fn(tone)), 1e-6) / 0.18),
  };
}
/** Upper end of the density axis. */
const MOST_DENSITY = 3.6;

/** The response of a film stock. */
export const filmResponse = builtStep({
  id: 'film-response',
  family: 'film',
  label: 'Film response',
  help: 'Exposes the scene on a film stock, develops it, prints it and projects it. Film steps directly above act inside it.',
  domain: 'encoded',
  alwaysActs: true,
  plot: plotOf,
  parameters: PARAMETERS,
  build: (input, v, at) => {
    const { film, name } = filmFor(v);
    return developed(
      {
        film,
        name,
        gauge: v.gauge,
        softness: v.softness / 100,
        exposures: exposuresOf(input, film, v, at),
      },
      at,
    );
  },
});
