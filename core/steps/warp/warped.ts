/** Pictures read at other places than their own: shared by all warps. */
import { stencil, type Building, type Input, imageOp, type ImageNode } from '../../graph';
import { column, type Node, row, sample, toFloat } from '../../kernel';
import { choice, type ValuesOf } from '../../parameters';
import type { FrameContext } from '../declare';

/**
 * What lies outside the picture. Default: mirrored, so that no warp uncovers an edge unless told
 * to.
 */
export const EDGE = choice(
  'edge',
  'Beyond the edge',
  { mirror: 'mirrored repeat', clamp: 'clamp', repeat: 'repeat', clear: 'clear' },
  'mirror',
);

/** A warp. */
export interface Warp {
  readonly name: string;
  readonly params: readonly number[];
  readonly inputs?: readonly Input[];
  /**
   * Where each pixel is read, from its own place (lines from the middle): one place for all planes,
   * or one each for red, green and blue.
   */
  readonly where: (
    x: Node,
    y: Node,
    b: Building,
  ) => readonly [Node, Node] | readonly (readonly [Node, Node])[];
}

/**
 * Limit of coordinates in pixels; beyond, a float's fraction is too coarse for bilinear sampling.
 */
const FAR = 16384;

/** The picture read at other places. */
export function warped(
  input: ImageNode,
  { edge }: ValuesOf<[typeof EDGE]>,
  at: FrameContext,
  { name, params, inputs = [], where }: Warp,
): ImageNode {
  const { width, height } = input;
  const lines = 1080 / height;
  const n = params.length;
  return imageOp({
    shape: `${name}-${edge}-${input.planes}`,
    inputs: [stencil(input), ...inputs],
    planes: edge === 'clear' ? 4 : input.planes,
    domain: input.domain,
    params: [
      ...params,
      lines,
      (0.5 - width / 2) * lines,
      (0.5 - height / 2) * lines,
      1 / lines,
      width / 2 - 0.5,
      height / 2 - 0.5,
    ],
    ints: [width, height, at.seed],
    build: (b) => {
      const x = toFloat(column())
          .mul(b.param(n))
          .add(b.param(n + 1)),
        y = toFloat(row())
          .mul(b.param(n))
          .add(b.param(n + 2));
      const found = where(x, y, b);
      const places = (Array.isArray(found[0]) ? found : [found]) as readonly (readonly [
        Node,
        Node,
      ])[];
      const inPixels = places.map(
        ([u, w]) => [toPixels(u, b, n, 4), toPixels(w, b, n, 5)] as const,
      );
      const at3 = (p: number) => inPixels[Math.min(p, inPixels.length - 1)]!;
      const green = inPixels[inPixels.length === 3 ? 1 : 0]!;
      const read = (p: number, [u, w]: readonly [Node, Node]) =>
        sample(b.image(0), p, u, w, b.int(0), b.int(1), edge);
      const colour = [0, 1, 2].map((p) => read(p, at3(p)));
      if (input.planes === 4) return [...colour, read(3, green)];
      if (edge !== 'clear') return colour;
      const inside = (s: Node, size: number): Node =>
        s
          .add(1)
          .min(toFloat(b.int(size)).sub(s))
          .clamp(0, 1);
      const cover = inside(green[0], 0).mul(inside(green[1], 1));
      return [...colour, cover];
    },
  });
}
const toPixels = (lines: Node, b: Building, n: number, half: number): Node =>
  lines
    .mul(b.param(n + 3))
    .add(b.param(n + half))
    .clamp(-FAR, FAR);
