import { pointwise, imageOp, type ImageNode } from '../../graph';
import { inDomain } from '../../image';
import { exp2, exp2d } from '../../kernel';
import { number } from '../../parameters';
import { drift, either, swing } from '../../graph';
import { builtStep, type FrameContext } from '../declare';
import { slowField } from './fields';
import { developed, filmOf, layersOf } from './stage';

/** Flicker and uneven development. */
export const densityFlicker = builtStep({
  id: 'density-flicker',
  family: 'film',
  label: 'Density flicker',
  help: 'Exposure that comes and goes: a crank turned by hand, a shutter, development that is uneven over the frame.',
  domain: 'encoded',
  start: { hand: 0.4, frame: 0.15, mottle: 0.1 },
  parameters: [
    number('hand', 'Hand', 'stops', 0, 3, 0, {
      soft: [0, 1],
      help: 'Slow: how far the exposure sways either way.',
    }),
    number('rate', 'Turns', 'Hz', 0.1, 12, 2, { soft: [0.5, 4], help: 'Of the crank.' }),
    number('frame', 'Each frame', 'stops', 0, 3, 0, {
      soft: [0, 0.6],
      help: 'New with every frame, either way.',
    }),
    number('mottle', 'Mottle', 'stops', 0, 3, 0, {
      soft: [0, 0.6],
      help: 'Uneven over the frame.',
    }),
    number('mottle-rate', 'Mottle moves', 'Hz', 0, 25, 3, { soft: [0, 12] }),
  ],
  build: (input, v, at) => {
    const [hand, each1, mottle] = [v.hand, v.frame, v.mottle];
    if (hand === 0 && each1 === 0 && mottle === 0) return input;
    const stops = hand * swing(at.seed, at.seconds * v.rate) + each1 * either(at.seed, 5, at.frame);
    const field = mottle > 0 ? mottled(v['mottle-rate'], at) : undefined;
    const exposed = (to: ImageNode, layers: number): ImageNode =>
      imageOp({
        shape: `flickers-${to.planes}-${layers}-${field ? 'mottled' : 'even'}`,
        inputs: [pointwise(to), ...(field ? [pointwise(field)] : [])],
        planes: to.planes,
        domain: to.domain,
        params: [exp2d(stops), mottle],
        build: (b) => {
          const gain = field ? b.param(0).mul(exp2(b.pixel(1)[0]!.mul(b.param(1)))) : b.param(0);
          return b.pixel(0).map((x, i) => (i < layers ? x.mul(gain) : x));
        },
      });
    const film = filmOf(input);
    if (film)
      return developed(
        { ...film, exposures: exposed(film.exposures, layersOf(film.film).length) },
        at,
      );
    return inDomain(exposed(inDomain(input, 'light'), 3), 'encoded');
  },
});

/**
 * −1…1, a few blotches across the frame, elongated along it, because chemicals run down the film.
 */
function mottled(rate: number, at: FrameContext): ImageNode {
  const aspect = at.width / at.height,
    t = at.seconds * rate;
  return slowField(
    'mottle',
    [rate, at.seconds],
    at,
    (x, y) =>
      0.7 * drift(at.seed + 21, x * aspect * 2.4, y * 1.3, t) +
      0.3 * drift(at.seed + 22, x * aspect * 5, y * 3, t * 1.4),
  );
}
