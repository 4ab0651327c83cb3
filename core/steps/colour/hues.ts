/** Hue and chroma of encoded colours, for steps that act on single hues. */
import { float, luma, type Node, type Pixel, select } from '../../kernel';

/** Hue and chroma of a pixel. */
export interface Hue {
  /**
   * Position on the hue circle in sixths: 0 red, 1 yellow, 2 green, 3 cyan, 4 blue, 5 magenta; 0 ≤
   * h < 6. Undefined where chroma is 0.
   */
  readonly at: Node;
  /** Largest minus smallest channel. */
  readonly chroma: Node;
}

/**
 * The hexagonal hue (Smith, 1978): piecewise linear and continuous across changes of the channels'
 * order.
 */
export function hueOf([r, g, b]: Pixel): Hue {
  const most = r!.max(g!).max(b!),
    least = r!.min(g!).min(b!);
  const chroma = most.sub(least);
  const per = float(1).div(chroma.max(1e-6));
  const around = g!.sub(b!).mul(per);
  const red = select(around.lt(0), around.add(6), around);
  const at = select(
    most.le(r!),
    red,
    select(most.le(g!), b!.sub(r!).mul(per).add(2), r!.sub(g!).mul(per).add(4)),
  );
  return { at: at.clamp(0, 6), chroma };
}

/** 0 for grey, rising smoothly to 1. Hues of near-greys are random and must have no effect. */
export const coloured = (chroma: Node): Node => {
  const t = chroma.mul(1 / 0.12).clamp(0, 1);
  return t.mul(t).mul(t.mul(-2).add(3));
};

/** A colour scaled about its own grey; 0 is grey, 1 unchanged. */
export const saturated = (c: Pixel, by: Node): Pixel => {
  const y = luma(c).mul(by.neg().add(1));
  return c.map((x) => x.mul(by).add(y));
};
