/**
 * Operations on the raster's lines: single pixels, row shifts, filters along rows and weights
 * across rows.
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

/** A pointwise operation on the raster. */
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

/** A shift of rows, with what it is computed from. */
interface Slide {
  readonly shape: string;
  readonly params: readonly number[];
  readonly ints: readonly number[];
  readonly by: (b: Pick<Building, 'param' | 'int'>) => Node;
}
/** Rasters before their rows were shifted, with the shifts. */
const slides = new WeakMap<
  ImageNode,
  { readonly from: ImageNode; readonly by: readonly Slide[] }
>();

/**
 * Rows shifted sideways by samples (positive: to the right), all planes alike, wrapping around.
 * `by` may read only its row and its numbers, so that successive shifts become one and lines are
 * interpolated once.
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
      // The cubic of Catmull and Rom (1974) through four samples.
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

/** A filter that leaves a plane unchanged. */
export const AS_IT_IS: LineFilter = { weights: [1], stride: 1 };
const isEven = (w: readonly number[]): boolean =>
  w.every((v, i) => Math.abs(v - w[w.length - 1 - i]!) < 1e-12);

/** Averages the planes whose filters have a stride of four. */
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

/** Each plane filtered along the lines by its own filter, edges clamped. */
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

/**
 * A weighted sum of a plane's rows at given distances above (negative: below); other planes are
 * unchanged.
 */
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
