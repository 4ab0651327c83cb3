/**
 * All kinds of mattes, one file per kind or family. `coverOf` combines those of a layer or step
 * into one plane of coverage; no other code knows a kind by name.
 */
import { pointwise, imageOp, type ImageNode } from '../graph';
import { blur, meanOf } from '../image';
import type { Node } from '../kernel';
import { num, number, type Parameter, type Point, type Values } from '../parameters';
import { pixels } from '../steps';
import type { Combination, MatteKind, MatteContext } from './declare';
import { grown } from './distance';
import { chromaKey, hueKey, lumaKey } from './keys';
import { ofLayer, ofPin } from './of-layer';
import { path } from './path';
import { box, ellipse } from './shapes';
import { side } from './side';

/** All kinds of mattes, in the order of the menu. */
export const MATTES: readonly MatteKind[] = [
  ellipse,
  box,
  side,
  path,
  lumaKey,
  chromaKey,
  hueKey,
  ofLayer,
  ofPin,
];
const byId = new Map(MATTES.map((m) => [m.id, m]));
/** The kind with this id. */
export const matteOf = (id: string): MatteKind | undefined => byId.get(id);

/** Parameters that every matte has. */
export const COMMON: readonly Parameter[] = [
  number('grow', 'Grow', 'lines', -200, 200, 0, {
    soft: [-60, 60],
    help: 'Moves the edge outwards, or inwards where negative.',
  }),
  number('soften', 'Soften', 'lines', 0, 540, 0, { soft: [0, 120] }),
  number('strength', 'Strength', '%', 0, 100, 100, { help: 'How far it covers at all.' }),
];
/** Parameters that drawn mattes have. */
const DRAWN: readonly Parameter[] = [
  number('shutter', 'Shutter', '°', 0, 720, 0, {
    help: 'While it moves it smears along its way: over a frame’s time at 360°.',
  }),
];
/** All parameters of a kind. */
export const matteParameters = (kind: MatteKind): readonly Parameter[] => [
  ...kind.parameters,
  ...COMMON,
  ...(kind.outline ? DRAWN : []),
];

/**
 * The largest distance that a drawn matte's edge moves between two sets of values, in pixels of a
 * frame of this size; 0 for others.
 */
export function wayOfEdge(
  kind: MatteKind,
  from: Values,
  to: Values,
  at: { readonly width: number; readonly height: number },
): number {
  const [a, b] = [from, to].map((v) => kind.outline?.(v, at) ?? []) as [
    readonly Point[],
    readonly Point[],
  ];
  let most = 0;
  a.forEach(([x, y], i) => {
    const [u, w] = b[i] ?? [x, y];
    const [dx, dy] = [(u - x) * at.width, (w - y) * at.height];
    most = Math.max(most, dx * dx + dy * dy);
  });
  return Math.sqrt(most);
}

/**
 * A matte with its values. There are several sets for a pin with several places; the matte covers
 * all of them.
 */
export interface PlacedMatte {
  readonly kind: MatteKind;
  readonly combine: Combination;
  readonly invert: boolean;
  readonly values: readonly Values[];
  /** Its values at several moments while a shutter is open. Default: those of the frame. */
  readonly exposures?: readonly (readonly Values[])[] | undefined;
  readonly named?: ImageNode | undefined;
}

const one = (x: Node): Node => x.neg().add(1);
const JOIN: Record<Combination, (a: Node, b: Node) => Node> = {
  or: (a, b) => a.max(b),
  and: (a, b) => a.min(b),
  minus: (a, b) => a.min(one(b)),
};
const join = (how: Combination, a: ImageNode, b: ImageNode): ImageNode =>
  imageOp({
    shape: `matte-${how}`,
    inputs: [pointwise(a), pointwise(b)],
    planes: 1,
    domain: 'none',
    build: (at) => [JOIN[how](at.pixel(0)[0]!, at.pixel(1)[0]!)],
  });
const inverted = (a: ImageNode): ImageNode =>
  imageOp({
    shape: 'matte-inverted',
    inputs: [pointwise(a)],
    planes: 1,
    domain: 'none',
    build: (b) => [one(b.pixel(0)[0]!)],
  });

/** Coverage times a strength in per cent. */
const weakened = (a: ImageNode, strength: number): ImageNode =>
  strength >= 100
    ? a
    : imageOp({
        shape: 'matte-weakened',
        inputs: [pointwise(a)],
        planes: 1,
        domain: 'none',
        params: [strength / 100],
        build: (b) => [b.pixel(0)[0]!.mul(b.param(0))],
      });

/** Blurred. Rounding can make a blur's weights exceed 1, so coverage is clamped. */
const softened = (a: ImageNode, sigma: number): ImageNode =>
  sigma <= 0
    ? a
    : imageOp({
        shape: 'matte-held',
        inputs: [pointwise(blur(a, sigma))],
        planes: 1,
        domain: 'none',
        build: (b) => [b.pixel(0)[0]!.clamp(0, 1)],
      });

function single(
  { kind, invert, values, exposures = [values], named }: PlacedMatte,
  at: MatteContext,
): ImageNode {
  const covering = (all: readonly Values[]): ImageNode =>
    all
      .map((v) => {
        const own = softened(
          grown(kind.cover(v, { ...at, named }), pixels(num(v, 'grow'), at)),
          pixels(num(v, 'soften'), at) / 2,
        );
        return invert ? own : weakened(own, num(v, 'strength'));
      })
      .reduce((a, b) => join('or', a, b));
  const whole = meanOf(exposures.map(covering), 'none');
  // What is not covered loses strength, too, as far as all of its places do.
  const most = Math.max(...values.map((v) => num(v, 'strength')));
  return invert ? weakened(inverted(whole), most) : whole;
}

/**
 * All mattes combined in order. The first one is combined with nothing (for *minus*, with
 * everything). Undefined without mattes.
 */
export function coverOf(mattes: readonly PlacedMatte[], at: MatteContext): ImageNode | undefined {
  let all: ImageNode | undefined;
  for (const m of mattes) {
    const own = single(m, at);
    all = all ? join(m.combine, all, own) : m.combine === 'minus' ? inverted(own) : own;
  }
  return all;
}

/** A layer's picture with the spill of its keys removed. */
export const cleaned = (mattes: readonly PlacedMatte[], picture: ImageNode): ImageNode =>
  mattes.reduce((p, m) => (m.kind.clean ? m.kind.clean(p, m.values[0]!) : p), picture);

export { COMBINATIONS, type Combination, type MatteKind, type MatteContext } from './declare';
export { centreOfCover } from './centre';
export { feathered, grown } from './distance';
export { corners } from './path';
export { toneAt } from './keys';
