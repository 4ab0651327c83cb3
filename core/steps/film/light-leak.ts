import { pointwise, imageOp, type ImageNode } from '../../graph';
import { inDomain } from '../../image';
import { exp2d, expd } from '../../kernel';
import { choice, number, type ValueOf, type ValuesOf } from '../../parameters';
import { drift, sway } from '../../graph';
import { builtStep, type FrameContext } from '../declare';
import { slowField } from './fields';
import { developed, filmOf, layersOf } from './stage';

/** Order in which light through the base reaches the layers; the mask passes red first. */
const REACHED = [1, 0.34, 0.07] as const;
/** Sides that light comes from. */
export const SIDES = choice(
  'side',
  'From',
  {
    left: 'the left',
    right: 'the right',
    top: 'above',
    bottom: 'below',
    'both-sides': 'both sides',
  },
  'right',
);

/** A side that light comes from. */
export type Side = ValueOf<typeof SIDES>;

/** Distance from its edge, in shares of the frame's height. */
export function fromEdge(side: Side, x: number, y: number, aspect: number): number {
  switch (side) {
    case 'left':
      return x * aspect;
    case 'right':
      return (1 - x) * aspect;
    case 'both-sides':
      return Math.min(x, 1 - x) * aspect;
    case 'top':
      return y;
    case 'bottom':
      return 1 - y;
  }
}

const PARAMETERS = [
  number('amount', 'Amount', 'stops', -8, 8, -8, {
    soft: [-8, 6],
    neutral: -8,
    help: 'Of its brightest place, against clipped white; −8 is none.',
  }),
  SIDES,
  number('reach', 'Reach', '%', 2, 200, 40, { soft: [10, 100], help: 'Of the frame’s height.' }),
  number('rate', 'Moves', 'Hz', 0, 12, 0.6, { soft: [0, 3] }),
  number('steady', 'Steady', '%', 0, 100, 25, {
    help: 'What is left of it between its swellings.',
  }),
] as const;

/** Leaked light, 1 at its brightest: from its edge inwards, in wandering tongues. */
function leakField(v: ValuesOf<typeof PARAMETERS>, at: FrameContext): ImageNode {
  const [reach, rate, steady] = [v.reach / 100, v.rate, v.steady / 100];
  const side = v.side,
    aspect = at.width / at.height,
    t = at.seconds * rate;
  const swell = steady + (1 - steady) * Math.max(0, 0.25 + 0.95 * sway(at.seed + 3, t * 0.8));
  return slowField(`leak-${side}`, [reach, rate, steady, at.seconds], at, (x, y) => {
    const depth = fromEdge(side, x, y, aspect);
    const [u, w] = [x * aspect * 1.6, y * 1.6];
    const tongue =
      0.62 + 0.38 * drift(at.seed, u, w, t) + 0.22 * drift(at.seed + 1, u * 2.3, w * 2.3, t * 1.7);
    const far = Math.max(0.02, reach * tongue);
    return swell * expd(-((depth / far) * (depth / far)));
  });
}

/** Light that leaks into the camera. */
export const lightLeak = builtStep({
  id: 'light-leak',
  family: 'film',
  label: 'Light leak',
  help: 'Light that got into the camera from an edge and wanders: red first, then yellow, then white. Above a film response it exposes the film.',
  domain: 'encoded',
  start: { amount: 0.5 },
  parameters: PARAMETERS,
  build: (input, v, at) => {
    const stops = v.amount;
    if (stops <= -8) return input;
    const field = leakField(v, at),
      gain = exp2d(stops);
    const added = (to: ImageNode, layers: number): ImageNode =>
      imageOp({
        shape: `leaked-${to.planes}-${layers}`,
        inputs: [pointwise(to), pointwise(field)],
        planes: to.planes,
        domain: to.domain,
        params: layers === 1 ? [gain * REACHED[0]] : REACHED.map((r) => r * gain),
        build: (b) => {
          const c = b.pixel(0),
            cover = c[layers];
          return c.map((x, i) => {
            if (i >= layers) return x;
            const light = b.pixel(1)[0]!.mul(b.param(i));
            return x.add(cover ? light.mul(cover) : light);
          });
        },
      });
    const film = filmOf(input);
    if (film)
      return developed(
        { ...film, exposures: added(film.exposures, layersOf(film.film).length) },
        at,
      );
    return inDomain(added(inDomain(input, 'light'), 3), 'encoded');
  },
});
