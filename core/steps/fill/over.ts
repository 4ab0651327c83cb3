import type { Node, Pixel } from '../../kernel';

/** A colour of light laid over a pixel of colour times coverage, as far as it covers. */
export function over(c: Pixel, colour: readonly Node[], cover: Node): Pixel {
  const rest = cover.neg().add(1);
  const mixed = [0, 1, 2].map((i) => c[i]!.mul(rest).add(colour[i]!.mul(cover)));
  return c[3] ? [...mixed, c[3].mul(rest).add(cover)] : mixed;
}
