/**
 * Readings at computed places in the simd back end: pixels anywhere, bilinear cells, table entries.
 */
import type { Node } from './node';
import type { Body } from './simd-body';
import { cellKey, cellsOf, wholeCells } from './simd-cells';
import type { Gather } from './simd-gather';
import { type Code, SIMD, V128 } from './wasm';

/** A fetch's column as a base column that others may share, plus a step of 0 or 1. */
function besides(n: Node): { readonly x: Node; readonly step: 0 | 1 } {
  const [x] = n.args as readonly [Node];
  const one = x.op === 'iadd' && x.args[1]!.op === 'iconst' && x.args[1]!.imm[0] === 1;
  return one ? { x: x.args[0]!, step: 1 } : { x, step: 0 };
}
const besideKey = (n: Node): string =>
  `${n.imm[0]}:${n.imm[1]}@${besides(n).x.id},${n.args[1]!.id}`;

const plain = (n: Node): Node => (n.op === 'asInt' || n.op === 'asFloat' ? plain(n.args[0]!) : n);
const isNumber = (n: Node): boolean => n.op === 'const' || n.op === 'iconst';
/** The nodes that a reading's place depends on. */
export function placesOf(n: Node): readonly Node[] {
  const all =
    n.op === 'lookup'
      ? [indexed(n.args[0]!).bits]
      : n.op === 'corner'
        ? n.args.slice(1, 3)
        : [besides(n).x, n.args[1]!];
  return all.map(plain).filter((a) => !isNumber(a));
}

/** Writes readings at computed places. */
export class Readings {
  /** `value` pushes a node's four values; `uses` counts the users of all nodes. */
  constructor(
    private readonly code: Code,
    private readonly gathers: Gather,
    private readonly value: (n: Node, body: Body) => void,
    private readonly uses: ReadonlyMap<Node, number>,
  ) {}

  /** Two adjacent numbers that are both needed are loaded at once. */
  fetch(n: Node, body: Body): void {
    const { x, step } = besides(n);
    const [image, plane] = n.imm as readonly [number, number];
    const row = () => this.value(n.args[1]!, body);
    if (!this.sideBySide().has(besideKey(n)))
      return this.gathers.gather(undefined, () =>
        this.gathers.addresses(image, plane, () => this.value(n.args[0]!, body), row),
      );
    let locals = body.entries.get(besideKey(n));
    if (!locals) {
      this.gathers.addresses(image, plane, () => this.value(x, body), row);
      locals = this.gathers.pairs();
      body.entries.set(besideKey(n), locals);
    }
    this.code.get(locals[step]!);
  }
  private beside: Set<string> | undefined;
  private sideBySide(): Set<string> {
    if (this.beside) return this.beside;
    const steps = new Map<string, number>();
    for (const n of this.uses.keys())
      if (n.op === 'fetch')
        steps.set(besideKey(n), (steps.get(besideKey(n)) ?? 0) | (1 << besides(n).step));
    return (this.beside = new Set([...steps].filter(([, s]) => s === 3).map(([key]) => key)));
  }

  corner(n: Node, body: Body): void {
    const key = cellKey(n);
    if (!body.entries.has(key)) this.readCells([n], body);
    this.code.get(body.entries.get(key)![this.cells().get(key)!.indexOf(n)]!);
  }

  /**
   * Reads all needed corners of some cells (of one image, by one edge rule), of all planes at once.
   * If the cells of all four pixels lie inside the picture, two numbers at a time from their rows;
   * otherwise one by one by the edge rule.
   */
  readCells(some: readonly Node[], body: Body): void {
    const { code } = this;
    const cells = some.map((n) => {
      const [x, y] = n.args.slice(1, 3).map((at) => {
        const local = code.local(V128);
        this.value(at, body);
        code.set(local);
        return local;
      }) as [number, number];
      const wanted = this.cells().get(cellKey(n))!;
      return { key: cellKey(n), x, y, wanted, into: wanted.map(() => code.local(V128)) };
    });
    const [lastX, lastY] = some[0]!.args.slice(3) as [Node, Node];
    // Each place is compared by itself: a minimum of several would drop one that is no number.
    let joined = false;
    const join = (): void => {
      if (joined) code.simd(SIMD.and);
      joined = true;
    };
    for (const [of, last] of [
      ['x', lastX],
      ['y', lastY],
    ] as const)
      for (const cell of cells) {
        code.words([0, 0, 0, 0]).get(cell[of]).simd(SIMD.fle);
        join();
        code.get(cell[of]);
        this.value(last, body);
        code.simd(SIMD.flt);
        join();
      }
    code.simd(SIMD.allTrue).op(0x04).byte(0x40);
    for (const c of cells) wholeCells(code, this.gathers, c, c.wanted, c.into);
    code.op(0x05);
    const slow = body.inner();
    for (const c of cells)
      c.wanted.forEach((corner, i) => {
        this.value(corner.args[0]!, slow);
        code.set(c.into[i]!);
      });
    code.op(0x0b);
    cells.forEach((c) => body.entries.set(c.key, c.into));
  }
  private cells(): Map<string, Node[]> {
    return (this.cellsFound ??= cellsOf(this.uses.keys()));
  }
  private cellsFound: Map<string, Node[]> | undefined;

  /**
   * Table entries are pairs or fours: all of an entry is loaded at once and kept for other nodes.
   */
  lookup(n: Node, body: Body): void {
    const [slot, which, width] = n.imm as readonly [number, number, 2 | 4];
    const key = `${slot}:${n.args[0]!.id}`;
    let locals = body.entries.get(key);
    if (!locals) {
      const { bits, low, less } = indexed(n.args[0]!);
      this.gathers.entries(slot, width === 2 ? 3 : 4, () => this.value(bits, body), low, less);
      locals = width === 2 ? this.gathers.pairs() : this.gathers.fours();
      body.entries.set(key, locals);
    }
    this.code.get(locals[which]!);
  }
}

/**
 * An index written as (bits >> low) − less, where it has that form: parts of it are then computed
 * once for all pixels.
 */
function indexed(index: Node): {
  readonly bits: Node;
  readonly low: number;
  readonly less: number;
} {
  const off = index.op === 'isub' && index.args[1]!.op === 'iconst';
  const from = off ? index.args[0]! : index,
    less = off ? index.args[1]!.imm[0]! : 0;
  return from.op === 'ishr' && from.imm[0]! > 4
    ? { bits: from.args[0]!, low: from.imm[0]!, less }
    : { bits: from, low: 0, less };
}
