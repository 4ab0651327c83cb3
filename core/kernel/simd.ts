/**
 * The simd back end: lowered expressions become one WebAssembly function that fills a band of rows, four pixels at a
 * time. What depends on parameters alone is computed once a band. Where taps may leave the picture, a second copy of
 * the body resolves them lane by lane.
 */
import { inOrder, type Node } from './expr';
import { Code, I32, moduleOf, SIMD, V128 } from './wasm';

/** How many inputs, numbers and tables a kernel's argument block holds, and where (bytes). */
export const ARGS = {
  width: 0,
  outStride: 4,
  out: 8,
  /** Each input: four plane addresses, stride in bytes, width, height. */
  input: (i: number) => 24 + i * 28,
  params: (inputs: number) => 24 + inputs * 28,
} as const;

export interface CompiledShape {
  readonly bytes: Uint8Array<ArrayBuffer>;
  readonly inputs: number;
  readonly params: number;
  readonly ints: number;
  readonly tables: number;
  readonly planes: number;
}

interface Counts {
  readonly inputs: number;
  readonly params: number;
  readonly ints: number;
  readonly tables: number;
}

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
const COSTLESS = new Set<Node['op']>(['const', 'iconst', 'asFloat', 'asInt']);

const RUN_ARGS = 0,
  RUN_Y0 = 1,
  RUN_Y1 = 2;

class Emitter {
  private readonly code = new Code(3);
  private readonly y = this.code.local(I32);
  private readonly x = this.code.local(I32);
  private readonly xBytes = this.code.local(I32);
  private readonly rows = new Map<string, number>();
  private readonly outRows: number[];
  private readonly steady = new Map<Node, number>();
  private readonly uses = new Map<Node, number>();
  private readonly lanes: [number, number, number, number];
  private readonly scratch: number[];

  constructor(
    private readonly outputs: readonly Node[],
    private readonly counts: Counts,
  ) {
    this.outRows = outputs.map(() => this.code.local(I32));
    this.lanes = [0, 0, 0, 0].map(() => this.code.local(I32)) as [number, number, number, number];
    this.scratch = [0, 0, 0, 0].map(() => this.code.local(V128));
  }

  emit(): Uint8Array<ArrayBuffer> {
    const { code, outputs } = this;
    const order = inOrder(outputs);
    for (const n of order) for (const a of n.args) this.uses.set(a, (this.uses.get(a) ?? 0) + 1);
    for (const n of outputs) this.uses.set(n, (this.uses.get(n) ?? 0) + 1);
    this.hoist(order);
    const taps = order.filter((n) => n.op === 'tap');
    code.get(RUN_Y0).set(this.y);
    code.op(0x03).byte(0x40); // loop over rows
    this.rowAddresses(order);
    code.i32(0).set(this.x).i32(0).set(this.xBytes);
    if (taps.length === 0) this.columns(() => this.width(), false);
    else {
      const least = Math.max(0, ...taps.map(firstColumn));
      const head = Math.ceil(least / 4) * 4;
      if (head > 0)
        this.columns(() => {
          code.i32(head);
          this.width();
          this.minimum();
        }, true);
      this.columns(() => {
        this.lastInterior(taps);
        this.width();
        this.minimum();
      }, false);
      this.columns(() => this.width(), true);
    }
    code.get(this.y).i32(1).op(0x6a).tee(this.y).get(RUN_Y1).op(0x48).byte(0x0d).unsigned(0).op(0x0b);
    return moduleOf(code);
  }

  private width(): void {
    this.code.get(RUN_ARGS).load32(ARGS.width);
  }
  /** Leaves the lesser of two i32 on the stack. */
  private minimum(): void {
    const { code, lanes } = this;
    code.set(lanes[0]).set(lanes[1]).get(lanes[0]).get(lanes[1]).get(lanes[0]).get(lanes[1]).op(0x48).op(0x1b);
  }

  /** Runs the body from the present column up to (not including) a bound that `until` leaves on the stack. */
  private columns(until: () => void, edge: boolean): void {
    const { code } = this;
    const bound = code.local(I32);
    until();
    code.set(bound);
    code.op(0x02).byte(0x40).get(this.x).get(bound).op(0x4e).byte(0x0d).unsigned(0).op(0x03).byte(0x40);
    this.body(edge);
    code.get(this.xBytes).i32(16).op(0x6a).set(this.xBytes);
    code.get(this.x).i32(4).op(0x6a).tee(this.x).get(bound).op(0x48).byte(0x0d).unsigned(0).op(0x0b).op(0x0b);
  }

  /** One past the last column from which four outputs' taps all lie inside. */
  private lastInterior(taps: readonly Node[]): void {
    const { code } = this;
    taps.forEach((t, i) => {
      const [image, , dx, , , sx] = t.imm as readonly number[];
      code.get(RUN_ARGS).load32(ARGS.input(image!) + 20);
      if (sx === 1) code.i32(3 + dx!).op(0x6b);
      else if (sx === 2)
        code
          .i32(8 + dx!)
          .op(0x6b)
          .i32(1)
          .op(0x75)
          .i32(1)
          .op(0x6a);
      else
        code
          .i32(2 + dx!)
          .op(0x6b)
          .i32(1)
          .op(0x74)
          .i32(1)
          .op(0x6a);
      if (i > 0) this.minimum();
    });
  }

  /** Values that no pixel changes are computed before the loops. */
  private hoist(order: readonly Node[]): void {
    const varying = new Set<Node>();
    for (const n of order) {
      const leaf = n.op === 'ix' || n.op === 'iy' || n.op === 'input' || n.op === 'tap' || n.op === 'fetch';
      if (leaf || n.args.some((a) => varying.has(a))) varying.add(n);
    }
    const seen = new Map<Node, number>();
    for (const n of order)
      if (!varying.has(n) && !COSTLESS.has(n.op)) {
        const needed = this.outputs.includes(n) || order.some((m) => varying.has(m) && m.args.includes(n));
        if (!needed) continue;
        this.value(n, seen, false);
        const local = this.code.local(V128);
        this.code.set(local);
        this.steady.set(n, local);
      }
  }

  private rowAddresses(order: readonly Node[]): void {
    const { code } = this;
    this.outRows.forEach((local, plane) => {
      code
        .get(RUN_ARGS)
        .load32(ARGS.out + plane * 4)
        .get(RUN_ARGS)
        .load32(ARGS.outStride)
        .get(this.y)
        .op(0x6c)
        .op(0x6a)
        .set(local);
    });
    for (const n of order) {
      if (n.op !== 'tap' && n.op !== 'input') continue;
      const key = rowKey(n);
      if (this.rows.has(key)) continue;
      const [image, plane] = n.imm as readonly [number, number];
      const dy = n.op === 'tap' ? n.imm[3]! : 0,
        sy = n.op === 'tap' ? n.imm[6]! : 1;
      const local = code.local(I32),
        at = this.lanes[2];
      this.rows.set(key, local);
      code.get(this.y);
      if (sy === 2) code.i32(1).op(0x74);
      else if (sy === 0.5) code.i32(1).op(0x75);
      code.i32(dy).op(0x6a).set(at);
      // max(0, min(at, height − 1))
      code
        .get(at)
        .get(RUN_ARGS)
        .load32(ARGS.input(image) + 24)
        .i32(1)
        .op(0x6b);
      this.minimum();
      code.set(at).get(at).i32(0).get(at).i32(0).op(0x4a).op(0x1b);
      code
        .get(RUN_ARGS)
        .load32(ARGS.input(image) + 16)
        .op(0x6c)
        .get(RUN_ARGS)
        .load32(ARGS.input(image) + plane * 4)
        .op(0x6a)
        .set(local);
    }
  }

  private body(edge: boolean): void {
    const made = new Map<Node, number>();
    this.outputs.forEach((n, i) => {
      this.code.get(this.outRows[i]!).get(this.xBytes).op(0x6a);
      this.value(n, made, edge);
      this.code.simdMemory(SIMD.store, 0);
    });
  }

  /** Leaves the node's four values on the stack; a node used more than once is computed once. */
  private value(n: Node, made: Map<Node, number>, edge: boolean): void {
    const { code } = this;
    const known = this.steady.get(n) ?? made.get(n);
    if (known !== undefined) {
      code.get(known);
      return;
    }
    this.compute(n, made, edge);
    if ((this.uses.get(n) ?? 0) > 1 && !COSTLESS.has(n.op) && !made.has(n)) {
      const local = code.local(V128);
      code.tee(local);
      made.set(n, local);
    }
  }

  private compute(n: Node, made: Map<Node, number>, edge: boolean): void {
    const { code } = this;
    const { params, ints } = this.counts;
    const base = ARGS.params(this.counts.inputs);
    const arg = (i: number) => this.value(n.args[i]!, made, edge);
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
        code.get(this.x).simd(SIMD.splatI);
        this.words([0, 1, 2, 3]);
        code.simd(SIMD.iadd);
        return;
      case 'iy':
        code.get(this.y).simd(SIMD.splatI);
        return;
      case 'asFloat':
      case 'asInt':
        return arg(0);
      case 'select':
        arg(1);
        arg(2);
        arg(0);
        code.simd(SIMD.bitselect);
        return;
      case 'ishl':
      case 'ishr':
        arg(0);
        code.i32(n.imm[0]!).simd(n.op === 'ishl' ? SIMD.ishl : SIMD.ishr);
        return;
      case 'input':
        code
          .get(this.rows.get(rowKey(n))!)
          .get(this.xBytes)
          .op(0x6a)
          .simdMemory(SIMD.load, 0);
        return;
      case 'tap':
        return edge ? this.edgeTap(n) : this.innerTap(n);
      case 'fetch':
        return this.gatherAt(
          n,
          () => arg(0),
          () => arg(1),
        );
      case 'lookup':
        return this.lookup(n, made, edge, base + (params + ints + n.imm[0]!) * 4);
      default:
        throw new Error(`simd has no form for ${n.op}: lower the expression first`);
    }
  }

  private literal(n: Node): void {
    const bits = n.op === 'const' ? new Int32Array(new Float32Array([n.imm[0]!]).buffer)[0]! : n.imm[0]!;
    this.words([bits, bits, bits, bits]);
  }
  private words(w: readonly number[]): void {
    this.code.simd(SIMD.const);
    for (const v of w) this.code.byte(v, v >> 8, v >> 16, v >> 24);
  }

  private innerTap(n: Node): void {
    const { code } = this;
    const [, , dx, , , sx] = n.imm as readonly number[];
    const rowStart = this.rows.get(rowKey(n))!;
    const at = (extra: number) => {
      code.get(rowStart).get(this.xBytes);
      if (sx === 2) code.i32(1).op(0x74);
      else if (sx === 0.5) code.i32(1).op(0x75);
      code
        .op(0x6a)
        .i32(dx! * 4 + extra)
        .op(0x6a);
    };
    if (sx === 2) {
      at(0);
      code.simdMemory(SIMD.load, 0);
      at(16);
      code.simdMemory(SIMD.load, 0).shuffle([0, 2, 4, 6]);
    } else if (sx === 0.5) {
      at(0);
      code.simdMemory(SIMD.zero64, 0).tee(this.scratch[0]!).get(this.scratch[0]!).shuffle([0, 0, 1, 1]);
    } else {
      at(0);
      code.simdMemory(SIMD.load, 0);
    }
    if (n.imm[4]) this.insideRows(n);
  }

  /** A tap with its columns resolved lane by lane by the edge rule (rows were clamped already). */
  private edgeTap(n: Node): void {
    const { code } = this;
    const [image, , dx, , clear, sx] = n.imm as readonly number[];
    const columns = () => {
      code.get(this.x).simd(SIMD.splatI);
      this.words([0, 1, 2, 3]);
      code.simd(SIMD.iadd);
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
    this.gather(this.rows.get(rowKey(n))!, () => {
      columns();
      last(20).simd(SIMD.imin);
      this.words([0, 0, 0, 0]);
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
    this.words([0, 0, 0, 0]);
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
        code.get(this.y);
        if (sy === 2) code.i32(1).op(0x74);
        else if (sy === 0.5) code.i32(1).op(0x75);
        code.i32(dy!).op(0x6a).simd(SIMD.splatI);
      },
      image!,
      24,
    );
    code.simd(SIMD.and);
  }

  private gatherAt(n: Node, x: () => void, y: () => void): void {
    const { code } = this;
    const [image, plane] = n.imm as readonly [number, number];
    this.gather(undefined, () => {
      x();
      code.i32(2).simd(SIMD.ishl);
      y();
      code
        .get(RUN_ARGS)
        .load32(ARGS.input(image) + 16)
        .simd(SIMD.splatI)
        .simd(SIMD.imul)
        .simd(SIMD.iadd);
      code
        .get(RUN_ARGS)
        .load32(ARGS.input(image) + plane * 4)
        .simd(SIMD.splatI)
        .simd(SIMD.iadd);
    });
  }

  /** Four loads at byte offsets (from `start`, or absolute) that `offsets` leaves on the stack. */
  private gather(start: number | undefined, offsets: () => void): void {
    const { code, scratch } = this;
    offsets();
    code.set(scratch[0]!);
    const address = (lane: number) => {
      code.get(scratch[0]!).simd(SIMD.laneI).byte(lane);
      if (start !== undefined) code.get(start).op(0x6a);
    };
    address(0);
    code.simdMemory(SIMD.zero32, 0).set(scratch[1]!);
    for (const lane of [1, 2, 3]) {
      address(lane);
      code.get(scratch[1]!).simdMemory(SIMD.lane32, 0).byte(lane);
      if (lane < 3) code.set(scratch[1]!);
    }
  }

  /** Table entries come in pairs: both are loaded at once and kept for the other node. */
  private lookup(n: Node, made: Map<Node, number>, edge: boolean, pointer: number): void {
    const { code, scratch } = this;
    const pair = this.pairs.get(made) ?? this.pairs.set(made, new Map()).get(made)!;
    const key = `${n.imm[0]}:${n.args[0]!.id}`;
    let locals = pair.get(key);
    if (!locals) {
      this.value(n.args[0]!, made, edge);
      code.i32(3).simd(SIMD.ishl).get(RUN_ARGS).load32(pointer).simd(SIMD.splatI).simd(SIMD.iadd).set(scratch[0]!);
      const entry = (lane: number) => code.get(scratch[0]!).simd(SIMD.laneI).byte(lane).simdMemory(SIMD.zero64, 0);
      entry(0);
      entry(1);
      code.shuffle([0, 4, 1, 5]).set(scratch[1]!);
      entry(2);
      entry(3);
      code.shuffle([0, 4, 1, 5]).set(scratch[2]!);
      locals = [code.local(V128), code.local(V128)];
      code.get(scratch[1]!).get(scratch[2]!).shuffle([0, 1, 4, 5]).set(locals[0]);
      code.get(scratch[1]!).get(scratch[2]!).shuffle([2, 3, 6, 7]).set(locals[1]);
      pair.set(key, locals);
    }
    code.get(locals[n.imm[1]!]!);
  }
  private readonly pairs = new Map<Map<Node, number>, Map<string, [number, number]>>();
}

const rowKey = (n: Node): string => (n.op === 'input' ? `${n.imm[0]}:${n.imm[1]}:0:1` : `${n.imm[0]}:${n.imm[1]}:${n.imm[3]}:${n.imm[6]}`);

/** The first column whose tap lies inside on the left. */
const firstColumn = (t: Node): number => {
  const dx = t.imm[2]!,
    sx = t.imm[5]!;
  return sx === 1 ? -dx : sx === 2 ? Math.ceil(-dx / 2) : -2 * dx;
};

/** WebAssembly for lowered `outputs`: `run(args, firstRow, endRow)`. Runs inside the `building` scope of the nodes. */
export function emit(outputs: readonly Node[], counts: Counts): CompiledShape {
  return { bytes: new Emitter(outputs, counts).emit(), ...counts, planes: outputs.length };
}
