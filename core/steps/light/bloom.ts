import { pointwise, imageOp } from '../../graph';
import { blur } from '../../image';
import { colour, number } from '../../parameters';
import { linearColour } from '../colour-values';
import { builtStep, pixels } from '../declare';

/**
 * Widths in shares of the radius, and each one's part of the scattered light: a sum of Gaussians
 * with long tails, as glass scatters.
 */
const PARTS = [
  [0.12, 0.5],
  [0.36, 0.3],
  [1, 0.2],
] as const;

/**
 * Veiling glare: a share of all light is spread around the place where it fell. No light is
 * created, only contrast is lost (Spencer et al., "Physically-based glare effects", 1995).
 */
export const bloom = builtStep({
  id: 'bloom',
  family: 'light',
  label: 'Bloom',
  help: 'Scatters a share of all light as a lens does: brights bleed, blacks breathe, nothing is added.',
  domain: 'light',
  start: { amount: 20 },
  parameters: [
    number('amount', 'Amount', '%', 0, 100, 0, { soft: [0, 60] }),
    number('radius', 'Radius', 'lines', 1, 540, 160, { soft: [10, 400] }),
    colour('tint', 'Tint', [1, 1, 1]),
  ],
  build: (input, v, at) => {
    const amount = v.amount / 100;
    if (amount === 0) return input;
    const radius = pixels(v.radius, at);
    const blurred = PARTS.map(([width]) => blur(input, (radius * width) / 2));
    return imageOp({
      shape: `bloom-${input.planes}`,
      inputs: [pointwise(input), ...blurred.map(pointwise)],
      planes: input.planes,
      domain: 'light',
      params: [amount, ...PARTS.map(([, share]) => share), ...linearColour(v.tint)],
      build: (b) => {
        const own = b.pixel(0);
        return own.map((c, i) => {
          const spread = PARTS.map((_, k) => b.pixel(1 + k)[i]!.mul(b.param(1 + k))).reduce(
            (s, x) => s.add(x),
          );
          const part = i < 3 ? b.param(0).mul(b.param(4 + i)) : b.param(0);
          return c.add(spread.sub(c).mul(part));
        });
      },
    });
  },
});
