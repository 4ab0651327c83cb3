import { float, type Node } from '../../kernel';
import { type Colour, number } from '../../parameters';
import { linearColour } from '../colour-values';
import { inLines, pixelStep } from '../declare';
import { over } from './over';

const MOST = 12;

/**
 * A gradient between colours at places: inverse distance weighting with squared weights (Shepard,
 * 1968), mixed in linear light.
 */
export const manyPointGradient = pixelStep({
  id: 'many-point-gradient',
  family: 'fill',
  label: 'Many-point gradient',
  help: 'Colours at places of the picture, each running into the next, laid over what is there.',
  domain: 'light',
  alwaysActs: true,
  covering: true,
  parameters: [
    {
      kind: 'colours',
      id: 'places',
      label: 'Places',
      default: [
        [0.2, 0.25, 0.95, 0.6, 0.35],
        [0.8, 0.25, 0.3, 0.4, 0.7],
        [0.25, 0.8, 0.15, 0.2, 0.35],
        [0.8, 0.8, 0.7, 0.25, 0.35],
      ],
    },
    number('softness', 'Softness', 'lines', 1, 1080, 120, { soft: [10, 500] }),
    number('cover', 'Cover', '%', 0, 100, 100),
  ],
  // Unused places have weight 0, so that their number does not change the kernel.
  numbers: (v, at) => {
    const places = v.places.slice(0, MOST);
    const all = Array.from({ length: MOST }, (_, i) => {
      const p = places[i];
      if (!p) return [0, 0, 0, 0, 0, 0];
      return [...inLines([p[0], p[1]], at), 1e4, ...linearColour(p.slice(2) as unknown as Colour)];
    });
    return [v.softness * v.softness, v.cover / 100, ...all.flat()];
  },
  pixel: (c, t) => {
    let sum: Node = float(1e-30);
    let mixed: Node[] = [float(0), float(0), float(0)];
    for (let i = 0; i < MOST; i++) {
      const n = (k: number) => t.n(2 + i * 6 + k);
      const [dx, dy] = [t.x.sub(n(0)), t.y.sub(n(1))];
      const near = float(1).div(dx.mul(dx).add(dy.mul(dy)).add(t.n(0)));
      const weight = near.mul(near).mul(n(2)).mul(1e4);
      sum = sum.add(weight);
      mixed = mixed.map((m, k) => m.add(weight.mul(n(3 + k))));
    }
    return over(
      c,
      mixed.map((m) => m.div(sum)),
      t.n(1),
    );
  },
});
