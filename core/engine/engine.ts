/**
 * Host of the simd back end: pictures in one shared memory, kernels as WebAssembly, rows divided
 * over threads.
 */
import type { Leaf } from '../graph';
import { ARGS, cachedTable, type TableSpec } from '../kernel';
import { type BackEnd, Computer, type PastRoom, type Planes } from './computer';
import { compile, type Group } from './fusion';
import { ARGUMENTS, type Image, Memory } from './memory';
import { type Kernel, Pool } from './pool';

/**
 * Limits of the table cache, above what any one kernel needs (a cube of 65 entries a side is 4.4
 * MB).
 */
const MOST_TABLES = 400,
  MOST_TABLE_BYTES = 96 * 2 ** 20;

interface Ready {
  readonly kernel: Kernel;
  /** Addresses of the kernel's tables. */
  readonly tables: readonly number[];
}

class Simd implements BackEnd<Image, Ready> {
  private readonly pool: Pool;
  private readonly kernels = new Map<string, Kernel>();
  private readonly tables = new Map<string, { readonly address: number; readonly bytes: number }>();
  private tableBytes = 0;

  constructor(
    private readonly memory: Memory,
    helpers: number,
  ) {
    this.pool = new Pool(memory.wasm, helpers);
  }

  room(width: number, height: number, planes: number): Image {
    return this.memory.image(width, height, planes);
  }
  release(image: Image): void {
    this.memory.release(image.address, image.bytes);
  }
  bytesOf(image: Image): number {
    return image.bytes;
  }
  load(leaf: Leaf, into: Image): void {
    for (let p = 0; p < leaf.planes; p++) leaf.load(p, (y) => this.memory.row(into, p, y));
  }
  ready(group: Group): Ready {
    return { kernel: this.kernel(group), tables: group.tables.map((t) => this.table(t)) };
  }
  fill(
    group: Group,
    { kernel, tables }: Ready,
    reads: readonly Image[],
    out: Image,
    stop: () => boolean,
  ): boolean {
    this.bind(group, reads, tables, out);
    return this.pool.fill(kernel, out.height, out.width, stop);
  }
  planes(image: Image): Planes {
    const { width, height, address } = image;
    const stride = image.stride / 4;
    const planes = Array.from({ length: image.planes }, (_, p) =>
      this.memory.floats(address + p * image.stride * height, stride * height),
    );
    return { width, height, stride, planes };
  }
  close(): void {
    this.pool.close();
  }

  private kernel(group: Group): Kernel {
    let kernel = this.kernels.get(group.shape);
    if (!kernel) {
      const { bytes } = compile(group);
      const code = this.memory.allocate(bytes.length);
      new Uint8Array(this.memory.wasm.buffer, code, bytes.length).set(bytes);
      kernel = {
        id: this.kernels.size + 1,
        run: this.pool.compile(bytes),
        code,
        codeSize: bytes.length,
      };
      this.kernels.set(group.shape, kernel);
    }
    return kernel;
  }

  /**
   * Address of a table. The least recently used tables are dropped first (dragging a curve makes a
   * new one each time).
   */
  private table(spec: TableSpec): number {
    const known = this.tables.get(spec.key);
    if (known) {
      this.tables.delete(spec.key);
      this.tables.set(spec.key, known);
      return known.address;
    }
    const data = cachedTable(spec);
    const made = { address: this.memory.allocate(data.byteLength), bytes: data.byteLength };
    this.memory.floats(made.address, data.length).set(data);
    this.tables.set(spec.key, made);
    this.tableBytes += made.bytes;
    while (
      this.tables.size > MOST_TABLES ||
      (this.tableBytes > MOST_TABLE_BYTES && this.tables.size > 1)
    ) {
      const [key, oldest] = this.tables.entries().next().value!;
      this.tables.delete(key);
      this.tableBytes -= oldest.bytes;
      this.memory.release(oldest.address, oldest.bytes);
    }
    return made.address;
  }

  private bind(group: Group, reads: readonly Image[], tables: readonly number[], out: Image): void {
    const base = ARGS.params(reads.length);
    const total = base / 4 + group.params.length + group.ints.length + tables.length;
    const ints = this.memory.ints(ARGUMENTS, total);
    const floats = this.memory.floats(ARGUMENTS, total);
    ints[ARGS.width / 4] = out.width;
    ints[ARGS.outStride / 4] = out.stride;
    for (let p = 0; p < out.planes; p++)
      ints[ARGS.out / 4 + p] = out.address + p * out.stride * out.height;
    reads.forEach((image, i) => {
      const at = ARGS.input(i) / 4;
      for (let p = 0; p < image.planes; p++)
        ints[at + p] = image.address + p * image.stride * image.height;
      ints.set([image.stride, image.width, image.height], at + 4);
    });
    let at = base / 4;
    for (const v of group.params) floats[at++] = v;
    for (const v of group.ints) ints[at++] = v;
    for (const v of tables) ints[at++] = v;
  }
}

/** Options of the simd engine. */
export interface EngineOptions {
  /** Memory limit in bytes. */
  readonly limit: number;
  /** Number of threads besides the engine's own; each must run `helpWith(memory)`. */
  readonly helpers: number;
  readonly memory?: Memory;
  /**
   * Where pictures go that later frames need and memory cannot hold. Without it they are
   * recomputed.
   */
  readonly past?: PastRoom<Image>;
}

/** Computes by simd: used for every final render, and for previews without a GPU. */
export class Engine extends Computer<Image> {
  readonly memory: Memory;
  constructor(options: EngineOptions) {
    const memory = options.memory ?? new Memory(options.limit);
    super(new Simd(memory, options.helpers), options.past);
    this.memory = memory;
  }
}
