import { stencil, pointwise, imageOp, type ImageNode } from '../../graph';
import { enlarge, halve } from '../../image';
import { column, cosTurnsd, float, powd, row, sample, sinTurnsd, toFloat } from '../../kernel';
import { colour, number } from '../../parameters';
import { linearColour } from '../colour-values';
import { builtStep, pixels } from '../declare';
import { brightOf, lit } from './spread';

/**
 * A ray is four taps; each pass is four times as far apart. Three passes reach 64 pixels at the
 * working size.
 */
const REACH = 64,
  PASSES = [1, 4, 16];
/** Share of a ray's light left at its end. */
const LEFT = 0.02;

/**
 * One pass: Σ aⁱ · light at i steps along the ray. Passes at 1, 4 and 16 pixels give one
 * exponential falloff (Kawase, 2003).
 */
function pass(from: ImageNode, dx: number, dy: number, fall: number): ImageNode {
  return imageOp({
    shape: 'star-ray',
    inputs: [stencil(from)],
    planes: 3,
    domain: 'light',
    params: [dx, dy, fall, fall * fall, fall * fall * fall],
    ints: [from.width, from.height],
    build: (b) => {
      const [x, y] = [toFloat(column()), toFloat(row())];
      return [0, 1, 2].map((p) =>
        [0, 1, 2, 3]
          .map((i) => {
            const found = sample(
              b.image(0),
              p,
              x.sub(b.param(0).mul(i)),
              y.sub(b.param(1).mul(i)),
              b.int(0),
              b.int(1),
              'clear',
            );
            return i === 0 ? found : found.mul(b.param(1 + i));
          })
          .reduce((s, v) => s.add(v)),
      );
    },
  });
}

/** Rays from bright points. */
export const starRays = builtStep({
  id: 'star-rays',
  family: 'light',
  label: 'Star rays',
  help: 'Draws what is bright out into rays, as a grating before the lens does.',
  domain: 'light',
  start: { amount: 60 },
  parameters: [
    number('amount', 'Amount', '%', 0, 400, 0, { soft: [0, 150] }),
    number('threshold', 'Threshold', '', 0, 8, 0.6, { soft: [0, 1], picked: 'light' }),
    number('softness', 'Softness', '', 0, 4, 0.3, { soft: [0, 1] }),
    number('count', 'Rays', '', 1, 12, 6),
    number('turn', 'Turn', '°', -3600, 3600, 15, { soft: [-90, 90] }),
    number('length', 'Length', 'lines', 4, 540, 160, { soft: [20, 400] }),
    colour('tint', 'Tint', [1, 1, 1]),
  ],
  build: (input, v, at) => {
    if (v.amount === 0) return input;
    let small = brightOf(input, v.threshold, v.softness, linearColour(v.tint));
    let length = pixels(v.length, at);
    const sizes: [number, number][] = [];
    do {
      sizes.push([small.width, small.height]);
      small = halve(small);
      length /= 2;
    } while (length > REACH);
    const rays = Math.max(1, Math.round(v.count));
    const fall = powd(LEFT, 1 / Math.max(2, length));
    const drawn = Array.from({ length: rays }, (_, i) => {
      const turn = v.turn / 360 + i / rays;
      const [dx, dy] = [cosTurnsd(turn), sinTurnsd(turn)];
      return PASSES.reduce((now, far) => pass(now, dx * far, dy * far, powd(fall, far)), small);
    });
    // All rays of a point together hold as much light as the point.
    let sum: ImageNode = imageOp({
      shape: `star-sum-${rays}`,
      inputs: drawn.map(pointwise),
      planes: 3,
      domain: 'light',
      params: [(1 - fall) / rays],
      build: (b) =>
        [0, 1, 2].map((p) =>
          drawn.reduce((s, _, i) => s.add(b.pixel(i)[p]!), float(0)).mul(b.param(0)),
        ),
    });
    for (const [w, h] of sizes.reverse()) sum = enlarge(sum, w, h);
    return lit(input, sum, (v.amount / 100) * 4);
  },
});
