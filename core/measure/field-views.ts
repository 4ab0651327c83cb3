/** A clip's motion as a picture, for makers of looks. */
import { type ImageNode, imageOp, pointwise, stencil } from '../graph';
import {
  column,
  constant,
  luma,
  mix,
  type Node,
  row,
  sample,
  smoothstep,
  toFloat,
} from '../kernel';

/**
 * Ways to show it. *Doubt* shows where the vectors are not trusted and frames are mixed instead.
 */
export const FIELD_VIEWS = {
  arrows: 'as arrows',
  tint: 'as a tint',
  doubt: 'what is mixed',
} as const;
/** One of `FIELD_VIEWS`. */
export type FieldView = keyof typeof FIELD_VIEWS;

/** Lines of motion that give half of the tint's strength. */
const HALF = 6;
/** The hues of three directions, a third of a turn apart; they show direction and length. */
const DIRECTIONS = [
  [1, 0],
  [-0.5, 0.866],
  [-0.5, -0.866],
] as const;
/**
 * Distance between arrows in lines, and their length in multiples of a frame's motion; no longer
 * than to the next arrow but one.
 */
const APART = 54,
  TIMES = 2;
const GOLD = [0.79, 0.66, 0.42];

const length = (x: Node, y: Node): Node => x.mul(x).add(y.mul(y)).sqrt();

/** Motion (right, down in pixels, confidence) shown over the code values of the clip. */
export function fieldShown(codes: ImageNode, onward: ImageNode, how: FieldView): ImageNode {
  const { width, height } = codes;
  return imageOp({
    shape: `field-shown-${how}-${codes.planes}`,
    inputs: [pointwise(codes), how === 'arrows' ? stencil(onward) : pointwise(onward)],
    planes: 3,
    domain: 'none',
    params: [1080 / height, (APART * height) / 1080, height / 1080],
    ints: [width, height],
    build: (b) => {
      const c = b.pixel(0),
        grey = luma(c.slice(0, 3));
      if (how === 'doubt') {
        const doubt = b.pixel(1)[2]!.neg().add(1);
        return GOLD.map((g, i) => mix(c[i]!, grey.mul(0.4).add(g * 0.6), doubt));
      }
      if (how === 'tint') {
        const [u, v] = b.pixel(1) as [Node, Node];
        const far = length(u, v),
          lines = far.mul(b.param(0));
        const strength = lines.div(lines.add(HALF));
        return DIRECTIONS.map(([x, y]) => {
          const along = u.mul(x).add(v.mul(y)).div(far.max(1e-4));
          return mix(
            grey.mul(0.5),
            along.mul(0.5).add(0.5).mul(0.75).add(grey.mul(0.25)),
            strength,
          );
        });
      }
      const apart = b.param(1),
        thin = b.param(2);
      const x = toFloat(column()),
        y = toFloat(row());
      const [cx, cy] = [x.div(apart).floor(), y.div(apart).floor()];
      const read = (p: number, px: Node, py: Node): Node =>
        sample(b.image(1), p, px, py, b.int(0), b.int(1), 'clamp');
      let ink: Node = constant(0);
      for (const dx of [-1, 0, 1])
        for (const dy of [-1, 0, 1]) {
          const [px, py] = [cx.add(dx + 0.5).mul(apart), cy.add(dy + 0.5).mul(apart)];
          const [u, v] = [read(0, px, py).mul(TIMES), read(1, px, py).mul(TIMES)];
          const held = apart.mul(1.2).div(length(u, v).max(1e-4)).min(1);
          const [ex, ey] = [u.mul(held), v.mul(held)];
          const square = ex.mul(ex).add(ey.mul(ey)).max(1e-4);
          // The nearest point of the arrow's line, which is thick at its start and thin at its end.
          const share = x.sub(px).mul(ex).add(y.sub(py).mul(ey)).div(square).clamp(0, 1);
          const off = length(x.sub(px).sub(ex.mul(share)), y.sub(py).sub(ey.mul(share)));
          const thick = share.neg().add(1).mul(thin).mul(5).add(thin.mul(1.2)).max(0.8);
          ink = ink.max(smoothstep(thick.sub(0.5), thick.add(0.5), off).neg().add(1));
        }
      return GOLD.map((g, i) => mix(c[i]!.mul(0.55).add(grey.mul(0.15)), constant(g * 1.2), ink));
    },
  });
}
