import { stencil, pointwise, imageOp, type ImageNode } from '../../graph';
import { blur, inDomain } from '../../image';
import { cosTurnsd, exp2d, luma, type Node, select, sinTurnsd, smoothstep } from '../../kernel';
import { choice, colour, number } from '../../parameters';
import { linearColour } from '../colour-values';
import { builtStep, pixels } from '../declare';

/** Height of the relief: coverage, or encoded lightness. */
const height = (input: ImageNode, by: 'coverage' | 'lightness'): ImageNode => {
  const from = by === 'lightness' ? inDomain(input, 'encoded') : input;
  return imageOp({
    shape: `rim-height-${by}-${from.planes}`,
    inputs: [pointwise(from)],
    planes: 1,
    domain: 'none',
    build: (b) => {
      const c = b.pixel(0);
      if (by === 'coverage') return [c[3] ?? c[0]!.mul(0).add(1)];
      return [luma(c.slice(0, 3)).clamp(0, 1)];
    },
  });
};

/**
 * Light from one side on a relief, near edges whose slope faces the light (Lambert's cosine of the
 * slope's direction).
 */
export const litRim = builtStep({
  id: 'lit-rim',
  family: 'edge',
  label: 'Lit rim',
  help: 'Lights the edge that faces a light: of what is cut out, or of what is bright.',
  domain: 'light',
  start: { amount: 60 },
  example: { amount: 90, stops: 1.5, by: 'lightness', width: 10 },
  parameters: [
    number('stops', 'Brightness', 'stops', -8, 6, 0, { soft: [-4, 3] }),
    number('amount', 'Amount', '%', 0, 100, 0),
    choice('by', 'Of', { coverage: 'what is cut out', lightness: 'what is bright' }, 'coverage'),
    number('turn', 'Light from', '°', -3600, 3600, -60, { soft: [-180, 180] }),
    number('width', 'Width', 'lines', 1, 200, 12, { soft: [2, 60] }),
    number('wrap', 'Wrap', '%', 0, 100, 20, {
      help: 'How far around to the far side the light reaches.',
    }),
    colour('colour', 'Colour', [1, 0.9, 0.75]),
  ],
  build: (input, v, at) => {
    const amount = v.amount / 100;
    if (amount === 0) return input;
    const sigma = Math.max(0.7, pixels(v.width, at) / 2);
    const relief = blur(height(input, v.by), sigma);
    const turn = v.turn / 360;
    const light = linearColour(v.colour).map((c) => c * amount * exp2d(v.stops));
    return imageOp({
      shape: `lit-rim-${input.planes}`,
      inputs: [pointwise(input), stencil(relief)],
      planes: input.planes,
      domain: 'light',
      params: [cosTurnsd(turn), sinTurnsd(turn), v.wrap / 100, sigma, ...light],
      build: (b) => {
        const c = b.pixel(0);
        const slope = (dx: number, dy: number): Node =>
          b
            .tap(1, 0, dx, dy)
            .sub(b.tap(1, 0, -dx, -dy))
            .mul(0.5);
        // Downhill is outwards; where it points at the light, the rim is lit.
        const [gx, gy] = [slope(1, 0).neg(), slope(0, 1).neg()];
        const steep = gx.mul(gx).add(gy.mul(gy)).sqrt();
        const facing = select(
          steep.lt(1e-6),
          0,
          gx
            .mul(b.param(0))
            .add(gy.mul(b.param(1)))
            .div(steep.max(1e-6)),
        );
        const lit = facing.add(b.param(2)).div(b.param(2).add(1)).max(0);
        const edge = smoothstep(0.02, 0.3, steep.mul(b.param(3)));
        const rim = lit.mul(edge);
        return [
          ...[0, 1, 2].map((i) => c[i]!.add(rim.mul(b.param(4 + i)).mul(c[3] ?? 1))),
          ...c.slice(3),
        ];
      },
    });
  },
});
