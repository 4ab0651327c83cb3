/** Where something marked in footage lies on every frame: what is given, and what is made of it. */
import { PLACE_KINDS, type PlaceKindId, type PlaceValue } from '../places';

/** A place that a person gave on a frame of the footage. */
export type Mark = PlaceValue & { readonly frame: number };
/** What a trace is made from. */
export interface TraceGiven {
  /** What is marked. Default: a point. */
  readonly kind?: PlaceKindId | undefined;
  /** Whether what lies under the marks is followed; otherwise places go straight between them. */
  readonly follow: boolean;
  /** Frames either way over which what is followed is smoothed. Default: none. */
  readonly smooth?: number | undefined;
  readonly marks: readonly Mark[];
  /** Frames of the footage at which another shot begins. */
  readonly cuts: readonly number[];
}
/**
 * A place on a frame: the numbers of its kind (`PLACE_KINDS`), then how sure it is: 2 where a person
 * marked it, 1 where it is sure, less where only a chain leads to it.
 */
export type TrackPlace = readonly number[];
/** A mark right under which nothing can be followed, and the nearest place where something can. */
export interface BareMark {
  readonly frame: number;
  /** It is followed by what lies within so many pixels of the footage; not at all without. */
  readonly around?: number;
  readonly nearest?: { readonly x: number; readonly y: number };
}
/** Places by frame of the footage; null where it is lost. */
export interface Track {
  /** What is traced. Default: a point. */
  readonly kind?: PlaceKindId;
  readonly places: readonly (TrackPlace | null)[];
  /** Marks on bare surfaces, if there are any. */
  readonly bare?: readonly BareMark[];
}
/** Most marks of a trace. */
export const MOST_MARKS = 2000;
/** Value of `sureOf` for a mark. */
export const MARKED = 2;

/** How sure a place of a track is; 0 where it is lost. */
export const sureOf = (place: TrackPlace | null | undefined): number => place?.at(-1) ?? 0;
/** The kind of what a track or a trace is of. */
export const kindOfTrace = ({ kind = 'point' }: { readonly kind?: PlaceKindId | undefined }) =>
  PLACE_KINDS[kind];
/** A place of a track with its numbers rounded, and how sure it is. */
export const trackPlace = (numbers: readonly number[], sure: number): TrackPlace => [
  ...numbers.map(rounded),
  sure,
];
const SHARES = 1e6;
const rounded = (v: number): number => Math.round(v * SHARES) / SHARES;

/** The stretch of frames around one of them in which no other shot begins: first and last. */
export function shotAround(
  frame: number,
  frames: number,
  cuts: readonly number[],
): [number, number] {
  const first = Math.max(0, ...cuts.filter((c) => c <= frame));
  return [first, Math.min(frames - 1, ...cuts.filter((c) => c > frame).map((c) => c - 1))];
}
/** The marks of footage in their order; those beyond its ends are left out. */
export const inOrder = (marks: readonly Mark[], frames: number): Mark[] =>
  marks.filter((m) => m.frame >= 0 && m.frame < frames).sort((a, b) => a.frame - b.frame);

/** A track by hand: straight between marks, held before the first and after the last of a shot. */
export function trackByHand(
  { kind, marks, cuts }: Omit<TraceGiven, 'follow'>,
  frames: number,
): Track {
  const of = kindOfTrace({ kind }),
    all = inOrder(marks, frames);
  const places = Array.from({ length: frames }, (_, f): TrackPlace | null => {
    const [first, last] = shotAround(f, frames, cuts);
    const here = all.filter((m) => m.frame >= first && m.frame <= last);
    const before = here.findLast((m) => m.frame <= f),
      after = here.find((m) => m.frame >= f);
    if (before?.frame === f) return trackPlace(of.numbers(before), MARKED);
    const [a, b] = [before ?? after, after ?? before];
    if (!a || !b) return null;
    const share = a === b ? 0 : (f - a.frame) / (b.frame - a.frame);
    return trackPlace(of.mix(of.numbers(a), of.numbers(b), share), 1);
  });
  return { ...(kind && kind !== 'point' && { kind }), places };
}

/** Most places in a row that are left out. */
const MOST_LEFT_OUT = 250;
/** How far numbers of a place may be off the way between two others to lie on it. */
const ON_THE_WAY = 1e-6;
/**
 * Marks that give a track by hand: those of its places that do not lie on the straight way between
 * the mark before and the place after. Where it is lost, the way by hand goes straight through.
 */
export function marksOf(track: Track): Mark[] {
  const kind = kindOfTrace(track);
  const known = track.places.flatMap((p, frame) => (p ? [{ frame, numbers: p.slice(0, -1) }] : []));
  const kept: typeof known = [];
  let last = -1;
  known.forEach((here, i) => {
    const before = kept.at(-1),
      after = known[i + 1];
    const between =
      before && after && i - last <= MOST_LEFT_OUT ? known.slice(last + 1, i + 1) : [];
    // All that were left out since the mark before still lie on the way to the place after.
    const onTheWay =
      between.length > 0 &&
      between.every(({ frame, numbers }) => {
        const share = (frame - before!.frame) / (after!.frame - before!.frame);
        return kind
          .mix(before!.numbers, after!.numbers, share)
          .every((v, k) => Math.abs(v - numbers[k]!) <= ON_THE_WAY);
      });
    if (onTheWay) return;
    kept.push(here);
    last = i;
  });
  return kept.map(({ frame, numbers }) => ({ frame, ...kind.of(numbers) }));
}

/** Frames by which the way of a lost place is measured. */
const WAY = 4;

/**
 * The place at a moment of the footage, also between frames: on the way between the two. Where it is
 * lost, the last place before, else the first after (`hold`); the nearer of the two (`fade`); or on
 * along the way before, else back along the way after (`go-on`). Undefined where there is none in
 * the shot.
 */
export function placeOn(
  track: Track,
  moment: number,
  cuts: readonly number[] = [],
  lost: 'hold' | 'fade' | 'go-on' = 'hold',
): PlaceValue | undefined {
  const { places } = track,
    kind = kindOfTrace(track);
  const numbers = (f: number): readonly number[] => places[f]!.slice(0, -1);
  const at = (frame: number): readonly number[] | undefined => {
    if (places[frame]) return numbers(frame);
    const { before, after } = knownAround(track, frame, cuts);
    const near = before ?? after;
    if (near === undefined) return undefined;
    if (lost === 'fade' && after !== undefined && after - frame < frame - (before ?? -Infinity))
      return numbers(after);
    if (lost !== 'go-on') return numbers(near);
    // A line through the place and one a few frames back (or on), as far as it was known.
    const by = before === undefined ? 1 : -1;
    let other = near;
    while (Math.abs(other + by - near) <= WAY && places[other + by]) other += by;
    if (other === near) return numbers(near);
    const [a, b] = [numbers(near), numbers(other)],
      share = (frame - near) / (near - other);
    return a.map((v, i) => v + share * (v - b[i]!));
  };
  const { whole, share, next } = framesAt(track, moment, cuts);
  const a = at(whole);
  if (!a) return undefined;
  const b = share > 0 && next !== undefined ? (at(next) ?? a) : a;
  return kind.of(share > 0 ? kind.mix(a, b, share) : a);
}

/**
 * How far a place is there at a moment, 0…1: less the more frames it is lost, `over` so many, and
 * more again as many before it comes back.
 */
export function presenceOn(
  track: Track,
  moment: number,
  cuts: readonly number[],
  over: number,
): number {
  const at = (frame: number): number => {
    if (track.places[frame]) return 1;
    const { before = -Infinity, after = Infinity } = knownAround(track, frame, cuts);
    return Math.max(0, 1 - Math.min(frame - before, after - frame) / over);
  };
  const { whole, share, next } = framesAt(track, moment, cuts);
  return share > 0 && next !== undefined ? at(whole) + share * (at(next) - at(whole)) : at(whole);
}

/** The first place of a track, wherever it is; undefined if there is none at all. */
export function anyPlace(track: Track): PlaceValue | undefined {
  const first = track.places.find((p) => p !== null);
  return first && kindOfTrace(track).of(first.slice(0, -1));
}
/** Whether a track has a place in each shot of the footage. */
export const isInEveryShot = ({ places }: Track, cuts: readonly number[]): boolean =>
  [0, ...cuts].every((first) => {
    const [from, to] = shotAround(first, places.length, cuts);
    return places.slice(from, to + 1).some((p) => p !== null);
  });

/** The frames around a moment: the one before, the share of the way on, and the next of its shot. */
function framesAt(
  { places }: Track,
  moment: number,
  cuts: readonly number[],
): { readonly whole: number; readonly share: number; readonly next: number | undefined } {
  const whole = Math.max(0, Math.min(places.length - 1, Math.floor(moment)));
  const [, last] = shotAround(whole, places.length, cuts);
  return { whole, share: moment - whole, next: whole + 1 <= last ? whole + 1 : undefined };
}
/** The last frame before and the first after, in a shot, on which a place is known. */
function knownAround(
  { places }: Track,
  frame: number,
  cuts: readonly number[],
): { readonly before: number | undefined; readonly after: number | undefined } {
  const [first, last] = shotAround(frame, places.length, cuts);
  let before: number | undefined, after: number | undefined;
  for (let f = frame - 1; f >= first && before === undefined; f--) if (places[f]) before = f;
  for (let f = frame + 1; f <= last && after === undefined; f++) if (places[f]) after = f;
  return { before, after };
}
