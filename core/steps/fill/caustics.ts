import { float, type Node, sinTurns } from '../../kernel';
import { cosTurnsd, exp2d, sinTurnsd } from '../../kernel/exact';
import { linearColour } from '../colour-values';
import { type Colour, colour, num, number, type PixelStep, secondsOf } from '../declare';
import { over } from './over';

const square = (x: number): number => x * x;
/** Waves on the water: which way (turns), and how long beside the size. */
const WAVES = [
  [0.03, 1],
  [0.19, 0.81],
  [0.37, 0.67],
  [0.52, 0.92],
  [0.68, 0.58],
  [0.83, 0.74],
  [0.94, 0.49],
  [0.28, 0.43],
] as const;

/**
 * Light on the ground of shallow water. The surface is a sum of waves, h; each ray is bent by its slope, so that an area
 * of the surface lights one det(I + D·H) as large, H being h's second derivatives and D the depth: where that is nearly 0
 * the light gathers. Waves run as deep water has them, ω² = g·k (Airy).
 */
export const caustics: PixelStep = {
  id: 'caustics',
  family: 'fill',
  label: 'Caustics',
  help: 'The net of light that waves cast on the ground of water, moving, laid over what is there.',
  domain: 'light',
  alwaysActs: true,
  covering: true,
  parameters: [
    colour('colour', 'Colour', [0.85, 0.95, 1]),
    number('stops', 'Brightness', 'stops', -6, 4, -1, { soft: [-4, 2] }),
    number('size', 'Size', 'lines', 20, 1080, 180, { soft: [40, 500] }),
    number('depth', 'Depth', '%', 0, 200, 60, { help: 'How far the light has run together.' }),
    number('softness', 'Softness', '%', 1, 100, 20),
    number('speed', 'Speed', '%', 0, 400, 100, { soft: [0, 200] }),
    number('cover', 'Cover', '%', 0, 100, 100),
  ],
  numbers: (v, at) => {
    const size = num(v, 'size'),
      seconds = secondsOf(at) * (num(v, 'speed') / 100);
    const waves = WAVES.flatMap(([turn, length], i) => {
      const wave = size * length;
      // One cell of the usual size passes in about a second and a half; shorter waves run slower, as √length.
      const passed = (seconds * 0.65) / Math.sqrt(length) + i * 0.37;
      return [cosTurnsd(turn) / wave, sinTurnsd(turn) / wave, passed - Math.floor(passed)];
    });
    const light = linearColour(v['colour'] as Colour).map((c) => c * exp2d(num(v, 'stops')));
    return [(num(v, 'depth') / 100) * 0.55, square(num(v, 'softness') / 100), num(v, 'cover') / 100, ...light, ...waves];
  },
  pixel: (c, t) => {
    let [xx, xy, yy]: [Node, Node, Node] = [float(0), float(0), float(0)];
    WAVES.forEach(([turn], i) => {
      const n = (k: number) => t.n(6 + i * 3 + k);
      const [dx, dy] = [cosTurnsd(turn), sinTurnsd(turn)];
      // The second derivative along its own way; each wave is as steep as the next.
      const bend = sinTurns(
        t.x
          .mul(n(0))
          .add(t.y.mul(n(1)))
          .sub(n(2)),
      ).mul(0.4);
      xx = xx.add(bend.mul(dx * dx));
      xy = xy.add(bend.mul(dx * dy));
      yy = yy.add(bend.mul(dy * dy));
    });
    const d = t.n(0);
    const [a, b, e] = [xx.mul(d).add(1), yy.mul(d).add(1), xy.mul(d)];
    const area = a.mul(b).sub(e.mul(e));
    const bright = float(1).div(area.mul(area).add(t.n(1)).sqrt());
    return over(
      c,
      [0, 1, 2].map((i) => bright.mul(t.n(3 + i))),
      t.n(2),
    );
  },
};
