/**
 * Every kind of matte there is, one file a kind or a family of them. `coverOf` makes one plane of
 * coverage from those a layer or a step has; nothing else knows a kind by name.
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
export const matteOf = (id: string): MatteKind | undefined => byId.get(id);

/** What every matte can do besides. */
export const COMMON: readonly Parameter[] = [
  number('grow', 'Grow', 'lines', -200, 200, 0, {
    soft: [-60, 60],
    help: 'Moves the edge outwards, or inwards where negative.',
  }),
  number('soften', 'Soften', 'lines', 0, 540, 0, { soft: [0, 120] }),
];
/** What those that are drawn can do besides. */
const DRAWN: readonly Parameter[] = [
  number('shutter', 'Shutter', '°', 0, 720, 0, {
    help: 'While it moves it smears along its way: over a frame’s time at 360°.',
  }),
];
export const matteParameters = (kind: MatteKind): readonly Parameter[] => [
  ...kind.parameters,
  ...COMMON,
  ...(kind.outline ? DRAWN : []),
];

/**
 * How far a drawn matte's edge gets from one set of values to another, in pixels; 0 of one that is
 * not drawn.
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
 * A matte with its values; several sets of them where a pin has several places, all of which it
 * covers.
 */
export interface PlacedMatte {
  readonly kind: MatteKind;
  readonly combine: Combination;
  readonly invert: boolean;
  readonly values: readonly Values[];
  /** Its values while a shutter is open, moment by moment; without, those of the frame. */
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

/** Blurred; a blur's weights add up to 1 but for rounding, coverage never exceeds it. */
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
      .map((v) =>
        softened(
          grown(kind.cover(v, { ...at, named }), pixels(num(v, 'grow'), at)),
          pixels(num(v, 'soften'), at) / 2,
        ),
      )
      .reduce((a, b) => join('or', a, b));
  const whole = meanOf(exposures.map(covering), 'none');
  return invert ? inverted(whole) : whole;
}

/**
 * All of them joined in their order; the first one's way of joining counts from nothing (or,
 * *minus*, from everything).
 */
export function coverOf(mattes: readonly PlacedMatte[], at: MatteContext): ImageNode | undefined {
  let all: ImageNode | undefined;
  for (const m of mattes) {
    const own = single(m, at);
    all = all ? join(m.combine, all, own) : m.combine === 'minus' ? inverted(own) : own;
  }
  return all;
}

/** A layer's picture with its keys' spill taken off. */
export const cleaned = (mattes: readonly PlacedMatte[], picture: ImageNode): ImageNode =>
  mattes.reduce((p, m) => (m.kind.clean ? m.kind.clean(p, m.values[0]!) : p), picture);

export { COMBINATIONS, type Combination, type MatteKind, type MatteContext } from './declare';
export { centreOfCover } from './centre';
export { feathered, grown } from './distance';
export { corners } from './path';
export { toneAt } from './keys';
