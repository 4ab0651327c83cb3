/**
 * Lines, ovals and outlines carried by what they lie on: points on it are followed from the mark,
 * and the movement that most of them share moves the shape.
 */
import {
  MARGIN,
  type Movement,
  PLACE_KINDS,
  type PlaceKind,
  type PlaceKindId,
  type PlaceValue,
  type PlaceInFrame,
} from '../places';
import { turnsd } from '../kernel';
import type { Point } from '../parameters';
import { cornerness } from './patch';
import { apart, FOLLOWABLE, Follower, PATCH_RADIUS, type Sizes, type Spot } from './points';

/** Most points that are followed for one shape. */
const MOST = 10;
/** Places tried on each axis of the shape's bounds. */
const TRIED = 20;
/** Pixels within which a point agrees with a movement, and the same as a share of the shape. */
const AGREES = 2,
  AGREES_SHARE = 0.02;
/** Share of the points, and number of them, that make a movement sure. */
const SURE_SHARE = 0.4,
  SURE = 3;
/** How sure a movement of fewer is, and of a single point, which says no size and no turn. */
const FEWER = 0.5,
  SINGLE = 0.25;

/** A point on the marked frame, and on its way. */
interface Seed {
  readonly from: Spot;
  readonly follower: Follower;
}
/** Where a point of the marked frame lies now. */
interface Pair {
  readonly from: Spot;
  readonly to: Spot;
}
/** A turn and growth about the origin, then a shift: x′ = ax − by + u, y′ = bx + ay + v. */
interface Similarity {
  readonly a: number;
  readonly b: number;
  readonly u: number;
  readonly v: number;
}

/** A shape on its way through frames in one direction. */
export class Carried {
  private readonly kind: PlaceKind<PlaceValue, PlaceInFrame>;
  private readonly seeds: readonly Seed[];
  private readonly size: Pick<Sizes[0] & object, 'width' | 'height'>;
  private readonly within: number;

  constructor(
    sizes: Sizes,
    kind: PlaceKindId,
    private readonly mark: PlaceValue,
  ) {
    this.kind = PLACE_KINDS[kind];
    this.size = sizes[0]!;
    const { places, diagonal } = this.placesToFollow(sizes);
    this.within = Math.max(AGREES, AGREES_SHARE * diagonal);
    this.seeds = places.map((from) => ({ from, follower: new Follower(sizes, from) }));
  }

  /** Without a nearest place, if there is nothing on it that can be followed. */
  get bare(): Readonly<Record<never, never>> | undefined {
    return this.seeds.length > 0 ? undefined : {};
  }

  /** The shape on the next frame; undefined where it is lost. */
  next(sizes: Sizes): { readonly place: PlaceValue; readonly sure: number } | undefined {
    const pairs = this.seeds.flatMap(({ from, follower }): Pair[] => {
      const to = follower.next(sizes);
      return to ? [{ from, to }] : [];
    });
    const found = movementOf(pairs, this.within);
    if (!found) return undefined;
    const { by, agreeing } = found;
    const isSure = agreeing >= Math.max(SURE, SURE_SHARE * this.seeds.length);
    return {
      place: this.kind.moved(this.mark, this.movement(by)),
      sure: isSure ? 1 : agreeing > 1 ? FEWER : SINGLE,
    };
  }

  private movement({ a, b, u, v }: Similarity): Movement {
    const { width, height } = this.size;
    return {
      place([x, y]): Point {
        const [px, py] = [x * width, y * height];
        return [(a * px - b * py + u) / width, (b * px + a * py + v) / height];
      },
      scale: Math.sqrt(a * a + b * b),
      turn: 360 * turnsd(a, b),
    };
  }

  /** The places on the shape that can best be followed, apart from one another. */
  private placesToFollow(sizes: Sizes): { places: Spot[]; diagonal: number } {
    const { kind, mark, size } = this,
      { width, height } = size,
      aspect = width / height;
    const spots = kind.spots(mark, aspect);
    const across = spots.map(([x]) => x * width),
      down = spots.map(([, y]) => y * height);
    const [left, right] = [Math.min(...across), Math.max(...across)],
      [top, bottom] = [Math.min(...down), Math.max(...down)];
    const margin = height * MARGIN,
      diagonal = apart({ x: left, y: top }, { x: right, y: bottom });
    const step = Math.max(4, (Math.max(right - left, bottom - top) + 2 * margin) / TRIED);
    const tried: { at: Spot; good: number }[] = [];
    for (let y = top - margin; y <= bottom + margin; y += step)
      for (let x = left - margin; x <= right + margin; x += step) {
        if (x < 0 || y < 0 || x >= width || y >= height) continue;
        if (!kind.carriedBy(mark, [x / width, y / height], aspect)) continue;
        const good = cornerness(sizes[0]!, x, y, PATCH_RADIUS);
        if (good >= FOLLOWABLE) tried.push({ at: { x, y }, good });
      }
    tried.sort((p, q) => q.good - p.good || p.at.y - q.at.y || p.at.x - q.at.x);
    const least = Math.max(6, diagonal / 10),
      places: Spot[] = [];
    for (const { at } of tried)
      if (places.length < MOST && places.every((p) => apart(p, at) >= least)) places.push(at);
    return { places, diagonal };
  }
}

/**
 * The movement that most pairs share within some pixels: every two of them propose one, and the one
 * with which most agree is fitted to those (least squares, Umeyama 1991 in two dimensions).
 */
export function movementOf(
  pairs: readonly Pair[],
  within: number,
): { readonly by: Similarity; readonly agreeing: number } | undefined {
  const [first] = pairs;
  if (!first) return undefined;
  const agreeing = (by: Similarity): readonly Pair[] =>
    pairs.filter(({ from, to }) => apart(mapped(by, from), to) <= within);
  let best: readonly Pair[] = [];
  pairs.forEach((p, i) => {
    for (const q of pairs.slice(i + 1)) {
      const by = fitted([p, q]);
      const here = by && isPlausible(by) ? agreeing(by) : [];
      if (here.length > best.length) best = here;
    }
  });
  if (best.length < 2) {
    const { from, to } = first;
    return pairs.length === 1
      ? { by: { a: 1, b: 0, u: to.x - from.x, v: to.y - from.y }, agreeing: 1 }
      : undefined;
  }
  const by = fitted(best)!;
  return { by, agreeing: agreeing(by).length };
}
const mapped = ({ a, b, u, v }: Similarity, { x, y }: Spot): Spot => ({
  x: a * x - b * y + u,
  y: b * x + a * y + v,
});
/** Growth beyond which a movement is a mistake. */
const GROWS = 4;
const isPlausible = ({ a, b }: Similarity): boolean => {
  const scale = Math.sqrt(a * a + b * b);
  return scale > 1 / GROWS && scale < GROWS;
};
/** The similarity with the least squares; undefined for points on one spot. */
function fitted(pairs: readonly Pair[]): Similarity | undefined {
  const n = pairs.length,
    mean = (of: (p: Pair) => number): number => pairs.reduce((s, p) => s + of(p), 0) / n;
  const [x, y, u, v] = [
    mean((p) => p.from.x),
    mean((p) => p.from.y),
    mean((p) => p.to.x),
    mean((p) => p.to.y),
  ];
  let [same, across, spread] = [0, 0, 0];
  for (const { from, to } of pairs) {
    const [dx, dy, du, dv] = [from.x - x, from.y - y, to.x - u, to.y - v];
    same += dx * du + dy * dv;
    across += dx * dv - dy * du;
    spread += dx * dx + dy * dy;
  }
  if (spread < 1) return undefined;
  const [a, b] = [same / spread, across / spread];
  return { a, b, u: u - a * x + b * y, v: v - b * x - a * y };
}
