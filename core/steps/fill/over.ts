import type { Node, Pixel } from '../../kernel';

/** A colour of light composited over a premultiplied pixel, with a coverage. */
export function over(c: Pixel, colour: readonly Node[], cover: Node): Pixel {
  const rest = cover.neg().add(1);
  const mixed = [0, 1, 2].map((i) => c[i]!.mul(rest).add(colour[i]!.mul(cover)));
  return c[3] ? [...mixed, c[3].mul(rest).add(cover)] : mixed;
}
