/**
 * The reference interpreter. It evaluates expressions row by row, one operation at a time. Double
 * precision is the ground truth for accuracy. Single precision rounds after each operation and must
 * agree with simd bit for bit.
 */
import { exp2d, log2d, sinTurnsd } from './exact';
import { inOrder, type Node } from './node';
import {
  cachedTable,
  type CubeTable,
  type CurveTable,
  type TableSpec,
  tetrahedral,
  trilinear,
} from './tables';

/** Precision of the evaluation. */
export type Precision = 'double' | 'single';

/** An input picture. */
export interface ReferenceImage {
  readonly width: number;
  readonly height: number;
  /** One array per plane, row after row. */
  readonly planes: readonly ArrayLike<number>[];
}

/** What a kernel's inputs, parameters and tables are bound to. */
export interface Bindings {
  readonly inputs: readonly ReferenceImage[];
  readonly params: readonly number[];
  readonly ints: readonly number[];
  readonly tables: readonly TableSpec[];
}

const bitsView = new DataView(new ArrayBuffer(4));
const asBits = (v: number): number => (bitsView.setFloat32(0, v), bitsView.getInt32(0));
const fromBits = (v: number): number => (bitsView.setInt32(0, v), bitsView.getFloat32(0));
const saturate = (v: number): number =>
  v !== v ? 0 : Math.max(-2147483648, Math.min(2147483647, Math.trunc(v)));
const clamp = (v: number, hi: number): number => Math.max(0, Math.min(hi, v));

function tapAt(image: ReferenceImage, imm: readonly number[], x: number, y: number): number {
  const [, plane, dx, dy, clear, sx, sy] = imm as readonly [
    number,
    number,
    number,
    number,
    number,
    number,
    number,
  ];
  const tx = Math.floor(x * sx) + dx,
    ty = Math.floor(y * sy) + dy;
  if (clear && (tx < 0 || ty < 0 || tx >= image.width || ty >= image.height)) return 0;
  return image.planes[plane]![
    clamp(ty, image.height - 1) * image.width + clamp(tx, image.width - 1)
  ]!;
}

/** The value of an operation from its arguments (p, q, r) and the pixel's place (x, y). */
type Scalar = (p: number, q: number, r: number, x: number, y: number) => number;

function scalarOf({ op, imm }: Node, bound: Bindings): Scalar {
  const [first = 0, second = 0, third = 0] = imm;
  const image = bound.inputs[first]!;
  switch (op) {
    case 'const':
    case 'iconst':
      return () => first;
    case 'param': {
      const v = bound.params[first]!;
      return () => v;
    }
    case 'iparam': {
      const v = bound.ints[first]! | 0;
      return () => v;
    }
    case 'ix':
      return (_p, _q, _r, x) => x;
    case 'iy':
      return (_p, _q, _r, _x, y) => y;
    case 'input': {
      const plane = image.planes[second]!;
      return (_p, _q, _r, x, y) => plane[y * image.width + x]!;
    }
    case 'tap':
      return (_p, _q, _r, x, y) => tapAt(image, imm, x, y);
    case 'fetch': {
      const plane = image.planes[second]!;
      return (p, q) => plane[q * image.width + p]!;
    }
    case 'corner':
      return (p) => p;
    case 'table': {
      const { fn } = bound.tables[first] as CurveTable;
      return (p) => fn(p);
    }
    case 'cube': {
      const spec = bound.tables[first] as CubeTable;
      const interpolated = imm[3] ? trilinear : tetrahedral;
      return (p, q, r) => interpolated(spec, [p, q, r], third);
    }
    case 'lookup': {
      const data = cachedTable(bound.tables[first]!);
      return (p) => data[p * third + second]!;
    }
    case 'ishl':
      return (p) => p << first;
    case 'ishr':
      return (p) => (p >>> first) | 0;
    case 'turn':
    case 'sum':
    case 'reduce':
      throw new Error(`${op} has no value by itself`);
    case 'add':
      return (p, q) => p + q;
    case 'sub':
      return (p, q) => p - q;
    case 'mul':
      return (p, q) => p * q;
    case 'div':
      return (p, q) => p / q;
    case 'neg':
      return (p) => -p;
    case 'abs':
      return (p) => Math.abs(p);
    case 'min':
      return (p, q) => (q < p ? q : p);
    case 'max':
      return (p, q) => (p < q ? q : p);
    case 'sqrt':
      return (p) => Math.sqrt(p);
    case 'floor':
      return (p) => Math.floor(p);
    case 'select':
      return (p, q, r) => (p ? q : r);
    case 'toFloat':
      return (p) => p;
    case 'asFloat':
      return (p) => fromBits(p);
    case 'asInt':
      return (p) => asBits(p);
    case 'exp2':
      return (p) => exp2d(Math.max(-126, Math.min(127.49, p)));
    case 'log2':
      return (p) => log2d(Math.max(2 ** -126, p));
    case 'sinTurns':
      return (p) => sinTurnsd(p);
    case 'iadd':
      return (p, q) => (p + q) | 0;
    case 'isub':
      return (p, q) => (p - q) | 0;
    case 'imul':
      return (p, q) => Math.imul(p, q);
    case 'iand':
      return (p, q) => p & q;
    case 'ior':
      return (p, q) => p | q;
    case 'ixor':
      return (p, q) => p ^ q;
    case 'imin':
      return (p, q) => Math.min(p, q);
    case 'imax':
      return (p, q) => Math.max(p, q);
    case 'toInt':
      return (p) => saturate(p);
    case 'lt':
    case 'ilt':
      return (p, q) => (p < q ? 1 : 0);
    case 'le':
      return (p, q) => (p <= q ? 1 : 0);
    case 'eq':
      return (p, q) => (p === q ? 1 : 0);
    case 'and':
      return (p, q) => p && q;
    case 'or':
      return (p, q) => p || q;
    case 'not':
      return (p) => (p ? 0 : 1);
  }
}

/** The nodes in a reduction's body that change with its turns, in order. */
export function turningNodes(reduction: Node, order: readonly Node[]): Node[] {
  const [id, , sums] = reduction.imm as readonly [number, number, number];
  const turning = new Set<Node>();
  for (const n of inOrder(reduction.args.slice(1 + sums)))
    if (
      ((n.op === 'turn' || n.op === 'sum') && n.imm[0] === id) ||
      n.args.some((a) => turning.has(a))
    )
      turning.add(n);
  return order.filter((n) => turning.has(n));
}

/**
 * Planes of `width` × `height` for `outputs`. Pass lowered outputs for `single`, original ones for
 * `double`.
 */
export function evaluate(
  outputs: readonly Node[],
  bound: Bindings,
  width: number,
  height: number,
  precision: Precision,
): Float64Array[] {
  const order = inOrder(outputs);
  /** Each node's values in the current row. */
  const values = new Map(order.map((n) => [n, new Float64Array(width)]));
  const of = (n: Node): Float64Array => values.get(n)!;
  const scalars = new Map(
    order
      .filter((n) => !['turn', 'sum', 'reduce'].includes(n.op))
      .map((n) => [n, scalarOf(n, bound)]),
  );
  const planes = outputs.map(() => new Float64Array(width * height));
  const turning = new Map(
    order.filter((n) => n.op === 'reduce').map((n) => [n, turningNodes(n, order)]),
  );
  const inLoops = new Set([...turning.values()].flat());
  const nothing = new Float64Array(width);
  let y = 0;
  const set = (n: Node): void => {
    const into = of(n);
    if (n.op === 'reduce') return void into.set(reduced(n));
    const f = scalars.get(n)!;
    const [p = nothing, q = nothing, r = nothing] = n.args.map(of);
    const rounds = precision === 'single' && n.type === 'f32';
    for (let x = 0; x < width; x++) {
      const v = f(p[x]!, q[x]!, r[x]!, x, y);
      into[x] = rounds ? Math.fround(v) : v;
    }
  };
  const reduced = (n: Node): Float64Array => {
    const [id, which, sums] = n.imm as readonly [number, number, number];
    const body = turning.get(n)!;
    const arg = (i: number) => of(n.args[i]!);
    const totals = Array.from({ length: sums }, (_, k) => arg(1 + k).slice());
    // Every pixel takes the same number of turns.
    for (let turn = 0; turn < arg(0)[0]!; turn++) {
      for (const b of body) {
        if (b.op === 'turn' && b.imm[0] === id) of(b).fill(turn);
        else if (b.op === 'sum' && b.imm[0] === id) of(b).set(totals[b.imm[1]!]!);
        else if (scalars.has(b) || b.op === 'reduce') set(b);
      }
      totals.forEach((total, k) => total.set(arg(1 + sums + k)));
    }
    return totals[which]!;
  };
  for (y = 0; y < height; y++) {
    for (const n of order) if (!inLoops.has(n)) set(n);
    outputs.forEach((n, k) => planes[k]!.set(of(n), y * width));
  }
  return planes;
}
