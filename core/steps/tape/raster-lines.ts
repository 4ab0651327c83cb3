/**
 * Work on the raster's lines: pixels alone, rows moved, filters along them and weights down them.
 */
import { stencil, type Building, pointwise, imageOp, type ImageNode } from '../../graph';
import {
  column,
  fetch,
  imax,
  imin,
  int,
  type Node,
  type Pixel,
  row,
  toFloat,
  toInt,
} from '../../kernel';
import { ACROSS, AVERAGING, type LineFilter } from '../../tape';

/** An operation on the raster that looks at pixels alone. */
export const onRaster = (
  raster: ImageNode,
  shape: string,
  params: readonly number[],
  ints: readonly number[],
  build: (c: Pixel, b: Building) => Pixel,
): ImageNode =>
  imageOp({
    shape,
    inputs: [pointwise(raster)],
    planes: 3,
    domain: 'none',
    params,
    ints,
    build: (b) => build(b.pixel(0), b),
  });

/** How far rows are moved, and what that is computed from. */
interface Slide {
  readonly shape: string;
  readonly params: readonly number[];
  readonly ints: readonly number[];
  readonly by: (b: Pick<Building, 'param' | 'int'>) => Node;
}
/** What rasters were before their rows were moved, and by which slides. */
const slides = new WeakMap<
  ImageNode,
  { readonly from: ImageNode; readonly by: readonly Slide[] }
>();

/**
 * Rows moved sideways by so many samples (to the right above 0), each plane alike; what leaves at
 * one end comes in at the other. `by` may look at nothing but its row and its numbers: slides that
 * follow one another are then one, and lines are read between samples once.
 */
export function slid(
  raster: ImageNode,
  shape: string,
  params: readonly number[],
  ints: readonly number[],
  by: Slide['by'],
): ImageNode {
  const before = slides.get(raster);
  const from = before?.from ?? raster,
    all: readonly Slide[] = [...(before?.by ?? []), { shape, params, ints, by }];
  const made = imageOp({
    shape: all.map((s) => s.shape).join('+'),
    inputs: [stencil(from)],
    planes: 3,
    domain: 'none',
    params: all.flatMap((s) => [...s.params]),
    ints: all.flatMap((s) => [...s.ints]),
    build: (b) => {
      let params = 0,
        ints = 0;
      const moved = all.map((s) => {
        const [p, i] = [params, ints];
        params += s.params.length;
        ints += s.ints.length;
        return s
          .by({ param: (k) => b.param(p + k), int: (k) => b.int(i + k) })
          .clamp(-ACROSS, ACROSS);
      });
      const at = toFloat(column()).sub(moved.reduce((s, m) => s.add(m)));
      const whole = at.floor(),
        t = at.sub(whole);
      const wrapped = (d: number): Node => {
        const v = whole.add(d),
          over = v.mul(1 / ACROSS).floor();
        return imin(imax(toInt(v.sub(over.mul(ACROSS))), 0), int(ACROSS - 1));
      };
      // Catmull and Rom's cubic through four samples (1974).
      const [t2, t3] = [t.mul(t), t.mul(t).mul(t)];
      const weights = [
        t3.mul(-0.5).add(t2).sub(t.mul(0.5)),
        t3.mul(1.5).sub(t2.mul(2.5)).add(1),
        t3.mul(-1.5).add(t2.mul(2)).add(t.mul(0.5)),
        t3.sub(t2).mul(0.5),
      ];
      const places = [-1, 0, 1, 2].map(wrapped);
      return [0, 1, 2].map((p) =>
        places
          .map((x, k) => fetch(b.image(0), p, x, row()).mul(weights[k]!))
          .reduce((s, v) => s.add(v)),
      );
    },
  });
  slides.set(made, { from, by: all });
  return made;
}

/** Leaves a plane as it is. */
export const AS_IT_IS: LineFilter = { weights: [1], stride: 1 };
const isEven = (w: readonly number[]): boolean =>
  w.every((v, i) => Math.abs(v - w[w.length - 1 - i]!) < 1e-12);

/** Planes whose filters have a stride of four, averaged as those take it. */
function averaged(raster: ImageNode, filters: readonly LineFilter[]): ImageNode {
  const which = filters.map((f) => f.stride === 4);
  if (!which.some(Boolean)) return raster;
  return imageOp({
    shape: `row-mean-${which.map(Number).join('')}`,
    inputs: [stencil(raster)],
    planes: 3,
    domain: 'none',
    wide: true,
    build: (b) =>
      which.map((on, p) => {
        const at = (d: number) => b.tap(0, p, d, 0);
        if (!on) return at(0);
        return [1, 2, 3].reduce(
          (s, d) =>
            s.add(
              at(-d)
                .add(at(d))
                .mul(AVERAGING[3 + d]!),
            ),
          at(0).mul(AVERAGING[3]!),
        );
      }),
  });
}

/** Each plane along the line by a filter of its own, edges clamped. */
export function filtered(raster: ImageNode, filters: readonly LineFilter[]): ImageNode {
  const reaches = filters.map((f) => (f.weights.length - 1) / 2),
    even = filters.map((f) => isEven(f.weights));
  return imageOp({
    shape: `row-filter-${filters.map((f, p) => `${reaches[p]}x${f.stride}${even[p] ? 'e' : ''}`).join('-')}`,
    inputs: [stencil(averaged(raster, filters))],
    planes: 3,
    domain: 'none',
    params: filters.flatMap((f) => [...f.weights]),
    wide: true,
    build: (b) => {
      let first = 0;
      return filters.map(({ weights, stride }, p) => {
        const reach = reaches[p]!,
          from = first;
        first += weights.length;
        const at = (k: number) => b.tap(0, p, -k * stride, 0);
        const w = (k: number) => b.param(from + reach + k);
        let sum = at(0).mul(w(0));
        for (let k = 1; k <= reach; k++)
          sum = even[p]
            ? sum.add(at(-k).add(at(k)).mul(w(k)))
            : sum.add(at(-k).mul(w(-k))).add(at(k).mul(w(k)));
        return sum;
      });
    },
  });
}

/** Rows of a plane weighed at given distances above (below 0: below), the others as they are. */
export function downRows(
  raster: ImageNode,
  shape: string,
  planes: readonly (readonly (readonly [above: number, weight: number])[] | null)[],
): ImageNode {
  return imageOp({
    shape: `rows-${shape}`,
    inputs: [stencil(raster)],
    planes: 3,
    domain: 'none',
    build: (b) =>
      planes.map((of, p) =>
        of
          ? of.map(([above, w]) => b.tap(0, p, 0, -above).mul(w)).reduce((s, v) => s.add(v))
          : b.tap(0, p, 0, 0),
      ),
  });
}
