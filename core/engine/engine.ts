/**
 * Computes graphs: partitions them into kernels, compiles each shape once, shares rows over threads, and keeps
 * pictures by content key within a bound of bytes, the least recently used going first.
 */
import { ARGS, cachedTable, type TableSpec } from '../kernel';
import type { Operation, Picturing } from '../plan/graph';
import { compile, type Group, groupOf, materialised } from './fusion';
import { ARGUMENTS, type Image, Memory, OutOfMemory } from './memory';
import { type Kernel, Pool } from './pool';

/** The work became stale before it was done. */
export class Stale extends Error {
  constructor() {
    super('stale');
  }
}

export interface EngineOptions {
  /** Bytes of memory at most. */
  readonly limit: number;
  /** Threads besides the engine's own; each must run `helpWith(memory)`. */
  readonly helpers: number;
  readonly memory?: Memory;
}

export interface ComputeOptions {
  readonly keepMarked?: boolean;
  readonly stop?: () => boolean;
}

/** One call's work: which pictures stand alone, their kernels, and how many readers each still has. */
interface Work {
  readonly own: ReadonlySet<Picturing>;
  readonly groups: Map<Picturing, Group>;
  readonly readers: Map<Picturing, number>;
  /** Pictures to keep when the call is over. */
  readonly keeping: Set<Picturing>;
  readonly keepMarked: boolean;
  readonly stop: () => boolean;
}

/** More than any one kernel reads: so many tables, and so many bytes of them (a cube of 65 entries a side is 4.4 MB). */
const MOST_TABLES = 400,
  MOST_TABLE_BYTES = 96 * 2 ** 20;

export interface Tally {
  computed: number;
  found: number;
  milliseconds: number;
}

export class Engine {
  readonly memory: Memory;
  private readonly pool: Pool;
  private readonly kernels = new Map<string, Kernel>();
  private readonly tables = new Map<string, { readonly address: number; readonly bytes: number }>();
  private tableBytes = 0;
  /** Pictures by content key, least recently used first. */
  private readonly pictures = new Map<string, Image>();
  private readonly inUse = new Map<string, number>();
  /** Results of a render, lent until the next call. */
  private readonly lent: string[] = [];
  /** What the latest `compute` did. */
  tally: Tally = { computed: 0, found: 0, milliseconds: 0 };

  constructor(options: EngineOptions) {
    this.memory = options.memory ?? new Memory(options.limit);
    this.pool = new Pool(this.memory.wasm, options.helpers);
  }

  /**
   * The picture of `root`, valid until the next call. `keepMarked` keeps every layer's result (the Bench); without it
   * neighbours fuse freely and nothing is kept (renders). Throws `Stale` as soon as `stop` answers true.
   */
  compute(root: Picturing, how: ComputeOptions = {}): Image {
    return this.computeAll([root], how)[0]!;
  }

  /** Several pictures that share work, as `compute`. */
  computeAll(roots: readonly Picturing[], { keepMarked = false, stop = () => false }: ComputeOptions = {}): Image[] {
    const began = performance.now();
    this.tally = { computed: 0, found: 0, milliseconds: 0 };
    this.lent.splice(0).forEach((key) => this.forget(key));
    const work: Work = { own: materialised(roots, keepMarked), groups: new Map(), readers: new Map(), keeping: new Set(), keepMarked, stop };
    try {
      for (const root of roots) this.foresee(root, work);
      return roots.map((root) => this.picture(root, work));
    } finally {
      this.inUse.clear();
      // Pictures that only this call needed, whether it came to its end or not.
      for (const node of work.readers.keys()) if (!roots.includes(node) && !work.keeping.has(node)) this.forget(node.key);
      if (!keepMarked) this.lent.push(...roots.map((r) => r.key));
      this.tally.milliseconds = performance.now() - began;
    }
  }

  /** Whether a picture is at hand without computing. */
  has(node: Picturing): boolean {
    return this.pictures.has(node.key);
  }
  close(): void {
    this.pool.close();
  }

  /**
   * Counts who reads what, so that a picture's memory is free again after its last reader. On the Bench what is marked
   * stays, and what it is made from: a layer's last steps then change without its blurs.
   */
  private foresee(node: Picturing, work: Work): void {
    if (work.readers.has(node)) return;
    work.readers.set(node, 0);
    if (this.pictures.has(node.key)) work.keeping.add(node); // What was at hand before stays at hand.
    if (node.kind === 'leaf' || this.pictures.has(node.key)) return;
    const group = groupOf(node, work.own);
    work.groups.set(node, group);
    const stays = work.keepMarked && node.kept;
    if (stays) [node, ...group.reads].forEach((n) => work.keeping.add(n));
    for (const r of group.reads) {
      this.foresee(r, work);
      work.readers.set(r, work.readers.get(r)! + 1);
    }
  }

  private picture(node: Picturing, work: Work): Image {
    const found = this.pictures.get(node.key);
    if (found) {
      this.pictures.delete(node.key);
      this.pictures.set(node.key, found);
      this.tally.found++;
      return found;
    }
    return node.kind === 'leaf' ? this.loaded(node) : this.computed(node, work);
  }

  private loaded(node: Extract<Picturing, { kind: 'leaf' }>): Image {
    const image = this.room(node.width, node.height, node.planes);
    for (let p = 0; p < node.planes; p++) node.load(p, (y) => this.memory.row(image, p, y));
    this.pictures.set(node.key, image);
    return image;
  }

  private computed(node: Operation, work: Work): Image {
    const group = work.groups.get(node) ?? groupOf(node, work.own);
    const reads = group.reads.map((r) => {
      const image = this.picture(r, work);
      this.hold(r.key, 1);
      return image;
    });
    if (work.stop()) throw new Stale();
    const kernel = this.kernel(group);
    const tables = group.tables.map((t) => this.table(t));
    const out = this.room(node.width, node.height, node.planes);
    this.bind(group, reads, tables, out);
    const whole = this.pool.fill(kernel, node.height, node.width, work.stop);
    for (const r of group.reads) {
      this.hold(r.key, -1);
      const left = (work.readers.get(r) ?? 1) - 1;
      work.readers.set(r, left);
      if (left === 0 && !work.keeping.has(r)) this.forget(r.key);
    }
    if (!whole) {
      this.memory.release(out.address, out.bytes);
      throw new Stale();
    }
    this.tally.computed++;
    this.pictures.set(node.key, out);
    return out;
  }

  private hold(key: string, by: number): void {
    this.inUse.set(key, (this.inUse.get(key) ?? 0) + by);
  }

  private kernel(group: Group): Kernel {
    let kernel = this.kernels.get(group.shape);
    if (!kernel) {
      const { bytes } = compile(group);
      const code = this.claim(bytes.length);
      new Uint8Array(this.memory.wasm.buffer, code, bytes.length).set(bytes);
      kernel = { id: this.kernels.size + 1, run: this.pool.compile(bytes), code, codeSize: bytes.length };
      this.kernels.set(group.shape, kernel);
    }
    return kernel;
  }

  /** A table's address; of tables, too, the least recently used go first (a dragged curve makes a new one every time). */
  private table(spec: TableSpec): number {
    const known = this.tables.get(spec.key);
    if (known) {
      this.tables.delete(spec.key);
      this.tables.set(spec.key, known);
      return known.address;
    }
    const data = cachedTable(spec);
    const made = { address: this.claim(data.byteLength), bytes: data.byteLength };
    this.memory.floats(made.address, data.length).set(data);
    this.tables.set(spec.key, made);
    this.tableBytes += made.bytes;
    while (this.tables.size > MOST_TABLES || (this.tableBytes > MOST_TABLE_BYTES && this.tables.size > 1)) {
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
    for (let p = 0; p < out.planes; p++) ints[ARGS.out / 4 + p] = out.address + p * out.stride * out.height;
    reads.forEach((image, i) => {
      const at = ARGS.input(i) / 4;
      for (let p = 0; p < image.planes; p++) ints[at + p] = image.address + p * image.stride * image.height;
      ints.set([image.stride, image.width, image.height], at + 4);
    });
    let at = base / 4;
    for (const v of group.params) floats[at++] = v;
    for (const v of group.ints) ints[at++] = v;
    for (const v of tables) ints[at++] = v;
  }

  private room(width: number, height: number, planes: number): Image {
    for (;;)
      try {
        return this.memory.image(width, height, planes);
      } catch (e) {
        if (!(e instanceof OutOfMemory) || !this.forgetOldest()) throw e;
      }
  }
  private claim(bytes: number): number {
    for (;;)
      try {
        return this.memory.allocate(bytes);
      } catch (e) {
        if (!(e instanceof OutOfMemory) || !this.forgetOldest()) throw e;
      }
  }
  private forgetOldest(): boolean {
    for (const key of this.pictures.keys()) if ((this.inUse.get(key) ?? 0) === 0) return this.forget(key);
    return false;
  }
  private forget(key: string): boolean {
    const image = this.pictures.get(key);
    if (!image) return false;
    this.pictures.delete(key);
    this.memory.release(image.address, image.bytes);
    return true;
  }
}
