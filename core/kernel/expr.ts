/** Expressions over pixels: functions that build nodes. */
import { float, freshLoop, int, make, type Node, type Operand } from './node';
import { type FloatBitsLayout, mantissaBits, type UniformLayout } from './tables';

/** What a tap reads outside the picture: the nearest edge pixel, or 0. */
export type Edge = 'clamp' | 'clear';
/** What a sample reads outside the picture; also the picture repeated, or mirrored. */
export type SampleEdge = Edge | 'repeat' | 'mirror';

/** The i-th f32 parameter, bound when the kernel runs. */
export const param = (i: number): Node => make('param', [], [i]);
/** The i-th i32 parameter, bound when the kernel runs. */
export const intParam = (i: number): Node => make('iparam', [], [i]);
/** Column of the output pixel. */
export const column = (): Node => make('ix');
/** Row of the output pixel. */
export const row = (): Node => make('iy');

/** The pixel itself, in one plane of an input of the output's size. */
export const input = (image: number, plane: number): Node => make('input', [], [image, plane]);

/**
 * How an output coordinate maps to that of a tap: times two (halving), unchanged, or halved and
 * rounded down (enlarging).
 */
export type TapScale = 'double' | 'same' | 'half';
const SCALES: Record<TapScale, number> = { double: 2, same: 1, half: 0.5 };

/**
 * The neighbour at a constant offset in a materialised image: plane[scale(y) + dy][scale(x) + dx].
 */
export const tap = (
  image: number,
  plane: number,
  dx: number,
  dy: number,
  edge: Edge = 'clamp',
  sx: TapScale = 'same',
  sy: TapScale = 'same',
): Node =>
  make('tap', [], [image, plane, dx, dy, edge === 'clear' ? 1 : 0, SCALES[sx], SCALES[sy]]);

/** plane[y][x] at integer coordinates; the caller keeps them inside the image. */
export const fetch = (image: number, plane: number, x: Node, y: Node): Node =>
  make('fetch', [x, y], [image, plane]);

/** `when ? a : b`. Both are evaluated. */
export const select = (when: Node, a: Operand, b: Operand): Node =>
  make('select', [when, float(a), float(b)]);
/** a·(1 − t) + b·t: exactly a at 0, exactly b at 1. */
export const mix = (a: Operand, b: Operand, t: Operand): Node =>
  float(a).mul(float(1).sub(t)).add(float(b).mul(t));
/** Hermite step from 0 at `lo` to 1 at `hi`: t²(3 − 2t). */
export const smoothstep = (lo: Operand, hi: Operand, x: Operand): Node => {
  const t = float(x).sub(lo).div(float(hi).sub(lo)).clamp(0, 1);
  return t.mul(t).mul(float(3).sub(t.mul(2)));
};
/** 2^x, with x clamped to −126…127. */
export const exp2 = (x: Operand): Node => make('exp2', [float(x)]);
/** log₂ x, with x clamped to at least 2⁻¹²⁶. */
export const log2 = (x: Operand): Node => make('log2', [float(x)]);
/** x^y for x ≥ 0; 0 stays 0. */
export const pow = (x: Operand, y: Operand): Node =>
  select(float(x).le(0), 0, exp2(log2(x).mul(y)));
/** Sine of an angle in turns. */
export const sinTurns = (x: Operand): Node => make('sinTurns', [float(x)]);
/** Cosine of an angle in turns. */
export const cosTurns = (x: Operand): Node => make('sinTurns', [float(x).add(0.25)]);
/** x, with |x| < 2⁻⁶⁰ replaced by 0: denormal numbers are forty times slower. */
export const flush = (x: Node): Node => select(x.abs().lt(2 ** -60), 0, x);

/** Integer sum, modulo 2³². */
export const iadd = (a: Operand, b: Operand): Node => make('iadd', [int(a), int(b)]);
/** Integer difference, modulo 2³². */
export const isub = (a: Operand, b: Operand): Node => make('isub', [int(a), int(b)]);
/** Integer product, modulo 2³². */
export const imul = (a: Operand, b: Operand): Node => make('imul', [int(a), int(b)]);
/** Bitwise and. */
export const iand = (a: Operand, b: Operand): Node => make('iand', [int(a), int(b)]);
/** Bitwise or. */
export const ior = (a: Operand, b: Operand): Node => make('ior', [int(a), int(b)]);
/** Bitwise exclusive or. */
export const ixor = (a: Operand, b: Operand): Node => make('ixor', [int(a), int(b)]);
/** Shift to the left by a constant. */
export const ishl = (a: Operand, by: number): Node => make('ishl', [int(a)], [by]);
/** Logical shift to the right by a constant. */
export const ishr = (a: Operand, by: number): Node => make('ishr', [int(a)], [by]);
/** The smaller of two integers. */
export const imin = (a: Operand, b: Operand): Node => make('imin', [int(a), int(b)]);
/** The larger of two integers. */
export const imax = (a: Operand, b: Operand): Node => make('imax', [int(a), int(b)]);
/** The mask `a < b` of integers. */
export const ilt = (a: Operand, b: Operand): Node => make('ilt', [int(a), int(b)]);
/** Float to integer, rounded towards zero, saturating. */
export const toInt = (x: Operand): Node => make('toInt', [float(x)]);
/** Integer to float. */
export const toFloat = (x: Operand): Node => make('toFloat', [int(x)]);
/**
 * A float that holds an integer 0 ≤ x < 2²³, as an integer. Cheaper than `toInt`, which must
 * saturate.
 */
export const wholeToInt = (x: Node): Node => isub(asInt(x.add(2 ** 23)), 0x4b000000);
/** The same 32 bits as an f32. */
export const asFloat = (x: Node): Node => make('asFloat', [x]);
/** The same 32 bits as an i32. */
export const asInt = (x: Node): Node => make('asInt', [x]);

/** A 32-bit hash of integers (multiply and xor-shift; constants of Wellons's "lowbias32"). */
export function hash(...parts: Operand[]): Node {
  let h: Node = int(0x3c6ef372);
  for (const part of parts) {
    h = ixor(h, part);
    h = imul(ixor(h, ishr(h, 16)), 0x7feb352d);
    h = imul(ixor(h, ishr(h, 15)), 0x846ca68b | 0);
    h = ixor(h, ishr(h, 16));
  }
  return h;
}
/** The top 24 bits of a hash as a number 0 ≤ u < 1. */
export const unit = (h: Node): Node => toFloat(ishr(h, 8)).mul(2 ** -24);

/** A function of one number from a table. `slot`: index of the bound table. */
export function table(slot: number, layout: FloatBitsLayout | UniformLayout, x: Operand): Node {
  return layout.kind === 'floatbits'
    ? make(
        'table',
        [float(x)],
        [
          slot,
          0,
          layout.eMin,
          layout.eMax,
          layout.odd ? 1 : 0,
          layout.low[0],
          layout.low[1],
          mantissaBits(layout),
          layout.bias ?? 0,
        ],
      )
    : make('table', [float(x)], [slot, 1, layout.lo, layout.hi, layout.n]);
}

/**
 * A colour (channels clamped to 0…1) looked up in a cube of `n` × `n` × `n` colours; tetrahedral
 * interpolation, or trilinear.
 */
export const cube = (slot: number, n: number, c: readonly Node[], trilinear = false): Node[] =>
  [0, 1, 2].map((channel) => make('cube', [...c], [slot, n, channel, trilinear ? 1 : 0]));

/**
 * A loop of `count` turns; the count is known only when the kernel runs. `body` returns the next
 * sums from the turn's index and the sums so far. Every pixel takes the same number of turns.
 */
export function reduce(
  count: Operand,
  initial: readonly Operand[],
  body: (turn: Node, sums: readonly Node[]) => readonly Node[],
): Node[] {
  const id = freshLoop();
  const sums = initial.map((_, k) => make('sum', [], [id, k]));
  const next = body(make('turn', [], [id]), sums);
  const args = [int(count), ...initial.map(float), ...next];
  return sums.map((_, k) => make('reduce', args, [id, k, sums.length]));
}

/** Planes of a pixel: 1 (a matte), 3 (colour) or 4 (premultiplied colour, coverage). */
export type Pixel = readonly Node[];

/** Luma or luminance with BT.709's weights. */
export const luma = (c: Pixel): Node =>
  c[0]!.mul(0.2126).add(c[1]!.mul(0.7152)).add(c[2]!.mul(0.0722));
