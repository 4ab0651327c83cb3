/** A small writer for WebAssembly: only the sections and instructions that kernels need. */
export class Bytes {
  readonly out: number[] = [];
  byte(...v: number[]): this {
    for (const b of v) this.out.push(b & 0xff);
    return this;
  }
  unsigned(v: number): this {
    v >>>= 0;
    do {
      const b = v & 0x7f;
      v >>>= 7;
      this.out.push(v ? b | 0x80 : b);
    } while (v);
    return this;
  }
  signed(v: number): this {
    for (;;) {
      const b = v & 0x7f;
      v >>= 7;
      if ((v === 0 && !(b & 0x40)) || (v === -1 && b & 0x40)) {
        this.out.push(b);
        return this;
      }
      this.out.push(b | 0x80);
    }
  }
  name(s: string): this {
    this.unsigned(s.length);
    for (let i = 0; i < s.length; i++) this.out.push(s.charCodeAt(i));
    return this;
  }
  append(b: Bytes): this {
    for (const v of b.out) this.out.push(v);
    return this;
  }
  section(id: number, body: Bytes): this {
    return this.byte(id).unsigned(body.out.length).append(body);
  }
}

/** Codes of value types. */
export const I32 = 0x7f,
  V128 = 0x7b;

/** Opcodes after the simd prefix 0xfd. */
export const SIMD = {
  load: 0x00,
  loadSplat32: 0x09,
  store: 0x0b,
  const: 0x0c,
  shuffle: 0x0d,
  splatI: 0x11,
  splatF: 0x13,
  laneI: 0x1b,
  ieq: 0x37,
  ilt: 0x39,
  feq: 0x41,
  flt: 0x43,
  fle: 0x45,
  not: 0x4d,
  and: 0x4e,
  andnot: 0x4f,
  or: 0x50,
  xor: 0x51,
  bitselect: 0x52,
  lane32: 0x56,
  zero32: 0x5c,
  zero64: 0x5d,
  floor: 0x68,
  ishl: 0xab,
  ishr: 0xad,
  iadd: 0xae,
  isub: 0xb1,
  imul: 0xb5,
  allTrue: 0xa3,
  imin: 0xb6,
  imax: 0xb8,
  abs: 0xe0,
  neg: 0xe1,
  sqrt: 0xe3,
  add: 0xe4,
  sub: 0xe5,
  mul: 0xe6,
  div: 0xe7,
  pmin: 0xea,
  pmax: 0xeb,
  toInt: 0xf8,
  toFloat: 0xfa,
} as const;

/** The body of one function, with its locals. */
export class Code extends Bytes {
  constructor(
    private readonly parameters: number,
    private readonly types: number[] = [],
  ) {
    super();
  }
  /** Another part of the same function, sharing its locals, to be appended later. */
  stretch(): Code {
    return new Code(this.parameters, this.types);
  }
  local(type: number): number {
    this.types.push(type);
    return this.parameters + this.types.length - 1;
  }
  get(i: number): this {
    return this.byte(0x20).unsigned(i);
  }
  set(i: number): this {
    return this.byte(0x21).unsigned(i);
  }
  tee(i: number): this {
    return this.byte(0x22).unsigned(i);
  }
  /** Pushes a vector of four integers (or the bits of floats). */
  words(w: readonly number[]): this {
    this.simd(SIMD.const);
    for (const v of w) this.byte(v, v >> 8, v >> 16, v >> 24);
    return this;
  }
  i32(v: number): this {
    return this.byte(0x41).signed(v | 0);
  }
  /**
   * 0x6a add, 0x6b sub, 0x6c mul, 0x74 shl, 0x75 shr_s, 0x48 lt_s, 0x4a gt_s, 0x4e ge_s, 0x1b
   * select.
   */
  op(v: number): this {
    return this.byte(v);
  }
  load32(offset: number): this {
    return this.byte(0x28, 2).unsigned(offset);
  }
  simd(v: number): this {
    return this.byte(0xfd).unsigned(v);
  }
  simdMemory(v: number, offset: number, align = 2): this {
    return this.simd(v).unsigned(align).unsigned(offset);
  }
  shuffle(words: readonly number[]): this {
    this.simd(SIMD.shuffle);
    for (const w of words) this.byte(w * 4, w * 4 + 1, w * 4 + 2, w * 4 + 3);
    return this;
  }
  /** Locals, instructions and the end mark, as the code section has them. */
  finished(): Bytes {
    const runs: [number, number][] = [];
    for (const t of this.types)
      if (runs.at(-1)?.[1] === t) runs.at(-1)![0]++;
      else runs.push([1, t]);
    const body = new Bytes().unsigned(runs.length);
    for (const [count, type] of runs) body.unsigned(count).byte(type);
    return body.append(this).byte(0x0b);
  }
}

/** A module with one function `run(i32, i32, i32)` over an imported shared memory `m.m`. */
export function moduleOf(code: Code): Uint8Array<ArrayBuffer> {
  const out = new Bytes().byte(0x00, 0x61, 0x73, 0x6d, 1, 0, 0, 0);
  out.section(1, new Bytes().unsigned(1).byte(0x60).unsigned(3).byte(I32, I32, I32).unsigned(0));
  out.section(
    2,
    new Bytes().unsigned(1).name('m').name('m').byte(2, 3).unsigned(1).unsigned(65536),
  );
  out.section(3, new Bytes().unsigned(1).unsigned(0));
  out.section(7, new Bytes().unsigned(1).name('run').byte(0).unsigned(0));
  const body = code.finished();
  out.section(10, new Bytes().unsigned(1).unsigned(body.out.length).append(body));
  return new Uint8Array(out.out);
}
