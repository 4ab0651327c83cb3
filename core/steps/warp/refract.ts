import { stencil, pointwise, imageOp, type ImageNode } from '../../graph';
import { blur, inDomain } from '../../image';
import { luma, type Node } from '../../kernel';
import { choice, number } from '../../parameters';
import { builtStep, pixels } from '../declare';
import { EDGE, warped } from './warped';

/** Encoded luma, as the height of a sheet of glass. */
const sheet = (from: ImageNode): ImageNode => {
  const encoded = inDomain(from, 'encoded');
  return imageOp({
    shape: `refract-sheet-${encoded.planes}`,
    inputs: [pointwise(encoded)],
    planes: 1,
    domain: 'none',
    build: (b) => [luma(b.pixel(0).slice(0, 3)).clamp(0, 1)],
  });
};

/**
 * Snell's law for small angles: light is displaced by the slope of the sheet, blue a little more
 * than red.
 */
export const refract = builtStep({
  id: 'refract',
  family: 'warp',
  label: 'Refract',
  help: 'Displaces the picture as if what is below, the clip, itself or any layer were a sheet of glass.',
  domain: 'light',
  start: { amount: 30 },
  parameters: [
    number('amount', 'Amount', 'lines', -400, 400, 0, { soft: [-100, 100] }),
    choice(
      'by',
      'By',
      { below: 'what is below', clip: 'the clip', own: 'itself', layer: 'a layer' },
      'below',
    ),
    number('smooth', 'Smooth', 'lines', 0, 200, 12, {
      soft: [0, 60],
      help: 'How fine the glass is.',
    }),
    number('separation', 'Separation', '%', 0, 100, 20, {
      help: 'How much further blue is moved than red.',
    }),
    EDGE,
  ],
  namesLayer: { id: 'by', at: 'layer' },
  build: (input, v, at) => {
    if (v.amount === 0) return input;
    const seen = { own: input, below: at.others?.below, clip: at.others?.clip };
    // A layer that shows nothing refracts nothing.
    const by = v.by === 'layer' ? at.layerNamed?.() : (seen[v.by] ?? input);
    if (!by) return input;
    const sigma = Math.max(0.7, pixels(v.smooth, at) / 2);
    const glass = blur(sheet(by), sigma);
    const apart = v.separation / 200;
    // Slope times the glass's smoothness: an edge displaces equally at any smoothness.
    const gain = (v.amount * sigma) / 2;
    return warped(input, v, at, {
      name: 'refract',
      params: [1 - apart, 1, 1 + apart, gain],
      inputs: [stencil(glass)],
      where: (x, y, b) => {
        const slope = (dx: number, dy: number): Node =>
          b
            .tap(1, 0, dx, dy)
            .sub(b.tap(1, 0, -dx, -dy))
            .mul(b.param(3));
        const [gx, gy] = [slope(1, 0), slope(0, 1)];
        return [0, 1, 2].map(
          (i) => [x.add(gx.mul(b.param(i))), y.add(gy.mul(b.param(i)))] as const,
        );
      },
    });
  },
});
