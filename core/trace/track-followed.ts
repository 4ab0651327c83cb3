/** Tracks that follow what lies under their marks, both ways from each. */
import { PLACE_KINDS, type PlaceKindId, type PlaceValue } from '../places';
import { Carried } from './carried';
import {
  apart,
  followable,
  followed,
  levels,
  PATCH_RADIUS,
  type Sizes,
  sizesFrom,
  type Spot,
  sureAt,
} from './points';
import { smoothed } from './smooth';
import {
  type BareMark,
  inOrder,
  kindOfTrace,
  type Mark,
  MARKED,
  shotAround,
  type TraceGiven,
  type Track,
  trackPlace,
} from './track';

/** A place on a frame, and how sure it is. */
export interface CarriedPlace {
  readonly place: PlaceValue;
  readonly sure: number;
}
/** Something marked on its way through frames in one direction; `next` is undefined where it is lost. */
interface Carrier {
  readonly next: (sizes: Sizes) => CarriedPlace | undefined;
  /** Why it cannot be followed, if so. */
  readonly bare?: Omit<BareMark, 'frame'> | undefined;
}

/** Pixels between the ways from both sides beyond which neither is sure. */
const MEET = 3;
/** How sure a place is where the ways from both sides disagree. */
const DISAGREE = 0.25;

/**
 * A track that follows what lies under the marks, from each to the next on both sides; between two
 * marks both ways meet by their distance. `sizes` reads a frame; `report` is told how many of how
 * many steps are done, and answers whether to go on; undefined if it says no.
 */
export async function trackFollowed(
  { kind = 'point', marks, cuts, smooth = 0 }: Omit<TraceGiven, 'follow'>,
  frames: number,
  sizes: (frame: number) => Promise<Sizes>,
  report: (done: number, of: number) => Promise<boolean> = () => Promise.resolve(true),
): Promise<Track | undefined> {
  const of = kindOfTrace({ kind }),
    all = inOrder(marks, frames);
  const ways = all.flatMap((mark, i) => {
    const [first, last] = shotAround(mark.frame, frames, cuts);
    return [
      { mark, by: 1, end: Math.min(last, (all[i + 1]?.frame ?? frames) - 1) },
      { mark, by: -1, end: Math.max(first, (all[i - 1]?.frame ?? -1) + 1) },
    ];
  });
  const steps = ways.reduce((n, { mark, end }) => n + Math.abs(end - mark.frame), 0);
  let done = 0,
    size: Pick<Sizes[0] & object, 'width' | 'height'> = { width: 1, height: 1 };
  const found = new Map<number, Way[]>(),
    bare = new Map<number, BareMark>();
  // All ways forwards first, in order, so that footage is read through once each way.
  const inReading = [...ways.filter((w) => w.by > 0), ...ways.filter((w) => w.by < 0).reverse()];
  for (const { mark, by, end } of inReading) {
    if (mark.frame === end) continue;
    const start = await sizes(mark.frame);
    size = start[0]!;
    const carrier = carrierOf(kind, mark, start);
    if (carrier.bare) bare.set(mark.frame, { frame: mark.frame, ...carrier.bare });
    for (let f = mark.frame + by; by > 0 ? f <= end : f >= end; f += by) {
      const carried = carrier.next(await sizes(f));
      if (carried)
        found.set(f, [...(found.get(f) ?? []), { ...carried, away: Math.abs(f - mark.frame) }]);
      if (!(await report(++done, steps))) return undefined;
    }
  }
  const places: Track['places'][number][] = Array.from({ length: frames }, () => null);
  for (const [f, here] of found) {
    const { place, sure } = met(kind, here, size);
    places[f] = trackPlace(of.numbers(place), Math.round(sure * 100) / 100);
  }
  for (const m of all) places[m.frame] = trackPlace(of.numbers(m), MARKED);
  const track: Track = {
    ...(kind !== 'point' && { kind }),
    places,
    ...(bare.size > 0 && { bare: [...bare.values()] }),
  };
  return smoothed(track, smooth, cuts);
}

function carrierOf(kind: PlaceKindId, mark: Mark, start: Sizes): Carrier {
  if (kind !== 'point' || !('x' in mark)) return shapeCarrier(kind, mark, start);
  const { width, height } = start[0]!;
  const at = { x: mark.x * width, y: mark.y * height };
  const { level, next } = followed(start, at);
  return {
    next(sizes) {
      const spot = next(sizes);
      return spot && { place: { x: spot.x / width, y: spot.y / height }, sure: spot.sure };
    },
    bare: level === 0 ? undefined : bareAt(start, at, level),
  };
}
function bareAt(start: Sizes, at: Spot, level: number | undefined): Carrier['bare'] {
  const { nearest } = followable(start, at),
    { width, height } = start[0]!;
  return {
    ...(level !== undefined && { around: PATCH_RADIUS * 2 ** level }),
    ...(nearest && { nearest: { x: rounded(nearest.x / width), y: rounded(nearest.y / height) } }),
  };
}
/** By the first size at which there is something on a shape that can be followed. */
function shapeCarrier(kind: PlaceKindId, mark: Mark, start: Sizes): Carrier {
  const at = (level: number): Carrier => {
    const carried = new Carried(sizesFrom(start, level), kind, mark);
    return {
      next(sizes) {
        const found = carried.next(sizesFrom(sizes, level));
        return found && { ...found, sure: sureAt(level, found.sure) };
      },
      bare: carried.bare,
    };
  };
  return levels(start)
    .slice(1)
    .reduce((c, level) => (c.bare ? at(level) : c), at(0));
}
const rounded = (v: number): number => Math.round(v * 1e6) / 1e6;

/** A place found from a mark some frames away. */
interface Way extends CarriedPlace {
  readonly away: number;
}
/** One place from those found from either side. */
function met(
  kind: PlaceKindId,
  [a, b]: readonly Way[],
  { width, height }: { readonly width: number; readonly height: number },
): CarriedPlace {
  if (!a || !b) return a!;
  const of = PLACE_KINDS[kind],
    share = a.away / (a.away + b.away);
  const [p, q] = [a.place, b.place].map((v) => of.spots(v, width / height));
  const agree = p!.every(([x, y], i) => {
    const [u, v] = q![i] ?? [x, y];
    return apart({ x: u * width, y: v * height }, { x: x * width, y: y * height }) <= MEET;
  });
  return {
    place: of.of(of.mix(of.numbers(a.place), of.numbers(b.place), share)),
    sure: agree ? Math.max(a.sure, b.sure) : DISAGREE,
  };
}
