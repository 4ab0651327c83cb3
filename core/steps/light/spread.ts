/** Shared by light steps: the bright part of a picture, and light added to one. */
import { pointwise, imageOp, type ImageNode } from '../../graph';
import { luma, type Pixel, smoothstep } from '../../kernel';

/** The light above the threshold (with a soft knee), tinted; three planes. */
export const brightOf = (
  input: ImageNode,
  threshold: number,
  softness: number,
  tint: readonly number[],
): ImageNode =>
  imageOp({
    shape: `bright-${input.planes}`,
    inputs: [pointwise(input)],
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

/** Light added to a picture; it shows also where nothing covers. */
export const lit = (input: ImageNode, light: ImageNode, amount: number): ImageNode =>
  imageOp({
    shape: `lit-${input.planes}-${light.planes}`,
    inputs: [pointwise(input), pointwise(light)],
    planes: input.planes,
    domain: 'light',
    params: [amount],
    build: (b) => {
      const c = b.pixel(0),
        g = b.pixel(1);
      return [...[0, 1, 2].map((i) => c[i]!.add(g[i]!.mul(b.param(0)))), ...c.slice(3)];
    },
  });
