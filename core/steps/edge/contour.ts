import { flush, luma, type Pixel, select, smoothstep } from '../../kernel';
import { inDomain } from '../../image/convert';
import { blur } from '../../image/resample';
import { around, each, operation, type Picturing } from '../../plan/graph';
import { linearColour, tinted } from '../colour-values';
import { type BuiltStep, type Colour, colour, num, number, pixels } from '../declare';

/**
 * Encoded lightness times coverage, and coverage: blurred apart and divided, so that a clear edge is no contour. What
 * covers everything has lightness alone.
 */
const lightness = (input: Picturing): Picturing => {
  const encoded = inDomain(input, 'encoded');
  return operation({
    shape: `contour-lightness-${encoded.planes}`,
    inputs: [each(encoded)],
    planes: encoded.planes === 4 ? 2 : 1,
    domain: 'none',
    build: (b) => {
      const c: Pixel = b.pixel(0);
      return c[3] ? [luma(c), c[3]] : [luma(c)];
    },
  });
};

/**
 * The gradient of lightness at one scale: smoothed by a Gaussian of that scale, differenced, and multiplied by the
 * scale, so that an edge answers alike at any thickness (Lindeberg's normalised derivative).
 */
export const contour: BuiltStep = {
  id: 'contour',
  family: 'edge',
  label: 'Contour',
  help: 'Keeps only the outlines of what is in the picture, drawn as lines of one colour on clear.',
  domain: 'light',
  alwaysActs: true,
  parameters: [
    number('thickness', 'Thickness', 'lines', 1, 60, 4, { soft: [1, 20] }),
    number('low', 'From', '', 0, 1, 0.06, { help: 'Weaker edges are left out.' }),
    number('high', 'To', '', 0, 1, 0.22, { help: 'Stronger edges are drawn fully.' }),
    number('softness', 'Softness', 'lines', 0, 200, 0, { soft: [0, 40], help: 'Lets the lines run into light.' }),
    number('brightness', 'Brightness', 'stops', -4, 6, 0, { soft: [-2, 4] }),
    colour('colour', 'Colour', [1, 1, 1]),
  ],
  build: (input, v, at) => {
    const sigma = Math.max(pixels(num(v, 'thickness'), at) / 2, 0.7);
    const smooth = blur(lightness(input), sigma);
    const low = num(v, 'low');
    const lines = operation({
      shape: `contour-lines-${smooth.planes}`,
      inputs: [around(smooth)],
      planes: 1,
      domain: 'none',
      params: [sigma, low, Math.max(num(v, 'high'), low + 1e-3)],
      build: (b) => {
        const covered = smooth.planes === 2;
        const at2 = (dx: number, dy: number) => {
          if (!covered) return b.tap(0, 0, dx, dy);
          const a = b.tap(0, 1, dx, dy);
          return select(a.lt(1e-3), 0, b.tap(0, 0, dx, dy).div(a));
        };
        const gx = at2(1, 0).sub(at2(-1, 0)),
          gy = at2(0, 1).sub(at2(0, -1));
        const edge = gx.mul(gx).add(gy.mul(gy)).sqrt().mul(0.5).mul(b.param(0));
        const line = smoothstep(b.param(1), b.param(2), edge);
        return [flush(covered ? line.mul(smoothstep(0.5, 1, b.tap(0, 1, 0, 0))) : line)];
      },
    });
    const cover = blur(lines, pixels(num(v, 'softness'), at) / 2);
    return tinted(
      cover,
      linearColour(v['colour'] as Colour).map((c) => c * 2 ** num(v, 'brightness')),
    );
  },
};
