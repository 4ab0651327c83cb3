/**
 * Computes graphs. Partitions them into kernels, lets a back end fill the pictures, and caches
 * these by content key within the back end's byte limit, least recently used first out.
 */
import { interned, type Leaf, type ImageOp, type ImageNode } from '../graph';
import { type Group, groupOf, materialised } from './fusion';

/** Thrown when the work was cancelled before it was done. */
export class Cancelled extends Error {
  constructor() {
    super('stale');
  }
}

/** Thrown when a back end has no memory left. `wanted` in bytes. */
export class OutOfMemory extends Error {
  constructor(readonly wanted: number) {
    super(`no room for ${wanted} bytes`);
  }
}

/** A picture as numbers: one array per plane, rows of `stride` numbers. */
export interface Planes {
  readonly width: number;
  readonly height: number;
  readonly stride: number;
  readonly planes: readonly Float32Array[];
}

/**
 * Allocates pictures of type `I` and runs kernels on them. `room` and `ready` throw `OutOfMemory`.
 */
export interface BackEnd<I, Ready = unknown> {
  room(width: number, height: number, planes: number): I;
  release(image: I): void;
  bytesOf(image: I): number;
  load(leaf: Leaf, into: I): void;
  /** Everything a kernel needs before it runs: its code and its tables. */
  ready(group: Group): Ready;
  /** Fills `out`. Returns false if `stop` ended it early. */
  fill(group: Group, ready: Ready, reads: readonly I[], out: I, stop: () => boolean): boolean;
  /** The picture's numbers, valid until the next call of any method. */
  planes(image: I): Planes;
  close(): void;
}

/**
 * External storage for pictures that later frames need and memory cannot hold. Throws what its
 * medium throws.
 */
export interface PastStore<I> {
  write(key: string, image: I): void;
  has(key: string): boolean;
  /** Fills a picture of the same size with what was written. */
  read(key: string, into: I): void;
  drop(key: string): void;
  close(): void;
}
/** Memory and external storage for pictures that later frames need. */
export interface PastRoom<I> {
  /** Bytes of memory for such pictures, given the size of one. */
  readonly bytes: (picture: number) => number;
  readonly store: PastStore<I>;
}

/** Options of one call of `compute`. */
export interface ComputeOptions {
  /**
   * `true` keeps every checkpoint and its inputs. Given the keys of what stays the same from call
   * to call, it keeps just the inputs of everything else.
   */
  readonly keepCheckpoints?: boolean | ReadonlySet<string>;
  readonly stop?: () => boolean;
  /** Index of the frame that is made. Pictures that later frames need are kept until then. */
  readonly frame?: number;
}

/**
 * The work of one call: which pictures are materialised, their kernels, and how many readers each
 * still has.
 */
interface Work {
  readonly own: ReadonlySet<ImageNode>;
  readonly groups: Map<ImageNode, Group>;
  readonly readers: Map<ImageNode, number>;
  /** Pictures to keep after the call. */
  readonly keeping: Set<ImageNode>;
  readonly keeps: (n: ImageNode) => boolean;
  readonly unchanged: ReadonlySet<string> | undefined;
  readonly stop: () => boolean;
}

/** What one call did: pictures computed, pictures found in the cache, and the time. */
export interface Stats {
  computed: number;
  found: number;
  milliseconds: number;
}

/** Computes graphs on one back end, with a cache of pictures of type `I`. */
export class Computer<I> {
  /** Pictures by content key, least recently used first. */
  private readonly pictures = new Map<string, I>();
  private readonly inUse = new Map<string, number>();
  /** Keys of results that the caller holds until the next call. */
  private readonly lent: string[] = [];
  /** Pictures that later frames need, with the last frame that needs each. */
  private readonly past = new Map<string, number>();
  /** Statistics of the latest `compute`. */
  tally: Stats = { computed: 0, found: 0, milliseconds: 0 };

  /** Bytes of each such picture in memory, and their sum. */
  private readonly pastHere = new Map<string, number>();
  private pastBytes = 0;
  /** Bytes of the largest of them so far. */
  private largest = 0;

  constructor(
    protected readonly backEnd: BackEnd<I>,
    private readonly pastRoom?: PastRoom<I>,
  ) {}

  /**
   * The picture of `root`, valid until the next call. With `keepCheckpoints` every layer's result
   * is kept (the Bench); without it neighbours fuse freely and nothing is kept (renders). Throws
   * `Cancelled` as soon as `stop` returns true, and `OutOfMemory`.
   */
  compute(root: ImageNode, how: ComputeOptions = {}): I {
    return this.computeAll([root], how)[0]!;
  }

  /** Several pictures that share work; otherwise as `compute`. */
  computeAll(
    asked: readonly ImageNode[],
    { keepCheckpoints = false, stop = () => false, frame }: ComputeOptions = {},
  ): I[] {
    const began = performance.now();
    const roots = interned(asked);
    this.tally = { computed: 0, found: 0, milliseconds: 0 };
    this.lent.splice(0).forEach((key) => this.forget(key));
    this.forgetPast(frame);
    const unchanged = typeof keepCheckpoints === 'object' ? keepCheckpoints : undefined;
    // A picture made for an earlier frame is read, never recomputed inside a kernel.
    const holds = (n: ImageNode): boolean =>
      n.heldUntil !== undefined &&
      (frame === undefined || n.heldUntil > frame || this.isThere(n.key));
    const keeps = (n: ImageNode): boolean =>
      holds(n) ||
      (n.kind === 'operation' &&
        n.isCheckpoint &&
        (unchanged ? unchanged.has(n.key) : keepCheckpoints === true));
    const own = materialised(roots, keeps);
    // Requested pictures outlive their last reader.
    const work: Work = {
      own,
      groups: new Map(),
      readers: new Map(),
      keeping: new Set(roots),
      keeps,
      unchanged,
      stop,
    };
    try {
      for (const root of roots) this.countReaders(root, work);
      return roots.map((root) => this.picture(root, work));
    } finally {
      this.inUse.clear();
      // Frees pictures that only this call needed, also when it was cancelled.
      for (const node of work.readers.keys()) if (!work.keeping.has(node)) this.forget(node.key);
      if (keepCheckpoints === false)
        this.lent.push(...roots.filter((r) => !this.past.has(r.key)).map((r) => r.key));
      this.tally.milliseconds = performance.now() - began;
    }
  }

  /**
   * Drops pictures that no later frame needs. Without a frame index (on the Bench) the byte limit
   * does this.
   */
  private forgetPast(frame: number | undefined): void {
    if (frame === undefined) return;
    for (const [key, until] of this.past)
      if (until < frame) {
        this.past.delete(key);
        this.pastRoom?.store.drop(key);
        this.forget(key);
      }
  }

  /** A computed picture's numbers, valid until the next call. */
  planes(image: I): Planes {
    return this.backEnd.planes(image);
  }

  /** Whether a picture is in the cache. */
  has(node: ImageNode): boolean {
    return this.isThere(node.key);
  }
  private isThere(key: string): boolean {
    return this.pictures.has(key) || (this.pastRoom?.store.has(key) ?? false);
  }
  close(): void {
    this.pastRoom?.store.close();
    this.backEnd.close();
  }

  /**
   * Counts the readers of each picture, so that its memory is freed after the last one. On the
   * Bench checkpoints and their inputs stay: a layer's last steps then change without its blurs
   * being recomputed. During a drag, whatever does not change stays as far as something that
   * changes reads it.
   */
  private countReaders(node: ImageNode, work: Work): void {
    if (work.readers.has(node)) return;
    work.readers.set(node, 0);
    const isThere = this.isThere(node.key);
    if (isThere) work.keeping.add(node); // What was at hand before stays at hand.
    if (node.heldUntil !== undefined && work.keeps(node)) {
      work.keeping.add(node);
      // A picture of an earlier frame is held as long as that frame asked for.
      if (!isThere || !this.past.has(node.key)) this.past.set(node.key, node.heldUntil);
      const here = this.pictures.get(node.key);
      if (here) this.countPast(node.key, here);
    }
    if (node.kind === 'leaf' || isThere) return;
    const group = groupOf(node, work.own);
    work.groups.set(node, group);
    const { unchanged } = work;
    if (unchanged && !unchanged.has(node.key))
      group.reads.filter((r) => unchanged.has(r.key)).forEach((r) => work.keeping.add(r));
    else if (!unchanged && work.keeps(node) && node.isCheckpoint)
      [node, ...group.reads].forEach((n) => work.keeping.add(n));
    for (const r of group.reads) {
      this.countReaders(r, work);
      work.readers.set(r, work.readers.get(r)! + 1);
    }
  }

  private picture(node: ImageNode, work: Work): I {
    const found = this.pictures.get(node.key);
    if (found) {
      this.pictures.delete(node.key);
      this.pictures.set(node.key, found);
      this.tally.found++;
      return found;
    }
    if (this.pastRoom?.store.has(node.key)) return this.broughtBack(node, this.pastRoom);
    return node.kind === 'leaf' ? this.loaded(node) : this.computed(node, work);
  }

  private loaded(node: Leaf): I {
    const image = this.withRoom(() => this.backEnd.room(node.width, node.height, node.planes));
    this.backEnd.load(node, image);
    this.put(node.key, image);
    return image;
  }
  private broughtBack(node: ImageNode, { store }: PastRoom<I>): I {
    const image = this.withRoom(() => this.backEnd.room(node.width, node.height, node.planes));
    store.read(node.key, image);
    this.tally.found++;
    this.put(node.key, image);
    return image;
  }
  private put(key: string, image: I): void {
    this.pictures.set(key, image);
    if (this.past.has(key)) this.countPast(key, image);
    this.putAside(key);
  }
  private countPast(key: string, image: I): void {
    if (this.pastHere.has(key)) return;
    const bytes = this.backEnd.bytesOf(image);
    this.pastHere.set(key, bytes);
    this.pastBytes += bytes;
    this.largest = Math.max(this.largest, bytes);
  }
  /**
   * Moves pictures of the past out of memory until the rest has room, those needed latest first
   * (Belady's rule). A trail reads its pictures in a circle, where the least recently used is the
   * next one needed.
   */
  private putAside(latest: string): void {
    const room = this.pastRoom?.bytes(this.largest) ?? Infinity;
    while (this.pastBytes > room) {
      const free = [...this.pastHere.keys()].filter(
        (key) => key !== latest && (this.inUse.get(key) ?? 0) === 0,
      );
      if (free.length === 0) return;
      const untilOf = (key: string): number => this.past.get(key) ?? -Infinity;
      this.forget(free.reduce((last, key) => (untilOf(key) > untilOf(last) ? key : last)));
    }
  }

  private computed(node: ImageOp, work: Work): I {
    const group = work.groups.get(node) ?? groupOf(node, work.own);
    const reads = group.reads.map((r) => {
      const image = this.picture(r, work);
      this.hold(r.key, 1);
      return image;
    });
    if (work.stop()) throw new Cancelled();
    const ready = this.withRoom(() => this.backEnd.ready(group));
    const out = this.withRoom(() => this.backEnd.room(node.width, node.height, node.planes));
    const whole = this.backEnd.fill(group, ready, reads, out, work.stop);
    for (const r of group.reads) {
      this.hold(r.key, -1);
      const left = (work.readers.get(r) ?? 1) - 1;
      work.readers.set(r, left);
      if (left === 0 && !work.keeping.has(r)) this.forget(r.key);
    }
    if (!whole) {
      this.backEnd.release(out);
      throw new Cancelled();
    }
    this.tally.computed++;
    this.put(node.key, out);
    return out;
  }

  private hold(key: string, by: number): void {
    this.inUse.set(key, (this.inUse.get(key) ?? 0) + by);
  }

  private withRoom<T>(make: () => T): T {
    for (;;)
      try {
        return make();
      } catch (e) {
        if (!(e instanceof OutOfMemory) || !this.forgetOldest()) throw e;
      }
  }
  private forgetOldest(): boolean {
    for (const key of this.pictures.keys())
      if ((this.inUse.get(key) ?? 0) === 0) return this.forget(key);
    return false;
  }
  private forget(key: string): boolean {
    const image = this.pictures.get(key);
    if (!image) return false;
    // A picture still needed is moved aside if possible, so that it is not recomputed.
    if (this.pastRoom && this.past.has(key) && !this.pastRoom.store.has(key))
      this.pastRoom.store.write(key, image);
    this.pastBytes -= this.pastHere.get(key) ?? 0;
    this.pastHere.delete(key);
    this.pictures.delete(key);
    this.backEnd.release(image);
    return true;
  }
}
