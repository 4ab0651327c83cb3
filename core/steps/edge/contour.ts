import { stencil, pointwise, imageOp, type ImageNode } from '../../graph';
import { blur, inDomain } from '../../image';
import { exp2d, flush, luma, type Node, type Pixel, select, smoothstep } from '../../kernel';
import { choice, colour, number } from '../../parameters';
import { linearColour, tinted } from '../colour-values';
import { builtStep, pixels } from '../declare';

/**
 * Encoded lightness times coverage, and coverage: blurred separately and divided, so that an edge
 * of transparency is no contour. Opaque pictures have lightness alone.
 */
const lightness = (input: ImageNode): ImageNode => {
  const encoded = inDomain(input, 'encoded');
  return imageOp({
    shape: `contour-lightness-${encoded.planes}`,
    inputs: [pointwise(encoded)],
    planes: encoded.planes === 4 ? 2 : 1,
    domain: 'none',
    build: (b) => {
      const c: Pixel = b.pixel(0);
      return c[3] ? [luma(c), c[3]] : [luma(c)];
    },
  });
};

type At = (dx: number, dy: number) => Node;
/**
 * Differences along x and y, each twice the slope: central, smoothed across by the weights of Sobel
 * or of Scharr; or Roberts's cross.
 */
const across =
  (side: number, middle: number) =>
  (at: At): readonly [Node, Node] => {
    const along = (f: (d: number, e: number) => Node): Node =>
      f(1, 0)
        .sub(f(-1, 0))
        .mul(middle)
        .add(
          f(1, -1)
            .sub(f(-1, -1))
            .add(f(1, 1).sub(f(-1, 1)))
            .mul(side),
        );
    return [along((d, e) => at(d, e)), along((d, e) => at(e, d))];
  };
const OPERATORS = {
  central: (at: At) => [at(1, 0).sub(at(-1, 0)), at(0, 1).sub(at(0, -1))] as const,
  sobel: across(1 / 4, 1 / 2),
  scharr: across(3 / 16, 5 / 8),
  cross: (at: At) =>
    [at(1, 1).sub(at(0, 0)).mul(Math.SQRT2), at(1, 0).sub(at(0, 1)).mul(Math.SQRT2)] as const,
};

/**
 * The gradient of lightness at one scale: smoothed by a Gaussian of that scale, differenced, and
 * multiplied by the scale, so that an edge of any thickness responds equally (Lindeberg's
 * normalised derivative).
 */
export const contour = builtStep({
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
    number('softness', 'Softness', 'lines', 0, 200, 0, {
      soft: [0, 40],
      help: 'Lets the lines run into light.',
    }),
    number('brightness', 'Brightness', 'stops', -4, 6, 0, { soft: [-2, 4] }),
    choice(
      'operator',
      'Operator',
      { central: 'central', sobel: 'Sobel', scharr: 'Scharr', cross: 'cross' },
      'central',
      {
        help: 'How the slope is taken: over two neighbours, over six weighted ones, or across corners (finest, noisiest).',
      },
    ),
    colour('colour', 'Colour', [1, 1, 1]),
  ],
  build: (input, v, at) => {
    const sigma = Math.max(pixels(v.thickness, at) / 2, 0.7);
    const smooth = blur(lightness(input), sigma);
    const low = v.low,
      operator = v.operator;
    const lines = imageOp({
      shape: `contour-lines-${operator}-${smooth.planes}`,
      inputs: [stencil(smooth)],
      planes: 1,
      domain: 'none',
      params: [sigma, low, Math.max(v.high, low + 1e-3)],
      build: (b) => {
        const covered = smooth.planes === 2;
        const at2 = (dx: number, dy: number) => {
          if (!covered) return b.tap(0, 0, dx, dy);
          const a = b.tap(0, 1, dx, dy);
          return select(a.lt(1e-3), 0, b.tap(0, 0, dx, dy).div(a));
        };
        const [gx, gy] = OPERATORS[operator](at2);
        const edge = gx.mul(gx).add(gy.mul(gy)).sqrt().mul(0.5).mul(b.param(0));
        const line = smoothstep(b.param(1), b.param(2), edge);
        return [flush(covered ? line.mul(smoothstep(0.5, 1, b.tap(0, 1, 0, 0))) : line)];
      },
    });
    const cover = blur(lines, pixels(v.softness, at) / 2);
    return tinted(
      cover,
      linearColour(v.colour).map((c) => c * exp2d(v.brightness)),
    );
  },
});
