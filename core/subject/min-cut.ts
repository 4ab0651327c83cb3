/**
 * Minimum cut between two terminals by augmenting paths in two search trees (Boykov and Kolmogorov,
 * *An Experimental Comparison of Min-Cut/Max-Flow Algorithms*, 2004). Capacities are whole numbers,
 * so that a cut is exact and the same everywhere.
 */

const NONE = -1,
  TERMINAL = -2,
  ORPHAN = -3;
const FAR = 0x7fffffff;

/** A graph whose nodes hang on two terminals and on one another. */
export class MinCut {
  /** Capacity from the source where positive, to the sink where negative. */
  readonly terminal: Int32Array;
  private readonly first: Int32Array;
  private readonly next: Int32Array;
  private readonly head: Int32Array;
  private readonly residual: Int32Array;
  private edges = 0;

  private readonly parent: Int32Array;
  private readonly isSink: Uint8Array;
  private readonly stamp: Int32Array;
  private readonly distance: Int32Array;
  /** Queue of nodes whose surroundings are to be searched; a ring with room for all. */
  private readonly queue: Int32Array;
  private readonly queued: Uint8Array;
  private queueFrom = 0;
  private queueTo = 0;
  private readonly orphans: number[] = [];
  private time = 0;

  /** `most`: the number of edges, at most. */
  constructor(
    private readonly nodes: number,
    most: number,
  ) {
    this.terminal = new Int32Array(nodes);
    this.first = new Int32Array(nodes).fill(NONE);
    this.next = new Int32Array(2 * most);
    this.head = new Int32Array(2 * most);
    this.residual = new Int32Array(2 * most);
    this.parent = new Int32Array(nodes).fill(NONE);
    this.isSink = new Uint8Array(nodes);
    this.stamp = new Int32Array(nodes);
    this.distance = new Int32Array(nodes);
    this.queue = new Int32Array(nodes + 1);
    this.queued = new Uint8Array(nodes);
  }

  /** An edge of the same capacity both ways. */
  edge(a: number, b: number, capacity: number): void {
    this.arc(a, b, capacity);
    this.arc(b, a, capacity);
  }
  private arc(from: number, to: number, capacity: number): void {
    const at = this.edges++;
    this.head[at] = to;
    this.residual[at] = capacity;
    this.next[at] = this.first[from]!;
    this.first[from] = at;
  }

  /** The cut: 1 for nodes on the source's side. Nodes that hang on neither are on the sink's. */
  solve(): Uint8Array {
    for (let i = 0; i < this.nodes; i++) {
      const t = this.terminal[i]!;
      if (t === 0) continue;
      this.isSink[i] = t < 0 ? 1 : 0;
      this.parent[i] = TERMINAL;
      this.distance[i] = 1;
      this.activate(i);
    }
    let current = NONE;
    for (;;) {
      const i = current !== NONE && this.parent[current] !== NONE ? current : this.nextActive();
      if (i === NONE) break;
      const meeting = this.grow(i);
      this.time++;
      if (meeting === NONE) {
        current = NONE;
        continue;
      }
      current = i;
      this.augment(meeting);
      // Orphans are adopted in the order in which they were left.
      for (let k = 0; k < this.orphans.length; k++) this.adopt(this.orphans[k]!);
      this.orphans.length = 0;
    }
    const out = new Uint8Array(this.nodes);
    for (let i = 0; i < this.nodes; i++)
      out[i] = this.parent[i] !== NONE && this.isSink[i] === 0 ? 1 : 0;
    return out;
  }

  private activate(i: number): void {
    if (this.queued[i]) return;
    this.queued[i] = 1;
    this.queue[this.queueTo] = i;
    this.queueTo = this.queueTo === this.nodes ? 0 : this.queueTo + 1;
  }
  private nextActive(): number {
    while (this.queueFrom !== this.queueTo) {
      const i = this.queue[this.queueFrom]!;
      this.queueFrom = this.queueFrom === this.nodes ? 0 : this.queueFrom + 1;
      this.queued[i] = 0;
      if (this.parent[i] !== NONE) return i;
    }
    return NONE;
  }

  /** Grows a tree from a node; the arc from the source's tree to the sink's where they meet. */
  private grow(i: number): number {
    const { next, head, residual, parent, isSink, stamp, distance } = this;
    const sink = isSink[i]!;
    for (let a = this.first[i]!; a !== NONE; a = next[a]!) {
      if (residual[sink ? a ^ 1 : a] === 0) continue;
      const j = head[a]!;
      if (parent[j] === NONE) {
        isSink[j] = sink;
        parent[j] = a ^ 1;
        stamp[j] = stamp[i]!;
        distance[j] = distance[i]! + 1;
        this.activate(j);
      } else if (isSink[j] !== sink) {
        return sink ? a ^ 1 : a;
      } else if (stamp[j]! <= stamp[i]! && distance[j]! > distance[i]!) {
        // A shorter way to the terminal.
        parent[j] = a ^ 1;
        stamp[j] = stamp[i]!;
        distance[j] = distance[i]! + 1;
      }
    }
    return NONE;
  }

  private augment(middle: number): void {
    const { head, residual, parent, terminal } = this;
    let most = residual[middle]!,
      i = head[middle ^ 1]!;
    for (; parent[i]! >= 0; i = head[parent[i]!]!) most = Math.min(most, residual[parent[i]! ^ 1]!);
    most = Math.min(most, terminal[i]!);
    for (i = head[middle]!; parent[i]! >= 0; i = head[parent[i]!]!)
      most = Math.min(most, residual[parent[i]!]!);
    most = Math.min(most, -terminal[i]!);

    residual[middle]! -= most;
    residual[middle ^ 1]! += most;
    for (i = head[middle ^ 1]!; parent[i]! >= 0;) {
      const a = parent[i]!;
      residual[a]! += most;
      if ((residual[a ^ 1]! -= most) === 0) this.leave(i);
      i = head[a]!;
    }
    if ((terminal[i]! -= most) === 0) this.leave(i);
    for (i = head[middle]!; parent[i]! >= 0;) {
      const a = parent[i]!;
      residual[a ^ 1]! += most;
      if ((residual[a]! -= most) === 0) this.leave(i);
      i = head[a]!;
    }
    if ((terminal[i]! += most) === 0) this.leave(i);
  }
  private leave(i: number): void {
    this.parent[i] = ORPHAN;
    this.orphans.push(i);
  }

  /** Finds an orphan the nearest parent that hangs on the same terminal, or sets it free. */
  private adopt(i: number): void {
    const { next, head, residual, parent, isSink, stamp, distance } = this;
    const sink = isSink[i]!;
    let best = NONE,
      least = FAR;
    for (let a = this.first[i]!; a !== NONE; a = next[a]!) {
      if (residual[sink ? a : a ^ 1] === 0) continue;
      const from = head[a]!;
      if (isSink[from] !== sink || parent[from] === NONE) continue;
      const d = this.distanceFrom(from);
      if (d === FAR) continue;
      if (d < least) {
        best = a;
        least = d;
      }
      let along = d;
      for (let j = from; stamp[j] !== this.time; j = head[parent[j]!]!) {
        stamp[j] = this.time;
        distance[j] = along--;
      }
    }
    if (best !== NONE) {
      parent[i] = best;
      stamp[i] = this.time;
      distance[i] = least + 1;
      return;
    }
    parent[i] = NONE;
    for (let a = this.first[i]!; a !== NONE; a = next[a]!) {
      const j = head[a]!;
      if (isSink[j] !== sink || parent[j] === NONE) continue;
      if (residual[sink ? a : a ^ 1] !== 0) this.activate(j);
      if (parent[j]! >= 0 && head[parent[j]!] === i) this.leave(j);
    }
  }
  /** Number of arcs from a node to its terminal; `FAR` where its way ends in an orphan. */
  private distanceFrom(node: number): number {
    const { head, parent, stamp, distance } = this;
    let d = 0;
    for (let j = node; ; j = head[parent[j]!]!) {
      if (stamp[j] === this.time) return d + distance[j]!;
      const a = parent[j]!;
      d++;
      if (a === TERMINAL) {
        stamp[j] = this.time;
        distance[j] = 1;
        return d;
      }
      if (a === ORPHAN || a === NONE) return FAR;
    }
  }
}
