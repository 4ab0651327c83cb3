/**
 * Taps in the simd back end: pixels at constant offsets, by the addresses of their rows, with edges
 * resolved lane by lane.
 */
import type { Node } from './node';
import { ARGS, RUN_ARGS } from './simd-args';
import { type Body, type Place, type RowAddress, rowKey } from './simd-body';
import type { Gather } from './simd-gather';
import { type Code, I32, SIMD } from './wasm';

/** Writes inputs and taps. */
export class Taps {
  /** Addresses in the current row, by `rowKey`. */
  readonly rows = new Map<string, RowAddress>();

  constructor(
    private readonly code: Code,
    private readonly place: Place,
    private readonly gathers: Gather,
  ) {}

  /** Pushes the pixel itself. */
  input(n: Node, body: Body): void {
    const bias = this.pointer(rowKey(n), 1, body);
    this.code.simdMemory(SIMD.load, bias + body.vector * 16);
  }
  tap(n: Node, body: Body): void {
    if (body.edge) this.edgeTap(n, body);
    else this.innerTap(n, body);
  }

  /** Pushes the columns of the body's four pixels. */
  columns(body: Body): void {
    const first = body.vector * 4;
    this.code.get(this.place.x).simd(SIMD.splatI);
    this.code.words([first, first + 1, first + 2, first + 3]);
    this.code.simd(SIMD.iadd);
  }

  /**
   * Pushes the address of a row at the body's column. Returns the offset (bytes) that the memory
   * access must add.
   */
  private pointer(key: string, scale: number, body: Body): number {
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

  private innerTap(n: Node, body: Body): void {
    const { code } = this;
    const [, , dx, , , sx] = n.imm as readonly number[];
    const key = rowKey(n);
    const at = (extra: number) =>
      this.pointer(key, sx!, body) + dx! * 4 + extra + body.vector * 16 * sx!;
    if (sx === 2) {
      code.simdMemory(SIMD.load, at(0));
      code.simdMemory(SIMD.load, at(16)).shuffle([0, 2, 4, 6]);
    } else if (sx === 0.5) {
      code
        .simdMemory(SIMD.zero64, at(0))
        .tee(this.gathers.scratch[0]!)
        .get(this.gathers.scratch[0]!)
        .shuffle([0, 0, 1, 1]);
    } else code.simdMemory(SIMD.load, at(0));
    if (n.imm[4]) this.insideRows(n);
  }

  /** A tap with its columns resolved lane by lane by the edge rule; rows are clamped already. */
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

  /** Pushes the mask 0 ≤ coordinate < the input's size at `offset`. */
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

  /** Sets the values on the stack to 0 where a tap's row lies outside. */
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
}
