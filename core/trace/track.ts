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
  readonly marks: readonly Mark[];
  /** Frames of the footage at which another shot begins. */
  readonly cuts: readonly number[];
}
/**
 * A place on a frame: the numbers of its kind (`PLACE_KINDS`), then how sure it is: 2 where a person
 * marked it, 1 where it is sure, less where only a chain leads to it.
 */
export type TrackPlace = readonly number[];
/** A mark under which nothing can be followed, and the nearest place where something can. */
export interface BareMark {
  readonly frame: number;
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

/**
 * The place at a moment of the footage, also between frames: on the way between the two. Where it is
 * lost, the last place before, else the first after; undefined where there is none in the shot.
 */
export function placeOn(
  track: Track,
  moment: number,
  cuts: readonly number[] = [],
): PlaceValue | undefined {
  const { places } = track,
    kind = kindOfTrace(track);
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
  const numbers = (p: TrackPlace): readonly number[] => p.slice(0, -1);
  return kind.of(share > 0 ? kind.mix(numbers(a), numbers(b), share) : numbers(a));
}
