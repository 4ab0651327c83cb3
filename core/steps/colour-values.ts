import { pointwise, type ImageOp, imageOp, type ImageNode } from '../graph';
import { SRGB_DECODE, SRGB_ENCODE } from '../image';
import type { Node } from '../kernel';
import type { Colour } from '../parameters';

/** A colour as in documents (encoded) in linear light. */
export const linearColour = (c: Colour): [number, number, number] =>
  c.map((v) => SRGB_DECODE.fn(v)) as [number, number, number];

/**
 * One colour of light, multiplied by a plane of coverage, in either domain without converting
 * pixels.
 */
export const tinted = (
  cover: ImageNode,
  light: readonly number[],
  domain: 'light' | 'encoded' = 'light',
): ImageOp =>
  imageOp({
    shape: 'tinted',
    inputs: [pointwise(cover)],
    planes: 4,
    domain,
    params: domain === 'light' ? light : light.map((c) => SRGB_ENCODE.fn(c)),
    inOther: (other) => tinted(cover, light, other),
    build: (b) => {
      const [a] = b.pixel(0) as [Node];
      return [...[0, 1, 2].map((i) => b.param(i).mul(a)), a];
    },
  });
