import { type GaugeId, micronsPerPixel } from '../../film';
import { pointwise, imageOp, type ImageNode } from '../../graph';
import { blur, coarsely, inDomain } from '../../image';
import { exp2d } from '../../kernel';
import { choice, number } from '../../parameters';
import { builtStep, FrameContext } from '../declare';
import { GAUGE_NAMES } from './film-response';
import { developed, filmOf, layersOf } from './stage';

/** The gauge of the film below, or one of its own. */
export const FILM_GAUGE = choice(
  'gauge',
  'Gauge',
  { film: 'as the film below', ...GAUGE_NAMES },
  'film',
  {
    help: 'Where no film response lies directly below, 35 mm.',
  },
);
/** The chosen gauge; "as the film below" resolves to that film's, or 35 mm without one. */
export const gaugeOf = (chosen: string, below: GaugeId | undefined): GaugeId =>
  chosen === 'film' ? (below ?? 'thirty-five') : (chosen as GaugeId);

/** Refractive index of the film base (cellulose triacetate). */
const INDEX = 1.5;
/** Radius at which light returns after total reflection at the back of a base: 2t / √(n² − 1). */
export const ringRadius = (thickness: number): number =>
  (2 * thickness) / Math.sqrt(INDEX * INDEX - 1);
/**
 * Width of the outer Gaussian relative to the inner one, and the radius where their difference
 * peaks, in widths of the inner one.
 */
const OUTER = 2;
const PEAK = 1.9226643; // √(2 ln(q²) / (1 − 1/q²)) at q = 2.

/**
 * Light above the level, spread into a ring: e^(−r²/2a²) − e^(−r²/2b²), normalised to 1. Planes as
 * in `excess`; lengths in pixels.
 */
function ringOf(excess: ImageNode, radius: number): ImageNode {
  const inner = radius / PEAK,
    outer = inner * OUTER;
  // Normalised Gaussians have weights a² and b²; their difference is a² − b².
  const k = 1 / (OUTER * OUTER - 1);
  // Both at the size that the inner one needs, so that only their difference is enlarged.
  return coarsely(excess, inner, (small, left) =>
    imageOp({
      shape: `ring-${excess.planes}`,
      inputs: [pointwise(blur(small, left(outer))), pointwise(blur(small, left(inner)))],
      planes: excess.planes,
      domain: 'none',
      params: [OUTER * OUTER * k, k],
      build: (b) => b.pixel(0).map((v, i) => v.mul(b.param(0)).sub(b.pixel(1)[i]!.mul(b.param(1)))),
    }),
  );
}

/**
 * Exposures with halation. The first `layers` planes are exposures, a further one coverage. The red
 * layer (or the only one) gets `amount` of the light above the level, the green layer `green` of
 * that.
 */
function halated(
  exposures: ImageNode,
  layers: number,
  level: number,
  radius: number,
  amount: number,
  green: number,
): ImageNode {
  const lit = Math.min(2, layers);
  const covered = exposures.planes > layers;
  const excess = imageOp({
    shape: `excess-${exposures.planes}-${layers}`,
    inputs: [pointwise(exposures)],
    planes: lit,
    domain: 'none',
    params: [level],
    // Light is premultiplied, so the level is multiplied by coverage too.
    build: (b) => {
      const c = b.pixel(0);
      return c
        .slice(0, lit)
        .map((v) => v.sub(covered ? c[layers]!.mul(b.param(0)) : b.param(0)).max(0));
    },
  });
  return imageOp({
    shape: `halated-${exposures.planes}-${lit}`,
    inputs: [pointwise(exposures), pointwise(ringOf(excess, radius))],
    planes: exposures.planes,
    domain: exposures.domain,
    params: [amount, amount * green],
    build: (b) =>
      b.pixel(0).map((v, i) => (i < lit ? v.add(b.pixel(1)[i]!.max(0).mul(b.param(i))) : v)),
  });
}

/** Halation: light reflected from the film's back. */
export const halation = builtStep({
  id: 'halation',
  family: 'film',
  label: 'Halation',
  help: 'Light that goes through the film, is thrown back by its base and exposes it again in a ring, the red layer first.',
  domain: 'encoded',
  start: { amount: 9 },
  parameters: [
    number('amount', 'Amount', '%', 0, 100, 0, {
      soft: [0, 30],
      help: 'Light added to the red layer, of all that exceeds the level.',
    }),
    number('level', 'Level', 'stops', -2, 8, 2.2, { soft: [0, 5], help: 'Stops above mid grey.' }),
    number('green', 'Green layer', '%', 0, 100, 28, { help: 'Of what the red layer gets.' }),
    FILM_GAUGE,
    number('base', 'Base', 'µm', 50, 300, 130, {
      help: 'How thick the film’s base is: the ring’s radius is 2t / √(n² − 1).',
    }),
  ],
  build: (input, v, at: FrameContext) => {
    const amount = v.amount / 100;
    if (amount === 0) return input;
    const film = filmOf(input);
    const gauge = gaugeOf(v.gauge, film?.gauge);
    const radius = ringRadius(v.base) / micronsPerPixel(gauge, at.width);
    const level = 0.18 * exp2d(v.level),
      green = v.green / 100;
    if (film)
      return developed(
        {
          ...film,
          exposures: halated(
            film.exposures,
            layersOf(film.film).length,
            level,
            radius,
            amount,
            green,
          ),
        },
        at,
      );
    return inDomain(halated(inDomain(input, 'light'), 3, level, radius, amount, green), 'encoded');
  },
});
