import { pointwise, imageOp, type ImageNode } from '../../graph';
import { blur, inDomain, onColour } from '../../image';
import { luma } from '../../kernel';
import { number } from '../../parameters';
import { builtStep, pixels } from '../declare';

const lumaOf = (from: ImageNode): ImageNode =>
  imageOp({
    shape: `luma-${from.planes}`,
    inputs: [pointwise(from)],
    planes: from.planes === 4 ? 2 : 1,
    domain: 'none',
    build: (b) => {
      const c = b.pixel(0);
      return c[3] ? [luma(c), c[3]] : [luma(c)];
    },
  });

/**
 * Unsharp masking of luma alone, so that edges get no coloured seams. Differences below the floor
 * (noise) stay unchanged.
 */
export const sharpen = builtStep({
  id: 'sharpen',
  family: 'edge',
  label: 'Sharpen',
  help: 'Steepens edges of a size in lightness alone; noise below the floor is left.',
  domain: 'encoded',
  start: { amount: 60 },
  parameters: [
    number('amount', 'Amount', '%', -100, 400, 0, { soft: [0, 200] }),
    number('radius', 'Radius', 'lines', 0.5, 120, 4, { soft: [1, 30] }),
    number('floor', 'Floor', '%', 0, 20, 0.5, { soft: [0, 5] }),
  ],
  build: (input, v, at) => {
    if (v.amount === 0) return input;
    const from = inDomain(input, 'encoded');
    const soft = blur(lumaOf(from), Math.max(0.5, pixels(v.radius, at) / 2));
    return imageOp({
      shape: `sharpen-${from.planes}`,
      inputs: [pointwise(from), pointwise(soft)],
      planes: from.planes,
      domain: 'encoded',
      params: [v.amount / 100, v.floor / 100],
      build: (b) => {
        const [y, cover] = b.pixel(1);
        const around = cover ? y!.div(cover.max(1e-3)) : y!;
        return onColour(b.pixel(0), (c) => {
          const d = luma(c).sub(around);
          // Reduced by the floor towards 0, without a step.
          const more = d.sub(d.clamp(b.param(1).neg(), b.param(1))).mul(b.param(0));
          return c.map((x) => x.add(more));
        });
      },
    });
  },
});
