import { luma, type Pixel, smoothstep } from '../../kernel';
import { blur } from '../../image/resample';
import { each, operation, type Picturing } from '../../plan/graph';
import { linearColour } from '../colour-values';
import { type BuiltStep, type Colour, colour, num, number, pixels } from '../declare';

/** What of the light lies above the threshold, softly, tinted. */
const key = (input: Picturing, threshold: number, softness: number, tint: readonly number[]): Picturing =>
  operation({
    shape: `glow-key-${input.planes}`,
    inputs: [each(input)],
    planes: 3,
    domain: 'light',
    params: [threshold, threshold + Math.max(softness, 1e-3), ...tint],
    build: (b) => {
      const c: Pixel = b.pixel(0).slice(0, 3);
      const share = smoothstep(b.param(0), b.param(1), luma(c));
      return c.map((x, i) =>
        x
          .max(0)
          .mul(share)
          .mul(b.param(2 + i)),
      );
    },
  });

export const glow: BuiltStep = {
  id: 'glow',
  family: 'light',
  label: 'Glow',
  help: 'Spreads the light of what is bright over what lies around it.',
  domain: 'light',
  parameters: [
    number('amount', 'Amount', '%', 0, 400, 0, { soft: [0, 200] }),
    number('threshold', 'Threshold', '', 0, 8, 0.5, { soft: [0, 1], picked: 'light' }),
    number('softness', 'Softness', '', 0, 4, 0.3, { soft: [0, 1] }),
    number('radius', 'Radius', 'lines', 0, 540, 60, { soft: [0, 300] }),
    colour('tint', 'Tint', [1, 1, 1]),
  ],
  build: (input, v, at) => {
    if (num(v, 'amount') === 0) return input;
    const light = blur(key(input, num(v, 'threshold'), num(v, 'softness'), linearColour(v['tint'] as Colour)), pixels(num(v, 'radius'), at) / 2);
    return operation({
      shape: `glow-add-${input.planes}`,
      inputs: [each(input), each(light)],
      planes: input.planes,
      domain: 'light',
      params: [num(v, 'amount') / 100],
      build: (b) => {
        const c = b.pixel(0),
          g = b.pixel(1);
        return [...g.map((x, i) => c[i]!.add(x.mul(b.param(0)))), ...c.slice(3)];
      },
    });
  },
};
