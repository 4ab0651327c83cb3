/**
 * The graph that a look, a clip and a frame become. A node says what it computes (an expression
 * over its inputs), never how: the engine decides which neighbours fuse into one kernel, and that
 * changes no bit.
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
 * How a picture's numbers are to be read: linear light, encoded, or neither (mattes, luma, packed
 * output).
 */
export type Domain = 'light' | 'encoded' | 'none';

export interface Picture {
  /** Equal keys mean equal pixels. */
  readonly key: string;
  readonly width: number;
  readonly height: number;
  readonly planes: number;
  readonly domain: Domain;
  /**
   * Later frames, up to this one, are made from this picture too. It names no pixels, so it is no
   * part of the key.
   */
  readonly heldUntil?: number | undefined;
}

/**
 * Planes that came from outside the graph (a decoded frame). `load` writes plane by plane, tightly
 * packed rows.
 */
export interface Leaf extends Picture {
  readonly kind: 'leaf';
  readonly load: (plane: number, into: (y: number) => Float32Array) => void;
}

export interface ImageOp extends Picture {
  readonly kind: 'operation';
  /** Names the expression: equal shapes with equal inputs' planes build equal expressions. */
  readonly shape: string;
  readonly inputs: readonly Input[];
  readonly params: readonly number[];
  readonly ints: readonly number[];
  readonly tables: readonly TableSpec[];
  readonly build: (b: Building) => Pixel;
  /** The Bench keeps this picture (a layer's result), so that what lies above can change alone. */
  readonly isCheckpoint: boolean;
  /** Reads so many neighbours that its kernel is best left to itself. */
  readonly wide: boolean;
  /**
   * The same picture in another domain, where that is made more cheaply than by converting every
   * pixel.
   */
  readonly inOther?: ((domain: 'light' | 'encoded') => ImageNode) | undefined;
}
export type ImageNode = Leaf | ImageOp;

export interface Input {
  readonly from: ImageNode;
  /** Whether neighbours are read (`tap`, `fetch`) and not just the pixel itself. */
  readonly window: boolean;
}

/** What an operation's expression is built from. */
export interface Building {
  /** The pixel of an input that is read pixel by pixel. */
  pixel(input: number): Pixel;
  tap(
    input: number,
    plane: number,
    dx: number,
    dy: number,
    how?: { edge?: Edge; sx?: TapScale; sy?: TapScale },
  ): Node;
  /** The image index of a window input, for `fetch` and `sample`. */
  image(input: number): number;
  param(i: number): Node;
  int(i: number): Node;
  lookup(tableIndex: number, x: Node): Node;
  /** A colour through a table that is a cube. */
  cube(tableIndex: number, c: Pixel): Pixel;
}

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
  const h = new Hasher().text(spec.shape).int(width).int(height).int(spec.planes);
  params.forEach((v) => h.float(v));
  ints.forEach((v) => h.int(v));
  tables.forEach((t) => h.text(t.key));
  inputs.forEach((i) => h.text(i.from.key).int(i.window ? 1 : 0));
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

export const pointwise = (from: ImageNode): Input => ({ from, window: false });
export const stencil = (from: ImageNode): Input => ({ from, window: true });

/** The same operation, marked to be kept. */
export const checkpoint = (node: ImageNode): ImageNode =>
  node.kind === 'leaf' ? node : { ...node, isCheckpoint: true };

/** The same picture, held for the frames after this one that are made from it, up to `frame`. */
export const heldUntil = (node: ImageNode, frame: number): ImageNode => ({
  ...node,
  heldUntil: frame,
});

/** The keys of all that a picture is made from, its own too. */
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
 * The same graphs with one object for each content key of what becomes a picture of its own anyway
 * (it reads neighbours, neighbours of it are read, it is wide or marked), so that what was planned
 * twice is computed once. What works pixel by pixel stays as it was planned: inside its readers'
 * kernels it costs less than it would as a picture that they share.
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

/** A table layout in words, for shapes. */
export const layoutName = (l: TableLayout): string =>
  l.kind === 'cube'
    ? `c${l.n}${l.trilinear ? 't' : ''}`
    : l.kind === 'floatbits'
      ? `fb${l.eMin},${l.eMax},${l.odd ? 1 : 0},${l.low.join(',')}${l.bits ? `,${l.bits}` : ''}${l.bias ? `+${l.bias}` : ''}`
      : `u${l.lo},${l.hi},${l.n}`;
