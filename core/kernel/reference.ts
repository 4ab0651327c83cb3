/**
 * The reference: interprets expressions pixel by pixel. In double precision it is the truth for accuracy; in single
 * precision it rounds after each operation and must agree with simd bit for bit.
 */
import { exp2d, log2d, sinTurnsd } from './exact';
import { inOrder, type Node } from './expr';
import { cachedTable, type CubeTable, type CurveTable, type TableSpec, tetrahedral } from './tables';

export type Precision = 'double' | 'single';

export interface ReferenceImage {
  readonly width: number;
  readonly height: number;
  /** Row after row, one array a plane. */
  readonly planes: readonly ArrayLike<number>[];
}

export interface Bindings {
  readonly inputs: readonly ReferenceImage[];
  readonly params: readonly number[];
  readonly ints: readonly number[];
  readonly tables: readonly TableSpec[];
}

const bitsView = new DataView(new ArrayBuffer(4));
const asBits = (v: number): number => (bitsView.setFloat32(0, v), bitsView.getInt32(0));
const fromBits = (v: number): number => (bitsView.setInt32(0, v), bitsView.getFloat32(0));
const saturate = (v: number): number => (v !== v ? 0 : Math.max(-2147483648, Math.min(2147483647, Math.trunc(v))));
const clamp = (v: number, hi: number): number => Math.max(0, Math.min(hi, v));

function tapAt(image: ReferenceImage, imm: readonly number[], x: number, y: number): number {
  const [, plane, dx, dy, clear, sx, sy] = imm as readonly [number, number, number, number, number, number, number];
  const tx = Math.floor(x * sx) + dx,
    ty = Math.floor(y * sy) + dy;
  if (clear && (tx < 0 || ty < 0 || tx >= image.width || ty >= image.height)) return 0;
  return image.planes[plane]![clamp(ty, image.height - 1) * image.width + clamp(tx, image.width - 1)]!;
}

function valueOf(node: Node, a: readonly number[], bound: Bindings, x: number, y: number): number {
  const [p = 0, q = 0, r = 0] = a;
  const { imm } = node;
  switch (node.op) {
    case 'const':
    case 'iconst':
      return imm[0]!;
    case 'param':
      return bound.params[imm[0]!]!;
    case 'iparam':
      return bound.ints[imm[0]!]! | 0;
    case 'ix':
      return x;
    case 'iy':
      return y;
    case 'input':
      return bound.inputs[imm[0]!]!.planes[imm[1]!]![y * bound.inputs[imm[0]!]!.width + x]!;
    case 'tap':
      return tapAt(bound.inputs[imm[0]!]!, imm, x, y);
    case 'fetch':
      return bound.inputs[imm[0]!]!.planes[imm[1]!]![q * bound.inputs[imm[0]!]!.width + p]!;
    case 'add':
      return p + q;
    case 'sub':
      return p - q;
    case 'mul':
      return p * q;
    case 'div':
      return p / q;
    case 'neg':
      return -p;
    case 'abs':
      return Math.abs(p);
    case 'min':
      return q < p ? q : p;
    case 'max':
      return p < q ? q : p;
    case 'sqrt':
      return Math.sqrt(p);
    case 'floor':
      return Math.floor(p);
    case 'select':
      return p ? q : r;
    case 'toFloat':
      return p;
    case 'asFloat':
      return fromBits(p);
    case 'asInt':
      return asBits(p);
    case 'exp2':
      return exp2d(Math.max(-126, Math.min(127.49, p)));
    case 'log2':
      return log2d(Math.max(2 ** -126, p));
    case 'sinTurns':
      return sinTurnsd(p);
    case 'table':
      return (bound.tables[imm[0]!] as CurveTable).fn(p);
    case 'cube':
      return tetrahedral(bound.tables[imm[0]!] as CubeTable, [p, q, r], imm[2]!);
    case 'turn':
    case 'sum':
    case 'reduce':
      throw new Error(`${node.op} has no value by itself`);
    case 'lookup':
      return cachedTable(bound.tables[imm[0]!]!)[p * imm[2]! + imm[1]!]!;
    case 'iadd':
      return (p + q) | 0;
    case 'isub':
      return (p - q) | 0;
    case 'imul':
      return Math.imul(p, q);
    case 'iand':
      return p & q;
    case 'ior':
      return p | q;
    case 'ixor':
      return p ^ q;
    case 'ishl':
      return p << imm[0]!;
    case 'ishr':
      return (p >>> imm[0]!) | 0;
    case 'imin':
      return Math.min(p, q);
    case 'imax':
      return Math.max(p, q);
    case 'toInt':
      return saturate(p);
    case 'lt':
    case 'ilt':
      return p < q ? 1 : 0;
    case 'le':
      return p <= q ? 1 : 0;
    case 'eq':
      return p === q ? 1 : 0;
    case 'and':
      return p && q;
    case 'or':
      return p || q;
    case 'not':
      return p ? 0 : 1;
  }
}

/** The nodes of a reduction's body that change with its turns, in order. */
function turningNodes(reduction: Node, order: readonly Node[]): Node[] {
  const [id, , sums] = reduction.imm as readonly [number, number, number];
  const turning = new Set<Node>();
  for (const n of inOrder(reduction.args.slice(1 + sums)))
    if (((n.op === 'turn' || n.op === 'sum') && n.imm[0] === id) || n.args.some((a) => turning.has(a))) turning.add(n);
  return order.filter((n) => turning.has(n));
}

/**
 * Planes of `width` × `height` for `outputs`. For `single`, pass lowered outputs; for `double`, the written ones.
 */
export function evaluate(outputs: readonly Node[], bound: Bindings, width: number, height: number, precision: Precision): Float64Array[] {
  const order = inOrder(outputs);
  const at = new Map(order.map((n, i) => [n, i]));
  const args = order.map((n) => n.args.map((m) => at.get(m)!));
  const single = precision === 'single';
  const values = new Float64Array(order.length);
  const planes = outputs.map(() => new Float64Array(width * height));
  const turning = new Map(order.filter((n) => n.op === 'reduce').map((n) => [n, turningNodes(n, order)]));
  const inLoops = new Set([...turning.values()].flat());
  const operands: number[] = [];
  let x = 0,
    y = 0;
  const set = (n: Node): void => {
    const i = at.get(n)!,
      from = args[i]!;
    if (n.op === 'reduce') {
      values[i] = reduced(n);
      return;
    }
    operands.length = from.length;
    for (let k = 0; k < from.length; k++) operands[k] = values[from[k]!]!;
    const v = valueOf(n, operands, bound, x, y);
    values[i] = single && n.type === 'f32' ? Math.fround(v) : v;
  };
  const reduced = (n: Node): number => {
    const [id, which, sums] = n.imm as readonly [number, number, number];
    const body = turning.get(n)!;
    const valueAt = (i: number) => values[at.get(n.args[i]!)!]!;
    const totals = Array.from({ length: sums }, (_, k) => valueAt(1 + k));
    for (let turn = 0; turn < valueAt(0); turn++) {
      for (const b of body) {
        if (b.op === 'turn' && b.imm[0] === id) values[at.get(b)!] = turn;
        else if (b.op === 'sum' && b.imm[0] === id) values[at.get(b)!] = totals[b.imm[1]!]!;
        else set(b);
      }
      for (let k = 0; k < sums; k++) totals[k] = valueAt(1 + sums + k);
    }
    return totals[which]!;
  };
  for (y = 0; y < height; y++)
    for (x = 0; x < width; x++) {
      for (const n of order) if (!inLoops.has(n)) set(n);
      outputs.forEach((n, k) => (planes[k]![y * width + x] = values[at.get(n)!]!));
    }
  return planes;
}
