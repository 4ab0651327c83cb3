/**
 * Nodes of expressions, hash-consed inside one `building` scope: the same expression written twice
 * is one node, so sharing needs no names. Types: `f32`, `i32` (coordinates, frame, hash) and
 * `mask`.
 */

/** Type of a node's value. */
export type Type = 'f32' | 'i32' | 'mask';
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
const OUTSIDE = 'kernel expressions are written inside building()';

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
  if (!scope) throw new Error(OUTSIDE);
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

/** A number for a loop, unique among the nodes of its scope. Throws outside `building`. */
export function freshLoop(): number {
  if (!scope) throw new Error(OUTSIDE);
  return scope.next++;
}

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
