import { pointwise, imageOp } from '../../graph';
import { blur } from '../../image';
import { column, mix, row, toFloat } from '../../kernel';
import { number, point } from '../../parameters';
import { builtStep, inLines, pixels } from '../declare';

/** Spread of an old lens's veil, as a share of the frame's height (one standard deviation). */
const VEIL = 0.22;

/** Diffusion by a filter or an old lens. */
export const diffusion = builtStep({
  id: 'diffusion',
  family: 'film',
  label: 'Diffusion',
  help: 'An old lens: a veil of scattered light over all, and softness that grows towards the corners.',
  domain: 'light',
  start: { veil: 10, softness: 5 },
  parameters: [
    number('veil', 'Veil', '%', 0, 100, 0, {
      soft: [0, 40],
      help: 'Share of all light that is scattered over the frame.',
    }),
    number('softness', 'Softness', 'lines', 0, 60, 0, { soft: [0, 20], help: 'In the corners.' }),
    number('centre-softness', 'In the middle', '%', 0, 100, 15, {
      help: 'Of the softness in the corners.',
    }),
    number('sharp', 'Sharp up to', '%', 0, 100, 20, {
      help: 'Of the way from the middle to the corners.',
    }),
    point('centre', 'Centre'),
  ],
  build: (input, v, at) => {
    const veil = v.veil / 100,
      softness = v.softness;
    if (veil === 0 && softness === 0) return input;
    const soft = blur(input, pixels(softness, at) / 2);
    const [cx, cy] = inLines(v.centre, at);
    const lines = 1080 / at.height,
      halfWidth = (540 * at.width) / at.height;
    const half = Math.sqrt(halfWidth * halfWidth + 540 * 540);
    const start = v.sharp / 100;
    return imageOp({
      shape: `diffused-${input.planes}`,
      inputs: [pointwise(input), pointwise(soft), pointwise(blur(input, VEIL * at.height))],
      planes: input.planes,
      domain: 'light',
      params: [
        veil,
        v['centre-softness'] / 100,
        lines / half,
        ((0.5 - at.width / 2) * lines - cx) / half,
        ((0.5 - at.height / 2) * lines - cy) / half,
        start,
        1 / Math.max(1 - start, 1e-3),
      ],
      build: (b) => {
        const x = toFloat(column()).mul(b.param(2)).add(b.param(3)),
          y = toFloat(row()).mul(b.param(2)).add(b.param(4));
        const out = x.mul(x).add(y.mul(y)).sqrt().sub(b.param(5)).mul(b.param(6)).clamp(0, 1);
        const share = mix(b.param(1), 1, out.mul(out));
        return b
          .pixel(0)
          .map((own, i) => mix(mix(own, b.pixel(1)[i]!, share), b.pixel(2)[i]!, b.param(0)));
      },
    });
  },
});
