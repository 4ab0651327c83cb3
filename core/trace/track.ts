/**
 * Where a point of footage lies on every frame: from marks that a person gave, carried between them
 * by hand or by following.
 */
import { apart, followable, Follower, type FollowedSpot, type Sizes, type Spot } from './points';

/** A place that a person gave, in shares of the picture. */
export interface Mark {
  readonly frame: number;
  readonly x: number;
  readonly y: number;
}
/** What a trace is made from. */
export interface TraceGiven {
  /** Whether what lies under the marks is followed; otherwise places go straight between them. */
  readonly follow: boolean;
  readonly marks: readonly Mark[];
  /** Frames of the footage at which another shot begins. */
  readonly cuts: readonly number[];
}
/**
 * A place on a frame: in shares of the picture, and how sure it is: 2 where a person marked it, 1
 * where it is sure, less where only a chain leads to it.
 */
export type TrackPlace = readonly [x: number, y: number, sure: number];
/** A mark under which nothing can be followed, and the nearest place where something can. */
export interface BareMark {
  readonly frame: number;
  readonly nearest?: { readonly x: number; readonly y: number };
}
/** Places by frame of the footage; null where the point is lost. */
export interface Track {
  readonly places: readonly (TrackPlace | null)[];
  /** Marks on bare surfaces, if there are any. */
  readonly bare?: readonly BareMark[];
}
/** Value of `sure` for a mark. */
export const MARKED = 2;

/** The stretch of frames around one of them in which no other shot begins: first and last. */
function shotAround(frame: number, frames: number, cuts: readonly number[]): [number, number] {
  const first = Math.max(0, ...cuts.filter((c) => c <= frame));
  return [first, Math.min(frames - 1, ...cuts.filter((c) => c > frame).map((c) => c - 1))];
}
const SHARES = 1e6;
const rounded = (v: number): number => Math.round(v * SHARES) / SHARES;
const inOrder = (marks: readonly Mark[], frames: number): Mark[] =>
  marks.filter((m) => m.frame >= 0 && m.frame < frames).sort((a, b) => a.frame - b.frame);
const markedAt = (m: Mark): TrackPlace => [rounded(m.x), rounded(m.y), MARKED];

/** A track by hand: straight between marks, held before the first and after the last of a shot. */
export function trackByHand(
  marks: readonly Mark[],
  frames: number,
  cuts: readonly number[] = [],
): Track {
  const all = inOrder(marks, frames);
  const places = Array.from({ length: frames }, (_, f): TrackPlace | null => {
    const [first, last] = shotAround(f, frames, cuts);
    const here = all.filter((m) => m.frame >= first && m.frame <= last);
    const before = here.findLast((m) => m.frame <= f),
      after = here.find((m) => m.frame >= f);
    if (before?.frame === f) return markedAt(before);
    const [a, b] = [before ?? after, after ?? before];
    if (!a || !b) return null;
    const share = a === b ? 0 : (f - a.frame) / (b.frame - a.frame);
    return [rounded(a.x + share * (b.x - a.x)), rounded(a.y + share * (b.y - a.y)), 1];
  });
  return { places };
}

/** Pixels between the ways from both sides beyond which neither is sure. */
const MEET = 3;

/**
 * A track that follows what lies under the marks, from each to the next on both sides; between two
 * marks both ways meet by their distance. `sizes` reads a frame; `report` is told how many of how
 * many steps are done, and answers whether to go on; undefined if it says no.
 */
export async function trackFollowed(
  marks: readonly Mark[],
  frames: number,
  cuts: readonly number[],
  sizes: (frame: number) => Promise<Sizes>,
  report: (done: number, of: number) => Promise<boolean> = () => Promise.resolve(true),
): Promise<Track | undefined> {
  const all = inOrder(marks, frames);
  const places = Array.from({ length: frames }, (): TrackPlace | null => null);
  const ways = all.flatMap((mark, i) => {
    const [first, last] = shotAround(mark.frame, frames, cuts);
    return [
      { mark, by: 1, end: Math.min(last, (all[i + 1]?.frame ?? frames) - 1) },
      { mark, by: -1, end: Math.max(first, (all[i - 1]?.frame ?? -1) + 1) },
    ];
  });
  const steps = ways.reduce((n, { mark, end }) => n + Math.abs(end - mark.frame), 0);
  let done = 0;
  const found = new Map<number, { readonly spot: FollowedSpot; readonly from: Mark }[]>();
  // All ways forwards first, in order, so that footage is read through once each way.
  const inReading = [...ways.filter((w) => w.by > 0), ...ways.filter((w) => w.by < 0).reverse()];
  const bare = new Map<number, BareMark>(),
    judged = new Set<Mark>();
  let width = 1,
    height = 1;
  for (const { mark, by, end } of inReading) {
    if (mark.frame === end) continue;
    const start = await sizes(mark.frame);
    ({ width, height } = start[0]!);
    if (!judged.has(mark)) {
      judged.add(mark);
      const { is, nearest } = followable(start, { x: mark.x * width, y: mark.y * height });
      if (!is) bare.set(mark.frame, bareAt(mark, nearest, { width, height }));
    }
    const follower = new Follower(start, { x: mark.x * width, y: mark.y * height });
    for (let f = mark.frame + by; by > 0 ? f <= end : f >= end; f += by) {
      const spot = follower.next(await sizes(f));
      if (spot) found.set(f, [...(found.get(f) ?? []), { spot, from: mark }]);
      if (!(await report(++done, steps))) return undefined;
    }
  }
  for (const [f, spots] of found) {
    const { x, y, sure } = met(f, spots);
    places[f] = [rounded(x / width), rounded(y / height), Math.round(sure * 100) / 100];
  }
  for (const m of all) places[m.frame] = markedAt(m);
  return { places, ...(bare.size > 0 && { bare: [...bare.values()] }) };
}
const bareAt = (
  { frame }: Mark,
  nearest: Spot | undefined,
  { width, height }: { readonly width: number; readonly height: number },
): BareMark => ({
  frame,
  ...(nearest && { nearest: { x: rounded(nearest.x / width), y: rounded(nearest.y / height) } }),
});

/** One place from those found from either side. */
function met(
  frame: number,
  spots: readonly { readonly spot: FollowedSpot; readonly from: Mark }[],
): FollowedSpot {
  const [a, b] = spots;
  if (!a || !b) return a!.spot;
  const away = (m: Mark): number => Math.abs(m.frame - frame);
  const share = away(a.from) / (away(a.from) + away(b.from));
  const mix = (p: number, q: number): number => p + share * (q - p);
  const agree = apart(a.spot, b.spot) <= MEET;
  return {
    x: mix(a.spot.x, b.spot.x),
    y: mix(a.spot.y, b.spot.y),
    sure: agree ? Math.max(a.spot.sure, b.spot.sure) : 0.25,
  };
}

/**
 * The place at a moment of the footage, also between frames: on the line between the two. Where it
 * is lost, the last place before, else the first after; undefined where there is none in the shot.
 */
export function placeOn(
  { places }: Track,
  moment: number,
  cuts: readonly number[] = [],
): Spot | undefined {
  const frames = places.length,
    whole = Math.max(0, Math.min(frames - 1, Math.floor(moment))),
    share = moment - whole;
  const [first, last] = shotAround(whole, frames, cuts);
  const held = (frame: number): TrackPlace | undefined => {
    for (let f = frame; f >= first; f--) if (places[f]) return places[f] ?? undefined;
    for (let f = frame; f <= last; f++) if (places[f]) return places[f] ?? undefined;
    return undefined;
  };
  const a = held(whole);
  if (!a) return undefined;
  const b = share > 0 && whole + 1 <= last ? (places[whole + 1] ?? a) : a;
  return { x: a[0] + share * (b[0] - a[0]), y: a[1] + share * (b[1] - a[1]) };
}
