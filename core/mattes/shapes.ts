/** Ellipse and box, computed from each pixel's position; their edges are exact at any size. */
import { imageOp, type ImageNode } from '../graph';
import {
  column,
  cosTurnsd,
  float,
  type Node,
  row,
  sinTurnsd,
  smoothstep,
  toFloat,
} from '../kernel';
import {
  type Ellipse,
  type EllipseParameter,
  number,
  type Point,
  type ValuesOf,
} from '../parameters';
import { inLines } from '../steps';
import { matteKind, type MatteContext } from './declare';

const WHOLE: Ellipse = [0.5, 0.5, 300, 300, 0];
const shape = (outline: EllipseParameter['outline']): EllipseParameter & { id: 'shape' } => ({
  kind: 'ellipse',
  id: 'shape',
  label: 'Shape',
  outline,
  default: WHOLE,
});
const SIZES = [
  number('wide', 'Width', '%', 0, 1000, 100, { soft: [0, 200] }),
  number('high', 'Height', '%', 0, 1000, 100, {
    soft: [0, 200],
    help: 'Of the shape as it is drawn: what a dial can move.',
  }),
] as const;
/** An oval or a box with its shares. */
type Shape = ValuesOf<[ReturnType<typeof shape>, ...typeof SIZES]>;
/** Half the width and half the height, in lines. */
const halves = (v: Shape): [number, number] => {
  const [, , rx, ry] = v.shape;
  return [(rx * v.wide) / 100, (ry * v.high) / 100];
};
/** Feather parameters of shapes. */
export const FEATHERS = [
  number('feather-in', 'Feather in', 'lines', 0, 540, 0, { soft: [0, 200] }),
  number('feather-out', 'Feather out', 'lines', 0, 540, 0, { soft: [0, 200] }),
] as const;

/**
 * A matte from a signed distance in lines. The distance is given the place in the shape's own axes.
 */
function drawn(
  name: string,
  v: Shape & ValuesOf<typeof FEATHERS>,
  at: MatteContext,
  more: readonly number[],
  apart: (x: Node, y: Node, n: (i: number) => Node) => Node,
): ImageNode {
  const [cx, cy, , , turn] = v.shape;
  const [rx, ry] = halves(v);
  const [x0, y0] = inLines([cx, cy], at);
  const lines = 1080 / at.height,
    half = 0.5 * lines;
  return imageOp({
    shape: `matte-${name}`,
    inputs: [],
    planes: 1,
    domain: 'none',
    width: at.width,
    height: at.height,
    params: [
      lines,
      (0.5 - at.width / 2) * lines - x0,
      (0.5 - at.height / 2) * lines - y0,
      cosTurnsd(turn / 360),
      sinTurnsd(turn / 360),
      -Math.max(v['feather-in'], half),
      Math.max(v['feather-out'], half),
      Math.max(rx, 0.01),
      Math.max(ry, 0.01),
      ...more,
    ],
    build: (b) => {
      const x = toFloat(column()).mul(b.param(0)).add(b.param(1)),
        y = toFloat(row()).mul(b.param(0)).add(b.param(2));
      const u = x.mul(b.param(3)).add(y.mul(b.param(4))),
        w = y.mul(b.param(3)).sub(x.mul(b.param(4)));
      return [
        smoothstep(
          b.param(5),
          b.param(6),
          apart(u, w, (i) => b.param(7 + i)),
        )
          .neg()
          .add(1),
      ];
    },
  });
}

const centre = (v: Shape): Point => {
  const [x, y] = v.shape;
  return [x, y];
};
/** The middles of its four sides; they also move when it grows or turns. */
function outline(v: Shape, { width, height }: Pick<MatteContext, 'width' | 'height'>): Point[] {
  const [cx, cy, , , turn] = v.shape,
    [rx, ry] = halves(v);
  const [cos, sin] = [cosTurnsd(turn / 360), sinTurnsd(turn / 360)];
  return [
    [rx, 0],
    [-rx, 0],
    [0, ry],
    [0, -ry],
  ].map(([x, y]): Point => [
    cx + ((x! * cos - y! * sin) * height) / (1080 * width),
    cy + (x! * sin + y! * cos) / 1080,
  ]);
}
const length = (x: Node, y: Node): Node => x.mul(x).add(y.mul(y)).sqrt();

/** An ellipse. */
export const ellipse = matteKind({
  id: 'ellipse',
  label: 'Ellipse',
  help: 'An oval placed on the picture.',
  parameters: [shape('ellipse'), ...SIZES, ...FEATHERS],
  centre,
  outline,
  // The distance to first order: f ÷ |∇f| of the ellipse's equation, exact on its edge.
  cover: (v, at) =>
    drawn('ellipse', v, at, [], (x, y, n) => {
      const [u, w] = [x.div(n(0)), y.div(n(1))];
      const k = length(u, w);
      return k.mul(k.sub(1)).div(length(u.div(n(0)), w.div(n(1))).max(1e-6));
    }),
});

/** A box with round corners. */
export const box = matteKind({
  id: 'box',
  label: 'Box',
  help: 'A rectangle placed on the picture, its corners round if wanted.',
  centre,
  outline,
  parameters: [
    shape('box'),
    ...SIZES,
    number('corner', 'Corner', 'lines', 0, 540, 0, { soft: [0, 120] }),
    ...FEATHERS,
  ],
  cover: (v, at) => {
    const [rx, ry] = halves(v);
    return drawn('box', v, at, [Math.min(v.corner, rx, ry)], (x, y, n) => {
      const r = n(2);
      const qx = x.abs().sub(n(0)).add(r),
        qy = y.abs().sub(n(1)).add(r);
      return length(qx.max(0), qy.max(0))
        .add(qx.max(qy).min(float(0)))
        .sub(r);
    });
  },
});
