/**
 * Expressions over pixels. Nodes are hash-consed inside one `building` scope: the same expression
 * written twice is one node, so sharing needs no names. Types: `f32`, `i32` (coordinates, frame,
 * hash) and `mask`.
 */
import { type FloatBitsLayout, mantissaBits, type UniformLayout } from './tables';

/** Type of a node's value. */
export type Type = 'f32' | 'i32' | 'mask';
/** What a tap reads outside the picture: the nearest edge pixel, or 0. */
export type Edge = 'clamp' | 'clear';
/** What a sample reads outside the picture; also the picture repeated, or mirrored. */
export type SampleEdge = Edge | 'repeat' | 'mirror';

/** All operations. */
export type Op =
  // leaves
  | 'const'
  | 'iconst'
  | 'param'
  | 'iparam'
  | 'ix'
  | 'iy'
  | 'input'
  | 'tap'
  | 'fetch'
  | 'corner'
  | 'turn'
  | 'sum'
  | 'reduce'
  // f32
  | 'add'
  | 'sub'
  | 'mul'
  | 'div'
  | 'neg'
  | 'abs'
  | 'min'
  | 'max'
  | 'sqrt'
  | 'floor'
  | 'select'
  | 'toFloat'
  | 'asFloat'
  // f32; lowered before a single-precision back end sees them
  | 'exp2'
  | 'log2'
  | 'sinTurns'
  | 'table'
  | 'cube'
  | 'lookup'
  // i32
  | 'iadd'
  | 'isub'
  | 'imul'
  | 'iand'
  | 'ior'
  | 'ixor'
  | 'ishl'
  | 'ishr'
  | 'imin'
  | 'imax'
  | 'toInt'
  | 'asInt'
  // mask
  | 'lt'
  | 'le'
  | 'eq'
  | 'ilt'
  | 'and'
  | 'or'
  | 'not';

const TYPES: Partial<Record<Op, Type>> = {
  iconst: 'i32',
  iparam: 'i32',
  ix: 'i32',
  iy: 'i32',
  turn: 'i32',
  iadd: 'i32',
  isub: 'i32',
  imul: 'i32',
  iand: 'i32',
  ior: 'i32',
  ixor: 'i32',
  ishl: 'i32',
  ishr: 'i32',
  imin: 'i32',
  imax: 'i32',
  toInt: 'i32',
  asInt: 'i32',
  lt: 'mask',
  le: 'mask',
  eq: 'mask',
  ilt: 'mask',
  and: 'mask',
  or: 'mask',
  not: 'mask',
};

/** A node, or a number that becomes a constant. */
export type Operand = Node | number;

/** One operation of an expression. Its methods build the next ones. */
export class Node {
  constructor(
    readonly id: number,
    readonly op: Op,
    readonly args: readonly Node[],
    /** Immediate values of the operation: a constant, an index, tap offsets, shift counts. */
    readonly imm: readonly number[],
    readonly type: Type,
  ) {}
  add(b: Operand): Node {
    return make('add', [this, float(b)]);
  }
  sub(b: Operand): Node {
    return make('sub', [this, float(b)]);
  }
  mul(b: Operand): Node {
    return make('mul', [this, float(b)]);
  }
  div(b: Operand): Node {
    return make('div', [this, float(b)]);
  }
  neg(): Node {
    return make('neg', [this]);
  }
  abs(): Node {
    return make('abs', [this]);
  }
  sqrt(): Node {
    return make('sqrt', [this]);
  }
  floor(): Node {
    return make('floor', [this]);
  }
  /** The smaller of two numbers: `b < this ? b : this`. */
  min(b: Operand): Node {
    return make('min', [this, float(b)]);
  }
  /** The larger of two numbers: `this < b ? b : this`. */
  max(b: Operand): Node {
    return make('max', [this, float(b)]);
  }
  clamp(lo: Operand, hi: Operand): Node {
    return this.max(lo).min(hi);
  }
  lt(b: Operand): Node {
    return make('lt', [this, float(b)]);
  }
  le(b: Operand): Node {
    return make('le', [this, float(b)]);
  }
  eq(b: Operand): Node {
    return make('eq', [this, float(b)]);
  }
  and(b: Node): Node {
    return make('and', [this, b]);
  }
  or(b: Node): Node {
    return make('or', [this, b]);
  }
  not(): Node {
    return make('not', [this]);
  }
}

interface Scope {
  readonly known: Map<string, Node>;
  next: number;
}
let scope: Scope | undefined;

/** Runs `build` in a fresh scope for hash-consing. Expressions exist only inside it. */
export function building<T>(build: () => T): T {
  const outer = scope;
  scope = { known: new Map(), next: 0 };
  try {
    return build();
  } finally {
    scope = outer;
  }
}

const FOLDED: Partial<Record<Op, (a: number, b: number) => number>> = {
  add: (a, b) => a + b,
  sub: (a, b) => a - b,
  mul: (a, b) => a * b,
  div: (a, b) => a / b,
};

/**
 * Simplifies an operation where that changes no bit: on constants, minus 0, times 1, divided by 1.
 */
function folded(op: Op, [a, b]: readonly Node[]): Node | undefined {
  const f = FOLDED[op];
  if (!f || b?.op !== 'const') return undefined;
  const y = b.imm[0]!;
  if (a!.op === 'const') return constant(f(a!.imm[0]!, y));
  return (op === 'sub' && Object.is(y, 0)) || ((op === 'mul' || op === 'div') && y === 1)
    ? a
    : undefined;
}

/**
 * Operations on floats and on integers. `make` rejects arguments of the other type, whose bits
 * would be misread.
 */
const OF_NUMBERS: ReadonlySet<Op> = new Set([
  'add',
  'sub',
  'mul',
  'div',
  'neg',
  'abs',
  'sqrt',
  'floor',
  'min',
  'max',
  'lt',
  'le',
  'eq',
  'toInt',
]);
const OF_WHOLE: ReadonlySet<Op> = new Set([
  'iadd',
  'isub',
  'imul',
  'iand',
  'ior',
  'ixor',
  'ishl',
  'ishr',
  'imin',
  'imax',
  'ilt',
  'toFloat',
]);

/**
 * The node for an operation. The same operation on the same arguments is the same object. Throws
 * outside `building`, and for arguments of the wrong type.
 */
export function make(op: Op, args: readonly Node[] = [], imm: readonly number[] = []): Node {
  if (!scope) throw new Error('kernel expressions are written inside building()');
  const simpler = folded(op, args);
  if (simpler) return simpler;
  let key = op as string;
  for (const v of imm) key += Object.is(v, -0) ? '|-0' : `|${v}`;
  for (const a of args) key += `,${a.id}`;
  const known = scope.known.get(key);
  if (known) return known;
  const taken = OF_NUMBERS.has(op) ? 'f32' : OF_WHOLE.has(op) ? 'i32' : undefined;
  if (taken && args.some((a) => a.type !== taken))
    throw new Error(`${op} takes ${taken === 'f32' ? 'numbers' : 'whole numbers'} alone`);
  const node = new Node(scope.next++, op, args, imm, TYPES[op] ?? 'f32');
  scope.known.set(key, node);
  return node;
}

/** An f32 constant. */
export const constant = (v: number): Node => make('const', [], [Math.fround(v)]);
/** A number as an f32 constant; a node as it is. */
export const float = (v: Operand): Node => (typeof v === 'number' ? constant(v) : v);
/** A number as an i32 constant; a node as it is. */
export const int = (v: Operand): Node => (typeof v === 'number' ? make('iconst', [], [v | 0]) : v);

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
  if (!scope) throw new Error('kernel expressions are written inside building()');
  const id = scope.next++;
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

/** All nodes that `roots` depend on, arguments first. */
export function inOrder(roots: readonly Node[]): Node[] {
  const seen = new Set<Node>();
  const order: Node[] = [];
  const visit = (n: Node): void => {
    if (seen.has(n)) return;
    seen.add(n);
    n.args.forEach(visit);
    order.push(n);
  };
  roots.forEach(visit);
  return order;
}

/**
 * For each node, the reductions whose turns change it: those it stands inside. `nodes` come
 * arguments first.
 */
export function loopsOf(nodes: readonly Node[]): Map<Node, ReadonlySet<number>> {
  const loops = new Map<Node, ReadonlySet<number>>();
  for (const n of nodes) {
    const own = new Set(n.args.flatMap((a) => [...loops.get(a)!]));
    if (n.op === 'turn' || n.op === 'sum') own.add(n.imm[0]!);
    else if (n.op === 'reduce') own.delete(n.imm[0]!);
    loops.set(n, own);
  }
  return loops;
}
