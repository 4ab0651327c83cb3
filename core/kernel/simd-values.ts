/**
 * How one expression becomes four values on WebAssembly's stack: arithmetic, taps with their edges, gathers, table
 * entries. What is used more than once is computed once a body.
 */
import { inOrder, type Node } from './expr';
import { ARGS, type Counts, RUN_ARGS } from './simd-args';
import { cellKey, cellsOf, wholeCells } from './simd-cells';
import { Gather } from './simd-gather';
import { type Code, I32, SIMD, V128 } from './wasm';

const BINARY: Partial<Record<Node['op'], number>> = {
  add: SIMD.add,
  sub: SIMD.sub,
  mul: SIMD.mul,
  div: SIMD.div,
  min: SIMD.pmin,
  max: SIMD.pmax,
  iadd: SIMD.iadd,
  isub: SIMD.isub,
  imul: SIMD.imul,
  iand: SIMD.and,
  ior: SIMD.or,
  ixor: SIMD.xor,
  imin: SIMD.imin,
  imax: SIMD.imax,
  lt: SIMD.flt,
  le: SIMD.fle,
  eq: SIMD.feq,
  ilt: SIMD.ilt,
  and: SIMD.and,
  or: SIMD.or,
};
const UNARY: Partial<Record<Node['op'], number>> = {
  neg: SIMD.neg,
  abs: SIMD.abs,
  sqrt: SIMD.sqrt,
  floor: SIMD.floor,
  toInt: SIMD.toInt,
  toFloat: SIMD.toFloat,
  not: SIMD.not,
};
export const COSTLESS = new Set<Node['op']>(['const', 'iconst', 'asFloat', 'asInt']);

/** Where the loops stand: locals of the row, of the column, and of the column in bytes. */
export interface Place {
  readonly y: number;
  readonly x: number;
  readonly xBytes: number;
}

/** One row of one plane of one input: its address (less `bias` bytes, so that every tap lies at a positive offset). */
export interface RowAddress {
  readonly local: number;
  readonly bias: number;
}

/** One copy of the body: what it has computed already. `vector` counts the groups of four pixels from the column on. */
export class Body {
  readonly made: Map<Node, number>;
  readonly entries: Map<string, readonly number[]>;
  constructor(
    readonly edge: boolean,
    readonly vector: number,
    /** Addresses at the present column, shared by the bodies of one turn of the loop. */
    readonly pointers: Map<string, number>,
    outer?: Body,
  ) {
    this.made = new Map(outer?.made);
    this.entries = new Map(outer?.entries);
  }
  /** A loop inside: it knows what was computed before, and what it computes is not known after. */
  inner(): Body {
    return new Body(this.edge, this.vector, new Map(this.pointers), this);
  }
}

export const rowKey = (n: Node): string => (n.op === 'input' ? `${n.imm[0]}:${n.imm[1]}:0:1` : `${n.imm[0]}:${n.imm[1]}:${n.imm[3]}:${n.imm[6]}`);

/** Whether a number is a constant whose bits are all zero. */
const isZero = (n: Node): boolean => (n.op === 'const' && Object.is(n.imm[0], 0)) || (n.op === 'iconst' && n.imm[0] === 0);

/** A fetched place's column as one that another may share, and a step of 0 or 1 from it. */
function besides(n: Node): { readonly x: Node; readonly step: 0 | 1 } {
  const [x] = n.args as readonly [Node];
  const one = x.op === 'iadd' && x.args[1]!.op === 'iconst' && x.args[1]!.imm[0] === 1;
  return one ? { x: x.args[0]!, step: 1 } : { x, step: 0 };
}
const besideKey = (n: Node): string => `${n.imm[0]}:${n.imm[1]}@${besides(n).x.id},${n.args[1]!.id}`;

export class Values {
  readonly rows = new Map<string, RowAddress>();
  readonly uses = new Map<Node, number>();
  /** What no pixel changes, computed before the loops. */
  readonly steady = new Map<Node, number>();
  private readonly gathers: Gather;

  /** `before` is what is written ahead of the loops that `code` holds. */
  constructor(
    private readonly code: Code,
    before: Code,
    private readonly place: Place,
    private readonly counts: Counts,
  ) {
    this.gathers = new Gather(code, before, counts);
  }

  /** Leaves the node's four values on the stack; a node used more than once is computed once. */
  value(n: Node, body: Body): void {
    const { code } = this;
    const known = this.steady.get(n) ?? body.made.get(n);
    if (known !== undefined) {
      code.get(known);
      return;
    }
    this.compute(n, body);
    if ((this.uses.get(n) ?? 0) > 1 && !COSTLESS.has(n.op) && !body.made.has(n)) {
      const local = code.local(V128);
      code.tee(local);
      body.made.set(n, local);
    }
  }

  /** Has a value at hand for all that needs it. */
  prepare(n: Node, body: Body): void {
    if (this.steady.has(n) || body.made.has(n)) return;
    const local = this.code.local(V128);
    this.value(n, body);
    this.code.set(local);
    body.made.set(n, local);
  }

  /** What a reading's place is made of. */
  placesOf(n: Node): readonly Node[] {
    const all = n.op === 'lookup' ? [indexed(n.args[0]!).bits] : n.op === 'corner' ? n.args.slice(1, 3) : [besides(n).x, n.args[1]!];
    const plain = (a: Node): Node => (a.op === 'asInt' || a.op === 'asFloat' ? plain(a.args[0]!) : a);
    return all.map(plain).filter((a) => !COSTLESS.has(a.op));
  }

  /** The address of a row at the body's column, at an offset (bytes) that the memory access must add. */
  pointer(key: string, scale: number, body: Body): number {
    const { code } = this;
    const name = `${key}@${scale}`;
    const known = body.pointers.get(name);
    if (known !== undefined) {
      code.get(known);
      return this.rows.get(key)!.bias;
    }
    const local = code.local(I32);
    code.get(this.rows.get(key)!.local).get(this.place.xBytes);
    if (scale === 2) code.i32(1).op(0x74);
    else if (scale === 0.5) code.i32(1).op(0x75);
    code.op(0x6a).tee(local);
    body.pointers.set(name, local);
    return this.rows.get(key)!.bias;
  }

  private compute(n: Node, body: Body): void {
    const { code } = this;
    const { params, inputs } = this.counts;
    const base = ARGS.params(inputs);
    const arg = (i: number) => this.value(n.args[i]!, body);
    const binary = BINARY[n.op],
      unary = UNARY[n.op];
    if (binary !== undefined) {
      arg(0);
      arg(1);
      code.simd(binary);
      return;
    }
    if (unary !== undefined) {
      arg(0);
      code.simd(unary);
      return;
    }
    switch (n.op) {
      case 'const':
      case 'iconst':
        return this.literal(n);
      case 'param':
        code.get(RUN_ARGS).simdMemory(SIMD.loadSplat32, base + n.imm[0]! * 4);
        return;
      case 'iparam':
        code.get(RUN_ARGS).simdMemory(SIMD.loadSplat32, base + (params + n.imm[0]!) * 4);
        return;
      case 'ix':
        return this.columns(body);
      case 'iy':
        code.get(this.place.y).simd(SIMD.splatI);
        return;
      case 'asFloat':
      case 'asInt':
        return arg(0);
      case 'select':
        return this.select(n, body);
      case 'ishl':
      case 'ishr':
        arg(0);
        code.i32(n.imm[0]!).simd(n.op === 'ishl' ? SIMD.ishl : SIMD.ishr);
        return;
      case 'input': {
        const bias = this.pointer(rowKey(n), 1, body);
        code.simdMemory(SIMD.load, bias + body.vector * 16);
        return;
      }
      case 'tap':
        return body.edge ? this.edgeTap(n, body) : this.innerTap(n, body);
      case 'fetch':
        return this.fetch(n, body);
      case 'corner':
        return this.corner(n, body);
      case 'reduce':
        return this.reduce(n, body);
      case 'lookup':
        return this.lookup(n, body);
      default:
        throw new Error(`simd has no form for ${n.op}: lower the expression first`);
    }
  }

  /** All sums of a loop at once; the other nodes of the same reduction find theirs made. */
  private reduce(n: Node, body: Body): void {
    const { code } = this;
    const [id, which, sums] = n.imm as readonly [number, number, number];
    const key = `reduce:${id}`;
    let totals = body.entries.get(key);
    if (!totals) {
      totals = Array.from({ length: sums }, () => code.local(V128));
      body.entries.set(key, totals);
      const [turn, count, turns] = [code.local(I32), code.local(I32), code.local(V128)];
      this.value(n.args[0]!, body);
      code.simd(SIMD.laneI).byte(0).set(count);
      totals.forEach((t, k) => {
        this.value(n.args[1 + k]!, body);
        code.set(t);
      });
      const next = n.args.slice(1 + sums);
      this.beforeLoop(id, next, body);
      code.i32(0).set(turn);
      code.op(0x02).byte(0x40).get(turn).get(count).op(0x4e).byte(0x0d).unsigned(0).op(0x03).byte(0x40);
      const inner = body.inner();
      code.get(turn).simd(SIMD.splatI).set(turns);
      for (const leaf of inOrder(next)) {
        if (leaf.imm[0] !== id) continue;
        if (leaf.op === 'turn') inner.made.set(leaf, turns);
        else if (leaf.op === 'sum') inner.made.set(leaf, totals[leaf.imm[1]!]!);
      }
      next.forEach((v) => this.value(v, inner));
      [...totals].reverse().forEach((t) => code.set(t));
      code.get(turn).i32(1).op(0x6a).tee(turn).get(count).op(0x48).byte(0x0d).unsigned(0).op(0x0b).op(0x0b);
    }
    code.get(totals[which]!);
  }

  /** Computes before a loop what its body needs and its turns do not change. */
  private beforeLoop(id: number, next: readonly Node[], body: Body): void {
    const turning = new Set<Node>();
    const inside = inOrder(next);
    for (const n of inside) if (((n.op === 'turn' || n.op === 'sum') && n.imm[0] === id) || n.args.some((a) => turning.has(a))) turning.add(n);
    for (const n of inside) {
      const still = !turning.has(n) && !COSTLESS.has(n.op) && !this.steady.has(n) && !body.made.has(n);
      if (still && inside.some((m) => turning.has(m) && m.args.includes(n))) this.prepare(n, body);
    }
  }

  private select(n: Node, body: Body): void {
    const [when, a, b] = n.args as [Node, Node, Node];
    if (isZero(a) || isZero(b)) {
      this.value(isZero(a) ? b : a, body);
      this.value(when, body);
      this.code.simd(isZero(a) ? SIMD.andnot : SIMD.and);
      return;
    }
    this.value(a, body);
    this.value(b, body);
    this.value(when, body);
    this.code.simd(SIMD.bitselect);
  }

  /** The columns of the body's four pixels. */
  private columns(body: Body): void {
    const first = body.vector * 4;
    this.code.get(this.place.x).simd(SIMD.splatI);
    this.code.words([first, first + 1, first + 2, first + 3]);
    this.code.simd(SIMD.iadd);
  }

  private literal(n: Node): void {
    const bits = n.op === 'const' ? new Int32Array(new Float32Array([n.imm[0]!]).buffer)[0]! : n.imm[0]!;
    this.code.words([bits, bits, bits, bits]);
  }

  private innerTap(n: Node, body: Body): void {
    const { code } = this;
    const [, , dx, , , sx] = n.imm as readonly number[];
    const key = rowKey(n);
    const at = (extra: number) => this.pointer(key, sx!, body) + dx! * 4 + extra + body.vector * 16 * sx!;
    if (sx === 2) {
      code.simdMemory(SIMD.load, at(0));
      code.simdMemory(SIMD.load, at(16)).shuffle([0, 2, 4, 6]);
    } else if (sx === 0.5) {
      code.simdMemory(SIMD.zero64, at(0)).tee(this.gathers.scratch[0]!).get(this.gathers.scratch[0]!).shuffle([0, 0, 1, 1]);
    } else code.simdMemory(SIMD.load, at(0));
    if (n.imm[4]) this.insideRows(n);
  }

  /** A tap with its columns resolved lane by lane by the edge rule (rows were clamped already). */
  private edgeTap(n: Node, body: Body): void {
    const { code } = this;
    const [image, , dx, , clear, sx] = n.imm as readonly number[];
    const columns = () => {
      this.columns(body);
      if (sx === 2) code.i32(1).simd(SIMD.ishl);
      else if (sx === 0.5) code.i32(1).simd(SIMD.ishr);
      code.i32(dx!).simd(SIMD.splatI).simd(SIMD.iadd);
    };
    const last = (offset: number) =>
      code
        .get(RUN_ARGS)
        .load32(ARGS.input(image!) + offset)
        .i32(1)
        .op(0x6b)
        .simd(SIMD.splatI);
    this.gathers.gather(this.rows.get(rowKey(n))!, () => {
      columns();
      last(20).simd(SIMD.imin);
      this.code.words([0, 0, 0, 0]);
      code.simd(SIMD.imax).i32(2).simd(SIMD.ishl);
    });
    if (!clear) return;
    this.inside(columns, image!, 20);
    code.simd(SIMD.and);
    this.insideRows(n);
  }

  /** Leaves a mask: 0 ≤ coordinate < the input's size at `offset`. */
  private inside(coordinate: () => void, image: number, offset: number): void {
    const { code } = this;
    coordinate();
    this.code.words([0, 0, 0, 0]);
    code.simd(SIMD.ilt).simd(SIMD.not);
    coordinate();
    code
      .get(RUN_ARGS)
      .load32(ARGS.input(image) + offset)
      .simd(SIMD.splatI)
      .simd(SIMD.ilt)
      .simd(SIMD.and);
  }

  /** Clears the values on the stack where a tap's row lies outside. */
  private insideRows(n: Node): void {
    const { code } = this;
    const [image, , , dy, , , sy] = n.imm as readonly number[];
    this.inside(
      () => {
        code.get(this.place.y);
        if (sy === 2) code.i32(1).op(0x74);
        else if (sy === 0.5) code.i32(1).op(0x75);
        code.i32(dy!).op(0x6a).simd(SIMD.splatI);
      },
      image!,
      24,
    );
    code.simd(SIMD.and);
  }

  /** Two numbers side by side that are both wanted are loaded at once. */
  private fetch(n: Node, body: Body): void {
    const { x, step } = besides(n);
    const [image, plane] = n.imm as readonly [number, number];
    const row = () => this.value(n.args[1]!, body);
    if (!this.sideBySide().has(besideKey(n)))
      return this.gathers.gather(undefined, () => this.gathers.addresses(image, plane, () => this.value(n.args[0]!, body), row));
    let locals = body.entries.get(besideKey(n));
    if (!locals) {
      this.gathers.addresses(image, plane, () => this.value(x, body), row);
      locals = this.gathers.pairs();
      body.entries.set(besideKey(n), locals);
    }
    this.code.get(locals[step]!);
  }
  private beside: Set<string> | undefined;
  private sideBySide(): Set<string> {
    if (this.beside) return this.beside;
    const steps = new Map<string, number>();
    for (const n of this.uses.keys()) if (n.op === 'fetch') steps.set(besideKey(n), (steps.get(besideKey(n)) ?? 0) | (1 << besides(n).step));
    return (this.beside = new Set([...steps].filter(([, s]) => s === 3).map(([key]) => key)));
  }

  private corner(n: Node, body: Body): void {
    const key = cellKey(n);
    if (!body.entries.has(key)) this.readCells([n], body);
    this.code.get(body.entries.get(key)![this.cells().get(key)!.indexOf(n)]!);
  }

  /**
   * All corners that are wanted of the cells of some corners (of one image by one edge rule), of all planes at once: where
   * the four pixels' cells all lie inside the picture two at a time from their rows, elsewhere each by its edge rule.
   */
  readCells(some: readonly Node[], body: Body): void {
    const { code } = this;
    const cells = some.map((n) => {
      const [x, y] = n.args.slice(1, 3).map((at) => {
        const local = code.local(V128);
        this.value(at, body);
        code.set(local);
        return local;
      }) as [number, number];
      const wanted = this.cells().get(cellKey(n))!;
      return { key: cellKey(n), x, y, wanted, into: wanted.map(() => code.local(V128)) };
    });
    const [lastX, lastY] = some[0]!.args.slice(3) as [Node, Node];
    const reduced = (all: readonly number[], by: number): void => all.forEach((v, i) => (i === 0 ? code.get(v) : code.get(v).simd(by)));
    const [xs, ys] = [cells.map((c) => c.x), cells.map((c) => c.y)];
    this.code.words([0, 0, 0, 0]);
    reduced([...xs, ...ys], SIMD.pmin);
    code.simd(SIMD.fle);
    for (const [all, last] of [
      [xs, lastX],
      [ys, lastY],
    ] as const) {
      reduced(all, SIMD.pmax);
      this.value(last, body);
      code.simd(SIMD.flt).simd(SIMD.and);
    }
    code.simd(SIMD.allTrue).op(0x04).byte(0x40);
    for (const c of cells) wholeCells(code, this.gathers, c, c.wanted, c.into);
    code.op(0x05);
    const slow = body.inner();
    for (const c of cells)
      c.wanted.forEach((corner, i) => {
        this.value(corner.args[0]!, slow);
        code.set(c.into[i]!);
      });
    code.op(0x0b);
    cells.forEach((c) => body.entries.set(c.key, c.into));
  }
  private cells(): Map<string, Node[]> {
    return (this.cellsFound ??= cellsOf(this.uses.keys()));
  }
  private cellsFound: Map<string, Node[]> | undefined;

  /** Table entries come in pairs or fours: all of an entry is loaded at once and kept for the other nodes. */
  private lookup(n: Node, body: Body): void {
    const [slot, which, width] = n.imm as readonly [number, number, 2 | 4];
    const key = `${slot}:${n.args[0]!.id}`;
    let locals = body.entries.get(key);
    if (!locals) {
      const { bits, low, less } = indexed(n.args[0]!);
      this.gathers.entries(slot, width === 2 ? 3 : 4, () => this.value(bits, body), low, less);
      locals = width === 2 ? this.gathers.pairs() : this.gathers.fours();
      body.entries.set(key, locals);
    }
    this.code.get(locals[which]!);
  }
}

/** An index as (bits >> low) − less, where it is made so: then part of that is done once for all pixels. */
function indexed(index: Node): { readonly bits: Node; readonly low: number; readonly less: number } {
  const off = index.op === 'isub' && index.args[1]!.op === 'iconst';
  const from = off ? index.args[0]! : index,
    less = off ? index.args[1]!.imm[0]! : 0;
  return from.op === 'ishr' && from.imm[0]! > 4 ? { bits: from.args[0]!, low: from.imm[0]!, less } : { bits: from, low: 0, less };
}
