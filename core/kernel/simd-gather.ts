/**
 * Gathers in the simd back end: reads numbers at four addresses at once. Parts of an address that
 * are the same for all pixels (a plane's start, a stride, a table's start) are computed before the
 * loops.
 */
import { ARGS, type Counts, RUN_ARGS } from './simd-args';
import type { RowAddress } from './simd-body';
import { type Code, I32, SIMD, V128 } from './wasm';

/** Writes gathers into the code of a kernel. */
export class Gather {
  readonly scratch: readonly number[];
  private readonly anchors = new Map<string, number>();

  constructor(
    private readonly code: Code,
    private readonly before: Code,
    private readonly counts: Counts,
  ) {
    this.scratch = [0, 1, 2].map(() => code.local(V128));
  }

  /** A local for the value that `write` leaves on the stack, computed before the loops. */
  private anchor(key: string, type: number, write: (before: Code) => void): number {
    let local = this.anchors.get(key);
    if (local === undefined) {
      local = this.before.local(type);
      write(this.before);
      this.before.set(local);
      this.anchors.set(key, local);
    }
    return local;
  }
  /** Bytes from one row of an input to the next. */
  private stride(image: number): number {
    return this.anchor(`stride:${image}`, I32, (c) =>
      c.get(RUN_ARGS).load32(ARGS.input(image) + 16),
    );
  }
  private strides(image: number): number {
    const one = this.stride(image);
    return this.anchor(`strides:${image}`, V128, (c) => c.get(one).simd(SIMD.splatI));
  }
  /** Start of a plane, minus `less` bytes of a stride, for all four pixels. */
  private planes(
    image: number,
    plane: number,
    less?: (before: Code, stride: number) => void,
  ): number {
    const stride = this.stride(image);
    return this.anchor(`planes:${image}:${plane}:${less !== undefined}`, V128, (c) => {
      c.get(RUN_ARGS).load32(ARGS.input(image) + plane * 4);
      if (less) less(c, stride);
      c.simd(SIMD.splatI);
    });
  }

  /** Pushes four addresses in a plane, from integer columns and rows. */
  addresses(image: number, plane: number, x: () => void, y: () => void): void {
    const [start, strides] = [this.planes(image, plane), this.strides(image)];
    x();
    this.code.i32(2).simd(SIMD.ishl);
    y();
    this.code.get(strides).simd(SIMD.imul).simd(SIMD.iadd).get(start).simd(SIMD.iadd);
  }

  /**
   * Pushes four addresses in a plane, from columns and rows that are integers held as floats.
   * Adding 2²³ puts the integer into the low bits; the constant rest of the bits is subtracted from
   * the plane's start.
   */
  addressesOfWhole(image: number, plane: number, x: number, y: number): void {
    const BITS = 0x4b000000;
    const bits = (v: number): void => {
      this.code.get(v);
      this.code.words([BITS, BITS, BITS, BITS]);
      this.code.simd(SIMD.add);
    };
    const strides = this.strides(image);
    const start = this.planes(image, plane, (c, stride) =>
      c
        .get(stride)
        .i32(BITS)
        .op(0x6c)
        .op(0x6b)
        .i32((BITS << 2) | 0)
        .op(0x6b),
    );
    bits(y);
    this.code.get(strides).simd(SIMD.imul);
    bits(x);
    this.code.i32(2).simd(SIMD.ishl).simd(SIMD.iadd).get(start).simd(SIMD.iadd);
  }

  /** A local for the distance in bytes from a plane's row to another plane's, `down` rows below. */
  apart(image: number, plane: number, other: number, down: number): number {
    const stride = this.stride(image);
    return this.anchor(`apart:${image}:${plane}:${other}:${down}`, I32, (c) => {
      c.get(RUN_ARGS).load32(ARGS.input(image) + other * 4);
      c.get(RUN_ARGS).load32(ARGS.input(image) + plane * 4);
      c.op(0x6b);
      if (down) c.get(stride).op(0x6a);
    });
  }

  /**
   * Four loads at the byte offsets that `offsets` leaves on the stack, relative to `start` or
   * absolute.
   */
  gather(start: RowAddress | undefined, offsets: () => void): void {
    const { code, scratch } = this;
    const bias = start?.bias ?? 0;
    offsets();
    code.set(scratch[0]!);
    const address = (lane: number) => {
      code.get(scratch[0]!).simd(SIMD.laneI).byte(lane);
      if (start) code.get(start.local).op(0x6a);
    };
    address(0);
    code.simdMemory(SIMD.zero32, bias).set(scratch[1]!);
    for (const lane of [1, 2, 3]) {
      address(lane);
      code.get(scratch[1]!).simdMemory(SIMD.lane32, bias).byte(lane);
      if (lane < 3) code.set(scratch[1]!);
    }
  }

  /**
   * Pushes addresses of table entries of 2^`shift` bytes. The index is what `bits` leaves, without
   * its low `low` bits, minus `less`.
   */
  entries(slot: number, shift: 3 | 4, bits: () => void, low: number, less: number): void {
    const { code, counts } = this;
    const pointer = ARGS.params(counts.inputs) + (counts.params + counts.ints + slot) * 4;
    const start = this.anchor(`table:${slot}:${shift}:${less}`, V128, (c) =>
      c
        .get(RUN_ARGS)
        .load32(pointer)
        .i32((less << shift) | 0)
        .op(0x6b)
        .simd(SIMD.splatI),
    );
    bits();
    if (low > shift) {
      code.i32(low - shift).simd(SIMD.ishr);
      const mask = -(1 << shift);
      code.words([mask, mask, mask, mask]);
      code.simd(SIMD.and);
    } else code.i32(shift).simd(SIMD.ishl);
    code.get(start).simd(SIMD.iadd);
  }

  private entry(lane: number, load: number): void {
    this.code.get(this.scratch[0]!).simd(SIMD.laneI).byte(lane).simdMemory(load, 0);
  }
  /**
   * Loads two numbers at each of the four addresses on the stack: a local for the first ones, a
   * local for the second.
   */
  pairs(): readonly number[] {
    const { code, scratch } = this;
    code.set(scratch[0]!);
    this.entry(0, SIMD.zero64);
    this.entry(1, SIMD.zero64);
    code.shuffle([0, 4, 1, 5]).set(scratch[1]!);
    this.entry(2, SIMD.zero64);
    this.entry(3, SIMD.zero64);
    code.shuffle([0, 4, 1, 5]).set(scratch[2]!);
    const locals = [code.local(V128), code.local(V128)];
    code.get(scratch[1]!).get(scratch[2]!).shuffle([0, 1, 4, 5]).set(locals[0]!);
    code.get(scratch[1]!).get(scratch[2]!).shuffle([2, 3, 6, 7]).set(locals[1]!);
    return locals;
  }
  /**
   * Loads the first three numbers at each of the four addresses on the stack (a fourth is padding).
   */
  fours(): readonly number[] {
    const { code, scratch } = this;
    code.set(scratch[0]!);
    const low = scratch[1]!,
      high = scratch[2]!;
    const locals = [0, 1, 2].map(() => code.local(V128));
    this.entry(0, SIMD.load);
    code.tee(low);
    this.entry(1, SIMD.load);
    code.tee(high).shuffle([0, 4, 1, 5]).set(locals[0]!);
    code.get(low).get(high).shuffle([2, 6, 2, 6]).set(locals[2]!);
    this.entry(2, SIMD.load);
    code.tee(low);
    this.entry(3, SIMD.load);
    code.tee(high).shuffle([0, 4, 1, 5]).set(locals[1]!);
    code
      .get(locals[2]!)
      .get(low)
      .get(high)
      .shuffle([2, 6, 2, 6])
      .shuffle([0, 1, 4, 5])
      .set(locals[2]!);
    code.get(locals[0]!).get(locals[1]!).shuffle([0, 1, 4, 5]);
    code.get(locals[0]!).get(locals[1]!).shuffle([2, 3, 6, 7]).set(locals[1]!).set(locals[0]!);
    return locals;
  }
}
