/**
 * The graph that a look, a clip and a frame are planned into. A node says what is computed (an
 * expression over its inputs), not how. The engine decides which neighbours fuse into one kernel;
 * this changes no bit.
 */
import {
  cube,
  type CubeTable,
  type CurveTable,
  type Edge,
  intParam,
  type Node,
  param,
  type Pixel,
  table,
  type TableLayout,
  type TableSpec,
  type TapScale,
} from '../kernel';
import { Hasher } from './hash';

/**
 * Meaning of a picture's numbers: linear light, encoded, or neither (mattes, luma, packed output).
 */
export type Domain = 'light' | 'encoded' | 'none';

/** What leaves and operations have in common. */
export interface Picture {
  /** Content key: equal keys mean equal pixels. */
  readonly key: string;
  readonly width: number;
  readonly height: number;
  readonly planes: number;
  readonly domain: Domain;
  /** Frames up to this one need the picture too. Not part of the key. */
  readonly heldUntil?: number | undefined;
}

/**
 * Planes from outside the graph, such as a decoded frame. `load` writes plane by plane, rows
 * tightly packed.
 */
export interface Leaf extends Picture {
  readonly kind: 'leaf';
  readonly load: (plane: number, into: (y: number) => Float32Array) => void;
}

/** A picture computed from others. */
export interface ImageOp extends Picture {
  readonly kind: 'operation';
  /**
   * Names the expression: operations with equal shapes, and inputs with equal planes, build equal
   * expressions.
   */
  readonly shape: string;
  readonly inputs: readonly Input[];
  readonly params: readonly number[];
  readonly ints: readonly number[];
  readonly tables: readonly TableSpec[];
  readonly build: (b: Building) => Pixel;
  /** The Bench keeps this picture (a layer's result), so that layers above can change alone. */
  readonly isCheckpoint: boolean;
  /** Reads so many neighbours that its kernel should not be fused with others. */
  readonly wide: boolean;
  /**
   * The same picture in another domain, where that is cheaper to make than by converting every
   * pixel.
   */
  readonly inOther?: ((domain: 'light' | 'encoded') => ImageNode) | undefined;
}
/** A node of the graph. */
export type ImageNode = Leaf | ImageOp;

/** An input of an operation. */
export interface Input {
  readonly from: ImageNode;
  /** Whether neighbours are read (`tap`, `fetch`), and not only the pixel itself. */
  readonly window: boolean;
}

/** What an operation's expression is built from. */
export interface Building {
  /** The pixel of a pointwise input. */
  pixel(input: number): Pixel;
  tap(
    input: number,
    plane: number,
    dx: number,
    dy: number,
    how?: { edge?: Edge; sx?: TapScale; sy?: TapScale },
  ): Node;
  /** Image index of a window input, for `fetch` and `sample`. */
  image(input: number): number;
  param(i: number): Node;
  int(i: number): Node;
  lookup(tableIndex: number, x: Node): Node;
  /** A colour looked up in a table that is a cube. */
  cube(tableIndex: number, c: Pixel): Pixel;
}

/** What `imageOp` makes a node from. */
export interface ImageOpSpec {
  readonly shape: string;
  readonly inputs: readonly Input[];
  readonly planes: number;
  readonly domain: Domain;
  readonly width?: number;
  readonly height?: number;
  readonly params?: readonly number[];
  readonly ints?: readonly number[];
  readonly tables?: readonly TableSpec[];
  readonly isCheckpoint?: boolean;
  readonly wide?: boolean;
  readonly inOther?: (domain: 'light' | 'encoded') => ImageNode;
  readonly build: (b: Building) => Pixel;
}

/** An operation node with its content key. Its size is that of its first input unless given. */
export function imageOp(spec: ImageOpSpec): ImageOp {
  const { params = [], ints = [], tables = [], inputs, isCheckpoint = false, wide = false } = spec;
  const width = spec.width ?? inputs[0]!.from.width,
    height = spec.height ?? inputs[0]!.from.height;
  const h = new Hasher().name(spec.shape).int(width).int(height).int(spec.planes);
  params.forEach((v) => h.float(v));
  ints.forEach((v) => h.int(v));
  tables.forEach((t) => h.name(t.key));
  inputs.forEach(({ from, window }) => {
    if (from.kind === 'operation') h.key(from.key);
    else h.text(from.key);
    h.int(window ? 1 : 0);
  });
  return {
    kind: 'operation',
    key: h.hex(),
    width,
    height,
    planes: spec.planes,
    domain: spec.domain,
    shape: spec.shape,
    inputs,
    params,
    ints,
    tables,
    build: spec.build,
    isCheckpoint,
    wide,
    inOther: spec.inOther,
  };
}

/** An input of which only the pixel itself is read. */
export const pointwise = (from: ImageNode): Input => ({ from, window: false });
/** An input of which neighbours are read. */
export const stencil = (from: ImageNode): Input => ({ from, window: true });

/** The same operation, marked as a checkpoint. */
export const checkpoint = (node: ImageNode): ImageNode =>
  node.kind === 'leaf' ? node : { ...node, isCheckpoint: true };

/** The same picture, held for later frames up to `frame`. */
export const heldUntil = (node: ImageNode, frame: number): ImageNode => ({
  ...node,
  heldUntil: frame,
});

/** Keys of a node and of everything it depends on. */
export function keysOf(root: ImageNode): Set<string> {
  const keys = new Set<string>();
  const visit = (n: ImageNode): void => {
    if (keys.has(n.key)) return;
    keys.add(n.key);
    if (n.kind === 'operation') n.inputs.forEach((i) => visit(i.from));
  };
  visit(root);
  return keys;
}

/**
 * The same graphs with one object per content key, for nodes that become pictures anyway (they read
 * neighbours, their neighbours are read, they are wide or checkpoints): what was planned twice is
 * computed once. Pointwise nodes stay as planned, because inside their readers' kernels they cost
 * less than as a shared picture.
 */
export function interned(roots: readonly ImageNode[]): ImageNode[] {
  const kept = new Set<string>(),
    held = new Map<string, number>(),
    shared = new Set<string>();
  const seen = new Set<ImageNode>();
  const look = (n: ImageNode): void => {
    if (seen.has(n)) return;
    seen.add(n);
    if (n.heldUntil !== undefined) held.set(n.key, Math.max(n.heldUntil, held.get(n.key) ?? 0));
    if (n.kind === 'leaf') return void shared.add(n.key);
    if (n.isCheckpoint) kept.add(n.key);
    if (n.isCheckpoint || n.heldUntil !== undefined || n.wide || n.inputs.some((i) => i.window))
      shared.add(n.key);
    for (const { from, window } of n.inputs) {
      if (window) shared.add(from.key);
      look(from);
    }
  };
  roots.forEach(look);
  const byKey = new Map<string, ImageNode>(),
    byObject = new Map<ImageNode, ImageNode>();
  const visit = (n: ImageNode): ImageNode => {
    const found = byObject.get(n) ?? (shared.has(n.key) ? byKey.get(n.key) : undefined);
    if (found) return found;
    let made = n;
    if (n.kind === 'leaf') {
      const until = held.get(n.key);
      if (until !== n.heldUntil) made = { ...n, heldUntil: until };
    } else {
      const inputs = n.inputs.map((i) => ({ from: visit(i.from), window: i.window }));
      const marked = kept.has(n.key),
        until = held.get(n.key);
      if (
        marked !== n.isCheckpoint ||
        until !== n.heldUntil ||
        inputs.some((i, k) => i.from !== n.inputs[k]!.from)
      )
        made = { ...n, inputs, isCheckpoint: marked, heldUntil: until };
    }
    byObject.set(n, made);
    if (shared.has(n.key)) byKey.set(n.key, made);
    return made;
  };
  return roots.map(visit);
}

/** Where a node's numbers start inside a fused kernel. */
export interface Offsets {
  readonly params: number;
  readonly ints: number;
  readonly tables: number;
}

/** The `Building` of one node at its place inside a kernel. */
export function buildingAt(
  node: ImageOp,
  at: Offsets,
  pixel: (i: number) => Pixel,
  image: (i: number) => number,
  tap: (
    image: number,
    plane: number,
    dx: number,
    dy: number,
    edge: Edge,
    sx: TapScale,
    sy: TapScale,
  ) => Node,
): Building {
  return {
    pixel,
    image,
    tap: (i, plane, dx, dy, how = {}) =>
      tap(image(i), plane, dx, dy, how.edge ?? 'clamp', how.sx ?? 'same', how.sy ?? 'same'),
    param: (i) => param(at.params + i),
    int: (i) => intParam(at.ints + i),
    lookup: (i, x) => table(at.tables + i, (node.tables[i] as CurveTable).layout, x),
    cube: (i, c) => {
      const { n, trilinear } = (node.tables[i] as CubeTable).layout;
      return cube(at.tables + i, n, c, trilinear);
    },
  };
}

/** A table layout as a string, for shapes. */
export const layoutName = (l: TableLayout): string =>
  l.kind === 'cube'
    ? `c${l.n}${l.trilinear ? 't' : ''}`
    : l.kind === 'floatbits'
      ? `fb${l.eMin},${l.eMax},${l.odd ? 1 : 0},${l.low.join(',')}${l.bits ? `,${l.bits}` : ''}${l.bias ? `+${l.bias}` : ''}`
      : `u${l.lo},${l.hi},${l.n}`;
