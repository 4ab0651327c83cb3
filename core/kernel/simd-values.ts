/**
 * Writes one expression as four values on WebAssembly's stack: arithmetic, taps with edges,
 * gathers, table entries. A node used more than once is computed once per body.
 */
import { inOrder, loopsOf, type Node } from './node';
import { ARGS, type Counts, RUN_ARGS } from './simd-args';
import { Body, type Place } from './simd-body';
import { Gather } from './simd-gather';
import { Readings } from './simd-readings';
import { Taps } from './simd-taps';
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
/** Operations that are not worth a local. */
export const COSTLESS = new Set<Node['op']>(['const', 'iconst', 'asFloat', 'asInt']);

/** Whether a number is a constant whose bits are all zero. */
const isZero = (n: Node): boolean =>
  (n.op === 'const' && Object.is(n.imm[0], 0)) || (n.op === 'iconst' && n.imm[0] === 0);

/** Writes the values of nodes into the code of a kernel. */
export class Values {
  readonly uses = new Map<Node, number>();
  /** Values that are the same for all pixels, in locals computed before the loops. */
  readonly steady = new Map<Node, number>();
  readonly taps: Taps;
  readonly readings: Readings;

  /** `before`: code ahead of the loops that `code` holds. */
  constructor(
    private readonly code: Code,
    before: Code,
    private readonly place: Place,
    private readonly counts: Counts,
  ) {
    const gathers = new Gather(code, before, counts);
    this.taps = new Taps(code, place, gathers);
    this.readings = new Readings(code, gathers, (n, body) => this.value(n, body), this.uses);
  }

  /** Pushes the node's four values. A node used more than once is kept in a local. */
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

  /** Computes a node into a local, for all of its users. */
  prepare(n: Node, body: Body): void {
    if (this.steady.has(n) || body.made.has(n)) return;
    const local = this.code.local(V128);
    this.value(n, body);
    this.code.set(local);
    body.made.set(n, local);
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
        return this.taps.columns(body);
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
      case 'input':
        return this.taps.input(n, body);
      case 'tap':
        return this.taps.tap(n, body);
      case 'fetch':
        return this.readings.fetch(n, body);
      case 'corner':
        return this.readings.corner(n, body);
      case 'lookup':
        return this.readings.lookup(n, body);
      case 'reduce':
        return this.reduce(n, body);
      default:
        throw new Error(`simd has no form for ${n.op}: lower the expression first`);
    }
  }

  /**
   * Writes the loop of a reduction with all of its sums; its other nodes then find theirs in
   * locals.
   */
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
      code
        .op(0x02)
        .byte(0x40)
        .get(turn)
        .get(count)
        .op(0x4e)
        .byte(0x0d)
        .unsigned(0)
        .op(0x03)
        .byte(0x40);
      const inner = body.inner();
      code.get(turn).simd(SIMD.splatI).set(turns);
      for (const leaf of inOrder(next)) {
        if (leaf.imm[0] !== id) continue;
        if (leaf.op === 'turn') inner.made.set(leaf, turns);
        else if (leaf.op === 'sum') inner.made.set(leaf, totals[leaf.imm[1]!]!);
      }
      next.forEach((v) => this.value(v, inner));
      [...totals].reverse().forEach((t) => code.set(t));
      code
        .get(turn)
        .i32(1)
        .op(0x6a)
        .tee(turn)
        .get(count)
        .op(0x48)
        .byte(0x0d)
        .unsigned(0)
        .op(0x0b)
        .op(0x0b);
    }
    code.get(totals[which]!);
  }

  /** Computes before a loop what its body needs and its turns do not change. */
  private beforeLoop(id: number, next: readonly Node[], body: Body): void {
    const inside = inOrder(next),
      loops = loopsOf(inside);
    const open = new Set([id, ...inside.flatMap((n) => (n.op === 'reduce' ? [n.imm[0]!] : []))]);
    for (const n of inside) {
      const still =
        ![...loops.get(n)!].some((l) => open.has(l)) && !COSTLESS.has(n.op) && !this.steady.has(n);
      if (still && inside.some((m) => loops.get(m)!.has(id) && m.args.includes(n)))
        this.prepare(n, body);
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

  private literal(n: Node): void {
    const bits =
      n.op === 'const' ? new Int32Array(new Float32Array([n.imm[0]!]).buffer)[0]! : n.imm[0]!;
    this.code.words([bits, bits, bits, bits]);
  }
}
