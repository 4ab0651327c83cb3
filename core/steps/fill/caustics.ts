import { cosTurns, cosTurnsd, exp2d, float, type Node, sinTurns, sinTurnsd } from '../../kernel';
import { colour, number } from '../../parameters';
import { linearColour } from '../colour-values';
import { pixelStep, type PixelTools } from '../declare';
import { over } from './over';

const square = (x: number): number => x * x;
/** Waves on the water: direction (turns), and length relative to the size. */
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

const TURN = 6.283185307179586;
/** How strongly each wave refracts; equal for all, so longer waves are higher. */
const BEND = 0.4;

/**
 * Sums over the waves at a place. Each wave has a phase in turns, a length in lines and a
 * direction.
 */
function sums(
  t: PixelTools,
  x: Node,
  y: Node,
  count: number,
  f: (wave: Node, length: Node, dx: number, dy: number) => readonly Node[],
): Node[] {
  let all: Node[] = Array.from({ length: count }, () => float(0));
  WAVES.forEach(([turn], i) => {
    const n = (k: number) => t.n(6 + i * 4 + k);
    const wave = x
      .mul(n(0))
      .add(y.mul(n(1)))
      .sub(n(2));
    const own = f(wave, n(3), cosTurnsd(turn), sinTurnsd(turn));
    all = all.map((s, k) => s.add(own[k]!.mul(BEND)));
  });
  return all;
}

/**
 * Light on the ground of shallow water. The surface is a sum of waves h. Each ray is bent by the
 * slope, so an area of the surface lights an area det(I + D·H) times as large, with H the second
 * derivatives of h and D the depth; where that is nearly 0 the light is focused. Waves follow the
 * dispersion of deep water, ω² = g·k (Airy).
 */
export const caustics = pixelStep({
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
    const size = v.size,
      seconds = at.seconds * (v.speed / 100);
    const waves = WAVES.flatMap(([turn, length], i) => {
      const wave = size * length;
      // A cell of the usual size passes in about 1.5 s; shorter waves are slower, as √length.
      const passed = (seconds * 0.65) / Math.sqrt(length) + i * 0.37;
      return [cosTurnsd(turn) / wave, sinTurnsd(turn) / wave, passed - Math.floor(passed), wave];
    });
    const light = linearColour(v.colour).map((c) => c * exp2d(v.stops));
    return [(v.depth / 100) * 1.6, square(v.softness / 100), v.cover / 100, ...light, ...waves];
  },
  pixel: (c, t) => {
    const d = t.n(0);
    // The place on the surface whose ray ends here, to first order.
    const [sx, sy] = sums(t, t.x, t.y, 2, (wave, n, dx, dy) => {
      const push = cosTurns(wave)
        .mul(d)
        .mul(n.mul(1 / TURN));
      return [push.mul(dx), push.mul(dy)];
    });
    const [xx, xy, yy] = sums(t, t.x.sub(sx!), t.y.sub(sy!), 3, (wave, _, dx, dy) => {
      const bend = sinTurns(wave).neg();
      return [bend.mul(dx * dx), bend.mul(dx * dy), bend.mul(dy * dy)];
    }) as [Node, Node, Node];
    const [a, b, e] = [xx.mul(d).add(1), yy.mul(d).add(1), xy.mul(d)];
    const area = a.mul(b).sub(e.mul(e));
    const bright = float(1).div(area.mul(area).add(t.n(1)).sqrt());
    return over(
      c,
      [0, 1, 2].map((i) => bright.mul(t.n(3 + i))),
      t.n(2),
    );
  },
});
