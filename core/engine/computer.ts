/**
 * Computes graphs: partitions them into kernels, has a back end fill the pictures, and keeps those
 * by content key within the back end's bound of bytes, the least recently used going first.
 */
import { interned, type Leaf, type ImageOp, type ImageNode } from '../graph';
import { type Group, groupOf, materialised } from './fusion';

/** The work became stale before it was done. */
export class Cancelled extends Error {
  constructor() {
    super('stale');
  }
}

/** A back end cannot hold any more. */
export class OutOfMemory extends Error {
  constructor(readonly wanted: number) {
    super(`no room for ${wanted} bytes`);
  }
}

/** A picture as its numbers: rows of `stride` numbers, one array a plane. */
export interface Planes {
  readonly width: number;
  readonly height: number;
  readonly stride: number;
  readonly planes: readonly Float32Array[];
}

/**
 * Where pictures of kind `I` lie and how kernels fill them. `room` and `ready` throw `OutOfMemory`.
 */
export interface BackEnd<I, Ready = unknown> {
  room(width: number, height: number, planes: number): I;
  release(image: I): void;
  bytesOf(image: I): number;
  load(leaf: Leaf, into: I): void;
  /** All that a kernel needs before it runs: its code, its tables. */
  ready(group: Group): Ready;
  /** Fills `out`; false if `stop` said so before the end. */
  fill(group: Group, ready: Ready, reads: readonly I[], out: I, stop: () => boolean): boolean;
  /** Valid until the next call of any kind. */
  planes(image: I): Planes;
  close(): void;
}

/**
 * Where pictures go that later frames need when they are too many for memory. Throws what its
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
/** The past's room: some of it in memory, the rest in a store. */
export interface PastRoom<I> {
  /** How many bytes of it memory holds where pictures take as many bytes as `picture`. */
  readonly bytes: (picture: number) => number;
  readonly store: PastStore<I>;
}

export interface ComputeOptions {
  /**
   * Keep every marked picture and what it is made from; or, given the keys of what stays as it is
   * from call to call, just what all else is made from.
   */
  readonly keepCheckpoints?: boolean | ReadonlySet<string>;
  readonly stop?: () => boolean;
  /**
   * The clip's frame that is made: pictures that later frames need are kept for them, and no
   * longer.
   */
  readonly frame?: number;
}

/**
 * One call's work: which pictures stand alone, their kernels, and how many readers each still has.
 */
interface Work {
  readonly own: ReadonlySet<ImageNode>;
  readonly groups: Map<ImageNode, Group>;
  readonly readers: Map<ImageNode, number>;
  /** Pictures to keep when the call is over. */
  readonly keeping: Set<ImageNode>;
  readonly keeps: (n: ImageNode) => boolean;
  readonly unchanged: ReadonlySet<string> | undefined;
  readonly stop: () => boolean;
}

export interface Stats {
  computed: number;
  found: number;
  milliseconds: number;
}

export class Computer<I> {
  /** Pictures by content key, least recently used first. */
  private readonly pictures = new Map<string, I>();
  private readonly inUse = new Map<string, number>();
  /** Results of a render, lent until the next call. */
  private readonly lent: string[] = [];
  /** Pictures that later frames need, and the last frame that does. */
  private readonly past = new Map<string, number>();
  /** What the latest `compute` did. */
  tally: Stats = { computed: 0, found: 0, milliseconds: 0 };

  /** Bytes of each picture of the past that is in memory, and of all of them. */
  private readonly pastHere = new Map<string, number>();
  private pastBytes = 0;
  /** Bytes of the largest of them so far. */
  private largest = 0;

  constructor(
    protected readonly backEnd: BackEnd<I>,
    private readonly pastRoom?: PastRoom<I>,
  ) {}

  /**
   * The picture of `root`, valid until the next call. `keepCheckpoints` keeps every layer's result
   * (the Bench); without it neighbours fuse freely and nothing is kept (renders). Throws
   * `Cancelled` as soon as `stop` answers true.
   */
  compute(root: ImageNode, how: ComputeOptions = {}): I {
    return this.computeAll([root], how)[0]!;
  }

  /** Several pictures that share work, as `compute`. */
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
    // What an earlier frame made for this one is read, never made again inside a kernel.
    const holds = (n: ImageNode): boolean =>
      n.heldUntil !== undefined &&
      (frame === undefined || n.heldUntil > frame || this.isThere(n.key));
    const keeps = (n: ImageNode): boolean =>
      holds(n) ||
      (n.kind === 'operation' &&
        n.isCheckpoint &&
        (unchanged ? unchanged.has(n.key) : keepCheckpoints === true));
    const own = materialised(roots, keeps);
    // What is asked for outlives its last reader among the rest.
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
      // Pictures that only this call needed, whether it came to its end or not.
      for (const node of work.readers.keys()) if (!work.keeping.has(node)) this.forget(node.key);
      if (keepCheckpoints === false)
        this.lent.push(...roots.filter((r) => !this.past.has(r.key)).map((r) => r.key));
      this.tally.milliseconds = performance.now() - began;
    }
  }

  /**
   * Forgets pictures that no later frame needs; without a frame (on the Bench) the bound of bytes
   * sees to that.
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

  /** Whether a picture is at hand without computing. */
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
   * Counts who reads what, so that a picture's memory is free again after its last reader. On the
   * Bench what is marked stays, and what it is made from: a layer's last steps then change without
   * its blurs. While something is dragged, what does not change stays as far as what does is made
   * from it.
   */
  private countReaders(node: ImageNode, work: Work): void {
    if (work.readers.has(node)) return;
    work.readers.set(node, 0);
    const isThere = this.isThere(node.key);
    if (isThere) work.keeping.add(node); // What was at hand before stays at hand.
    if (node.heldUntil !== undefined && work.keeps(node)) {
      work.keeping.add(node);
      // What an earlier frame made is held as long as that frame asked for.
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
   * Takes the past that is needed longest out of memory until the rest of it has room there: what
   * is needed next stays (Belady's rule; a trail's pictures come round in a circle, of which the
   * least recently used is the next one read).
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
    // What is still needed is not made again where it can be put aside.
    if (this.pastRoom && this.past.has(key) && !this.pastRoom.store.has(key))
      this.pastRoom.store.write(key, image);
    this.pastBytes -= this.pastHere.get(key) ?? 0;
    this.pastHere.delete(key);
    this.pictures.delete(key);
    this.backEnd.release(image);
    return true;
  }
}
