/**
 * The simd back end: lowered expressions as one WebAssembly function that fills a band of rows,
 * four pixels at a time (eight for a small body). Values that depend on parameters alone are
 * computed once per band. Where taps may leave the picture, a second copy of the body resolves them
 * lane by lane.
 */
import { inOrder, type Node } from './node';
import { ARGS, type Counts, RUN_ARGS, RUN_Y0, RUN_Y1 } from './simd-args';
import { Body, type Place, rowKey } from './simd-body';
import { placesOf } from './simd-readings';
import { type Stage, stagesOf } from './simd-stages';
import { COSTLESS, Values } from './simd-values';
import { Code, I32, moduleOf, SIMD, V128 } from './wasm';

export { ARGS } from './simd-args';

/** A compiled kernel: the module's bytes and the arguments it takes. */
export interface CompiledShape extends Counts {
  readonly bytes: Uint8Array<ArrayBuffer>;
  readonly planes: number;
}

/**
 * Bodies of up to this many nodes are written twice per turn of the loop, which halves the cost of
 * addresses and of the loop itself.
 */
const SMALL = 700;

/** From this many rows read at once, planes that share no reading get their own loops. */
const MANY_ROWS = 24;

/**
 * Outputs computed by one loop over the columns of a row: their indices, and all nodes they depend
 * on.
 */
interface Part {
  readonly planes: readonly number[];
  readonly order: readonly Node[];
  readonly stages: readonly Stage[];
}

class Emitter {
  private readonly whole = new Code(3);
  /** Code that runs before the loops. */
  private readonly before = this.whole.stretch();
  private readonly code = this.whole.stretch();
  private readonly place: Place = {
    y: this.code.local(I32),
    x: this.code.local(I32),
    xBytes: this.code.local(I32),
  };
  private readonly lanes = [0, 1, 2].map(() => this.code.local(I32)) as [number, number, number];
  private readonly outRows: number[];
  private readonly order: readonly Node[];
  private readonly values: Values;

  constructor(
    private readonly outputs: readonly Node[],
    counts: Counts,
  ) {
    this.outRows = outputs.map(() => this.code.local(I32));
    this.order = inOrder(outputs);
    this.values = new Values(this.code, this.before, this.place, counts);
  }

  emit(): Uint8Array<ArrayBuffer> {
    const { code, outputs, order, place } = this;
    const { uses } = this.values;
    for (const n of order) for (const a of n.args) uses.set(a, (uses.get(a) ?? 0) + 1);
    for (const n of outputs) uses.set(n, (uses.get(n) ?? 0) + 1);
    this.hoist();
    code.get(RUN_Y0).set(place.y);
    code.op(0x03).byte(0x40); // loop over rows
    for (const part of this.parts()) this.row(part);
    code
      .get(place.y)
      .i32(1)
      .op(0x6a)
      .tee(place.y)
      .get(RUN_Y1)
      .op(0x48)
      .byte(0x0d)
      .unsigned(0)
      .op(0x0b);
    this.whole.append(this.before).append(code);
    return moduleOf(this.whole);
  }

  /**
   * All outputs together; or each by itself, for a tall stencil whose planes share no reading. A
   * processor's registers and prefetch streams can follow the row addresses of one plane only.
   */
  private parts(): readonly Part[] {
    const partOf = (planes: readonly number[]): Part => {
      const outputs = planes.map((i) => this.outputs[i]!);
      return {
        planes,
        order: inOrder(outputs),
        stages: stagesOf(outputs, placesOf, this.values.steady),
      };
    };
    const whole = partOf(this.outputs.map((_, i) => i));
    const readsOf = (p: Part): Node[] =>
      p.order.filter((n) => !this.values.steady.has(n) && n.op === 'tap');
    if (
      new Set(readsOf(whole).map(rowKey)).size < MANY_ROWS ||
      whole.order.some((n) => n.op === 'sum')
    )
      return [whole];
    const each = whole.planes.map((i) => partOf([i]));
    const apart = each.reduce((sum, p) => sum + readsOf(p).length, 0) === readsOf(whole).length;
    return apart ? each : [whole];
  }

  /** The columns of one row of a part. */
  private row(part: Part): void {
    const { code, place } = this;
    const taps = part.order.filter((n) => n.op === 'tap');
    this.rowAddresses(part);
    code.i32(0).set(place.x).i32(0).set(place.xBytes);
    if (taps.length === 0) return this.interior(part, () => this.width());
    const least = Math.max(0, ...taps.map(firstColumn));
    const head = Math.ceil(least / 4) * 4;
    const inside = (): void => {
      code.i32(head);
      this.width();
      this.minimum();
    };
    if (head > 0) this.columns(part, inside, true, 1);
    this.interior(part, () => {
      this.lastInterior(taps);
      this.width();
      this.minimum();
    });
    this.columns(part, () => this.width(), true, 1);
  }

  private width(): void {
    this.code.get(RUN_ARGS).load32(ARGS.width);
  }
  /** Pushes the smaller of two i32. */
  private minimum(): void {
    const [a, b] = this.lanes;
    this.code.set(a).set(b).get(a).get(b).get(a).get(b).op(0x48).op(0x1b);
  }

  /** The columns whose taps all lie inside, up to the bound that `until` pushes. */
  private interior(part: Part, until: () => void): void {
    const bound = this.code.local(I32);
    until();
    this.code.set(bound);
    if (part.order.length <= SMALL)
      this.columns(part, () => this.code.get(bound).i32(4).op(0x6b), false, 2);
    this.columns(part, () => this.code.get(bound), false, 1);
  }

  /**
   * Runs `vectors` bodies per turn from the current column, while it is below the bound that
   * `until` pushes.
   */
  private columns(
    { planes, stages }: Part,
    until: () => void,
    edge: boolean,
    vectors: number,
  ): void {
    const { code, place } = this;
    const bound = code.local(I32);
    until();
    code.set(bound);
    code
      .op(0x02)
      .byte(0x40)
      .get(place.x)
      .get(bound)
      .op(0x4e)
      .byte(0x0d)
      .unsigned(0)
      .op(0x03)
      .byte(0x40);
    const pointers = new Map<string, number>();
    const bodies = Array.from({ length: vectors }, (_, v) => new Body(edge, v, pointers));
    for (const { places, cells } of stages)
      for (const body of bodies) {
        for (const n of places) this.values.prepare(n, body);
        for (const some of cells) this.values.readings.readCells(some, body);
      }
    for (const body of bodies) this.body(planes, body);
    code
      .get(place.xBytes)
      .i32(16 * vectors)
      .op(0x6a)
      .set(place.xBytes);
    code
      .get(place.x)
      .i32(4 * vectors)
      .op(0x6a)
      .tee(place.x)
      .get(bound)
      .op(0x48)
      .byte(0x0d)
      .unsigned(0)
      .op(0x0b)
      .op(0x0b);
  }

  private body(planes: readonly number[], body: Body): void {
    for (const i of planes) {
      this.code.get(this.outRows[i]!).get(this.place.xBytes).op(0x6a);
      this.values.value(this.outputs[i]!, body);
      this.code.simdMemory(SIMD.store, body.vector * 16);
    }
  }

  /** The end of the columns from which four outputs' taps all lie inside. */
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

  /** Computes values that are the same for all pixels before the loops. */
  private hoist(): void {
    const { order, values } = this;
    const varying = new Set<Node>();
    for (const n of order) {
      const leaf =
        n.op === 'ix' ||
        n.op === 'iy' ||
        n.op === 'input' ||
        n.op === 'tap' ||
        n.op === 'fetch' ||
        n.op === 'turn' ||
        n.op === 'sum';
      if (leaf || n.args.some((a) => varying.has(a))) varying.add(n);
    }
    const wanted = new Set<Node>(this.outputs);
    for (const n of order) if (varying.has(n)) n.args.forEach((a) => wanted.add(a));
    const before = new Body(false, 0, new Map());
    for (const n of order)
      if (wanted.has(n) && !varying.has(n) && !COSTLESS.has(n.op)) {
        values.value(n, before);
        const local = this.code.local(V128);
        this.code.set(local);
        values.steady.set(n, local);
      }
  }

  private rowAddresses({ planes, order }: Part): void {
    const { code, place } = this;
    for (const plane of planes)
      code
        .get(RUN_ARGS)
        .load32(ARGS.out + plane * 4)
        .get(RUN_ARGS)
        .load32(ARGS.outStride)
        .get(place.y)
        .op(0x6c)
        .op(0x6a)
        .set(this.outRows[plane]!);
    const read = order.filter((n) => n.op === 'tap' || n.op === 'input');
    const biases = new Map<string, number>();
    for (const n of read)
      biases.set(
        rowKey(n),
        Math.max(biases.get(rowKey(n)) ?? 0, n.op === 'tap' ? -n.imm[2]! * 4 : 0),
      );
    for (const n of read) {
      const key = rowKey(n);
      if (!this.values.taps.rows.has(key)) this.rowAddress(n, key, biases.get(key)!);
    }
  }

  private rowAddress(n: Node, key: string, bias: number): void {
    const { code, place } = this;
    const [image, plane] = n.imm as readonly [number, number];
    const dy = n.op === 'tap' ? n.imm[3]! : 0,
      sy = n.op === 'tap' ? n.imm[6]! : 1;
    const local = code.local(I32),
      at = this.lanes[2];
    this.values.taps.rows.set(key, { local, bias });
    code.get(place.y);
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
      .i32(bias)
      .op(0x6b)
      .set(local);
  }
}

/** The first column whose tap lies inside on the left. */
const firstColumn = (t: Node): number => {
  const dx = t.imm[2]!,
    sx = t.imm[5]!;
  return sx === 1 ? -dx : sx === 2 ? Math.ceil(-dx / 2) : -2 * dx;
};

/**
 * WebAssembly for lowered `outputs`: `run(args, firstRow, endRow)`. Call it inside the `building`
 * scope of the nodes.
 */
export function emit(outputs: readonly Node[], counts: Counts): CompiledShape {
  return { bytes: new Emitter(outputs, counts).emit(), ...counts, planes: outputs.length };
}
