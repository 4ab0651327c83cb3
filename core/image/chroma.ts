/** Enlarges subsampled chroma to the size of luma. */
import { stencil, imageOp, type ImageNode } from '../graph';
import {
  column,
  fetch,
  iadd,
  iand,
  imax,
  imin,
  imul,
  int,
  ishr,
  type Node,
  row,
  select,
  toFloat,
} from '../kernel';

/** Position of a chroma sample among the luma samples it stands for, as files tag it. */
export const SITINGS = ['left', 'center', 'topleft', 'top', 'bottomleft', 'bottom'] as const;
/** One of `SITINGS`. */
export type Siting = (typeof SITINGS)[number];
/** Progressive, or two fields per frame with the named one first. */
export const FIELDS = ['none', 'top', 'bottom'] as const;
/** One of `FIELDS`. */
export type Fields = (typeof FIELDS)[number];

/**
 * Weights of the cubic of Catmull and Rom (1974), at a share `t` of the way between its second and
 * third sample; four numbers that sum to 1.
 */
const cubic = (t: number): number[] => [
  -0.5 * t + t * t - 0.5 * t * t * t,
  1 - 2.5 * t * t + 1.5 * t * t * t,
  0.5 * t + 2 * t * t - 1.5 * t * t * t,
  -0.5 * t * t + 0.5 * t * t * t,
];

/** Offset of a chroma sample from the first of its two luma samples, in luma samples. */
const ACROSS: Record<Siting, number> = {
  left: 0,
  topleft: 0,
  bottomleft: 0,
  center: 0.5,
  top: 0.5,
  bottom: 0.5,
};
const DOWN: Record<Siting, number> = {
  topleft: 0,
  top: 0,
  left: 0.5,
  center: 0.5,
  bottomleft: 1,
  bottom: 1,
};

/**
 * Weights of the chroma samples for a luma sample `at` behind the first of its pair. `first`: the
 * offset of the first weight's sample from the pair's own.
 */
function phase(at: number, sited: number): { first: number; weights: number[] } {
  const place = (at - sited) / 2,
    whole = Math.floor(place);
  const t = place - whole;
  return t === 0 ? { first: whole, weights: [1] } : { first: whole - 1, weights: cubic(t) };
}
const weightAt = ({ first, weights }: ReturnType<typeof phase>, d: number): number =>
  weights[d - first] ?? 0;

/** Twice as many samples along an axis. `at(d)` reads the sample `d` behind the pair's own. */
function doubled(place: Node, sited: number, at: (d: number) => Node): Node {
  const [even, odd] = [phase(0, sited), phase(1, sited)];
  const half = toFloat(place).mul(0.5),
    isEven = half.floor().eq(half);
  const reach = [-2, -1, 0, 1, 2].filter((d) => weightAt(even, d) !== 0 || weightAt(odd, d) !== 0);
  return reach
    .map((d) => at(d).mul(select(isEven, weightAt(even, d), weightAt(odd, d))))
    .reduce((a, b) => a.add(b));
}

/**
 * Twice as many rows, field by field. A field's chroma lies among that field's rows alone: a
 * quarter of the way between two of them in the upper field, three quarters in the lower (ISO/IEC
 * 13818-2, 6.1.1.8).
 */
function doubledByField(image: number, plane: number, rows: number): Node {
  const field = iand(row(), 1),
    quad = ishr(row(), 2),
    place = iand(row(), 3);
  // Row 4j + k belongs to field k & 1 and is its row 2j or 2j + 1.
  const phases = [0, 1, 2, 3].map((k) => phase(k >> 1, (k & 1) === 0 ? 0.25 : 0.75));
  const weight = (d: number): Node =>
    [0, 1, 2].reduceRight<Node>(
      (rest, k) => select(toFloat(place).eq(k), weightAt(phases[k]!, d), rest),
      select(toFloat(place).eq(3), weightAt(phases[3]!, d), 0),
    );
  const last = (k: 0 | 1): number => Math.floor((rows - 1 - k) / 2);
  const most = iadd(last(0), imul(field, last(1) - last(0)));
  return [-2, -1, 0, 1, 2]
    .map((d) =>
      fetch(
        image,
        plane,
        column(),
        iadd(imul(imax(int(0), imin(iadd(quad, d), most)), 2), field),
      ).mul(weight(d)),
    )
    .reduce((a, b) => a.add(b));
}

/** Luma samples per chroma sample, across and down. */
export type ChromaShare = readonly [1 | 2 | 4, 1 | 2 | 4];
/** How chroma is subsampled. */
export interface ChromaLayout {
  readonly chroma: ChromaShare;
  readonly siting: Siting;
  readonly fields: Fields;
}

/**
 * Two chroma planes at the size of luma; four taps of a cubic per axis (Catmull and Rom). Where four
 * luma samples share one of chroma they are doubled twice: 4:1:1 (DV of 525 lines) and 4:1:0.
 */
export function enlargedChroma(
  small: ImageNode,
  width: number,
  height: number,
  { chroma, siting, fields }: ChromaLayout,
): ImageNode {
  const across = (wide: ImageNode, size: number): ImageNode => doubledAcross(wide, size, siting);
  const down = (tall: ImageNode, size: number): ImageNode =>
    doubledDown(tall, size, siting, fields);
  const half = (size: number): number => Math.ceil(size / 2);
  let made = small;
  if (chroma[1] === 4) made = down(made, half(height));
  if (chroma[1] > 1) made = down(made, height);
  if (chroma[0] === 4) made = across(made, half(width));
  return chroma[0] > 1 ? across(made, width) : made;
}

const both = (f: (plane: number) => Node): Node[] => [0, 1].map(f);

function doubledDown(small: ImageNode, height: number, siting: Siting, fields: Fields): ImageNode {
  const woven = fields !== 'none' && small.height > 1;
  return imageOp({
    shape: woven ? `chroma-fields-${small.height}` : `chroma-down-${DOWN[siting]}`,
    inputs: [stencil(small)],
    planes: 2,
    domain: 'none',
    width: small.width,
    height,
    build: (b) =>
      both((p) =>
        woven
          ? doubledByField(b.image(0), p, small.height)
          : doubled(row(), DOWN[siting], (d) => b.tap(0, p, 0, d, { sy: 'half' })),
      ),
  });
}

const doubledAcross = (small: ImageNode, width: number, siting: Siting): ImageNode =>
  imageOp({
    shape: `chroma-across-${ACROSS[siting]}`,
    inputs: [stencil(small)],
    planes: 2,
    domain: 'none',
    width,
    height: small.height,
    build: (b) =>
      both((p) => doubled(column(), ACROSS[siting], (d) => b.tap(0, p, d, 0, { sx: 'half' }))),
  });
