/**
 * Partitions a graph into kernels. An operation is fused into its reader's kernel unless its
 * neighbours are read, several kernels read it, or it is a checkpoint. Storing values as f32
 * between operations changes no bit, and neither does fusing.
 */
import { buildingAt, layoutName, type ImageOp, type ImageNode } from '../graph';
import {
  building,
  type CompiledShape,
  emit,
  input,
  lower,
  type Node,
  type Pixel,
  type TableSpec,
  tap,
} from '../kernel';

/** One kernel: an operation with all operations fused into it. */
export interface Group {
  readonly root: ImageOp;
  /** Operations inside the kernel, inputs before their readers; the root is last. */
  readonly members: readonly ImageOp[];
  /** Pictures that must be computed first. */
  readonly reads: readonly ImageNode[];
  readonly shape: string;
  readonly params: readonly number[];
  readonly ints: readonly number[];
  readonly tables: readonly TableSpec[];
}

/**
 * Operations that are materialised (become pictures of their own) when `roots` are computed: those
 * whose neighbours are read, checkpoints, wide ones, and those that two kernels need. Several
 * readers inside one kernel share one computation.
 */
export function materialised(
  roots: readonly ImageNode[],
  keeps: (n: ImageNode) => boolean,
): Set<ImageNode> {
  const own = new Set<ImageNode>(roots);
  /** The root of the kernel in which each operation is computed. */
  const kernelOf = new Map<ImageNode, ImageNode>();
  for (const n of readersFirst(roots)) {
    if (n.kind === 'leaf' || n.wide || keeps(n)) own.add(n);
    if (own.has(n)) kernelOf.set(n, n);
    if (n.kind === 'leaf') continue;
    const kernel = kernelOf.get(n)!;
    for (const { from, window } of n.inputs) {
      if (window || (kernelOf.get(from) ?? kernel) !== kernel) own.add(from);
      kernelOf.set(from, kernel);
    }
  }
  return own;
}

/** All nodes that `roots` depend on, each after all of its readers. */
function readersFirst(roots: readonly ImageNode[]): ImageNode[] {
  const seen = new Set<ImageNode>();
  const order: ImageNode[] = [];
  const visit = (n: ImageNode): void => {
    if (seen.has(n)) return;
    seen.add(n);
    if (n.kind === 'operation') n.inputs.forEach((i) => visit(i.from));
    order.push(n);
  };
  roots.forEach(visit);
  return order.reverse();
}

/** The kernel that computes `root`, given the set of materialised pictures. */
export function groupOf(root: ImageOp, own: ReadonlySet<ImageNode>): Group {
  const members: ImageOp[] = [];
  const reads: ImageNode[] = [];
  const names = new Map<ImageNode, string>();
  let shape = '';
  const visit = (n: ImageNode): string => {
    const known = names.get(n);
    if (known) return known;
    if (n.kind === 'leaf' || (own.has(n) && n !== root)) {
      reads.push(n);
      const name = `r${reads.length - 1}`;
      names.set(n, name);
      shape += `${name}:${n.planes};`;
      return name;
    }
    const from = n.inputs.map((i) => visit(i.from) + (i.window ? 'w' : ''));
    members.push(n);
    const name = `m${members.length - 1}`;
    names.set(n, name);
    shape += `${name}=${n.shape}(${from.join(',')})${n.params.length},${n.ints.length},${n.tables.map((t) => layoutName(t.layout)).join('+')};`;
    return name;
  };
  visit(root);
  return {
    root,
    members,
    reads,
    shape,
    params: members.flatMap((m) => m.params),
    ints: members.flatMap((m) => m.ints),
    tables: members.flatMap((m) => m.tables),
  };
}

/** The group's expressions, lowered or as written. Call it inside `building`. */
export function expressions(group: Group): Node[] {
  const made = new Map<ImageNode, Pixel>();
  group.reads.forEach((r, image) =>
    made.set(
      r,
      Array.from({ length: r.planes }, (_, plane) => input(image, plane)),
    ),
  );
  let params = 0,
    ints = 0,
    tables = 0;
  for (const m of group.members) {
    const image = (i: number) => group.reads.indexOf(m.inputs[i]!.from);
    made.set(
      m,
      m.build(
        buildingAt(m, { params, ints, tables }, (i) => made.get(m.inputs[i]!.from)!, image, tap),
      ),
    );
    params += m.params.length;
    ints += m.ints.length;
    tables += m.tables.length;
  }
  return [...made.get(group.root)!];
}

/** The group compiled to WebAssembly. */
export const compile = (group: Group): CompiledShape =>
  building(() =>
    emit(lower(expressions(group)), {
      inputs: group.reads.length,
      params: group.params.length,
      ints: group.ints.length,
      tables: group.tables.length,
    }),
  );
