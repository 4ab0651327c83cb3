import { pointwise, imageOp } from '../../graph';
import { onColour } from '../../image';
import { mix } from '../../kernel';
import { number } from '../../parameters';
import { builtStep } from '../declare';
import { damageLeaf } from './damage';

/** Encoded light through a scratch of the emulsion, and through dirt on the print. */
const BRIGHT = [0.94, 0.93, 0.88] as const,
  DARK = [0.03, 0.025, 0.02] as const;

/** Dust, hairs and scratches on the film. */
export const dustAndScratches = builtStep({
  id: 'dust-and-scratches',
  family: 'film',
  label: 'Dust and scratches',
  help: 'Dust for a frame, hairs in the gate for seconds, scratches that live and wander.',
  domain: 'encoded',
  start: { dust: 8, hairs: 1, scratches: 1.5 },
  parameters: [
    number('dust', 'Dust', '', 0, 200, 0, { soft: [0, 30], help: 'Specks a frame, in the mean.' }),
    number('hairs', 'Hairs', '', 0, 20, 0, {
      soft: [0, 4],
      help: 'In the gate at a time, in the mean.',
    }),
    number('scratches', 'Scratches', '', 0, 40, 0, {
      soft: [0, 8],
      help: 'At a time, in the mean.',
    }),
    number('size', 'Size', '%', 10, 500, 100, { soft: [40, 250] }),
    number('life', 'Life', 'frames', 2, 1000, 50, {
      soft: [5, 200],
      help: 'Of hairs and scratches, in the mean.',
    }),
    number('bright', 'Bright', '%', 0, 100, 35, {
      help: 'Share that is bright (damage of a negative); the rest is dark (on the print).',
    }),
    number('depth', 'Depth', '%', 0, 100, 100),
  ],
  build: (input, v, at) => {
    const damage = {
      dust: v.dust,
      hairs: v.hairs,
      scratches: v.scratches,
      size: v.size / 100,
      life: Math.round(v.life),
      bright: v.bright / 100,
    };
    const depth = v.depth / 100;
    if (depth === 0 || damage.dust + damage.hairs + damage.scratches === 0) return input;
    return imageOp({
      shape: `damaged-${input.planes}`,
      inputs: [pointwise(input), pointwise(damageLeaf(damage, at))],
      planes: input.planes,
      domain: 'encoded',
      params: [depth, ...DARK, ...BRIGHT],
      build: (b) => {
        const [dark, bright] = b.pixel(1).map((s) => s.mul(b.param(0)));
        return onColour(b.pixel(0), (c) =>
          c.map((x, i) =>
            mix(mix(x, x.min(b.param(1 + i)), dark!), x.max(b.param(4 + i)), bright!),
          ),
        );
      },
    });
  },
});
