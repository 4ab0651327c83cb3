/** Pins: what a clip supplies where a look asks for it, and where their places lie in a frame. */
import type { Fit, Framing, Reframe } from '../image';
import { inFrame, type PlaceInFrame, type PlaceValue } from '../places';
import type { Balance } from './balance';

/**
 * A value of a pin. An instant is a frame of the clip, counted from its first. A place lies in the
 * clip's own picture. Footage is another clip. A trace says a place for every frame.
 */
export type PinValue = { readonly frame: number } | PlaceValue | FootagePin | TracePin;
/** A place that a trace of the footage says, frame by frame; `trace` is its id. */
export interface TracePin {
  readonly trace: string;
}
/** Whether a value is a place of the clip's picture. */
export const isPlacePin = (v: PinValue): v is PlaceValue => 'x' in v || 'nodes' in v;
/**
 * Another clip of the project, by its content hash: the frame of it that is shown at a given moment
 * of the host clip, and the speed it then plays at (its seconds per second of the host).
 */
export interface FootagePin {
  readonly hash: string;
  readonly start: number;
  readonly speed: number;
  /** What is shown before its first frame and after its last. Default: it repeats. */
  readonly beyond?: Beyond;
  /** A balance that matches it to the host clip and replaces its own. */
  readonly balance?: Balance;
  /** How it is fitted into the look's frame. Default: as it is fitted as a clip. */
  readonly fit?: Fit;
  /**
   * Its position in the look's frame. Default: its position as a clip, or the middle where `fit` is
   * set.
   */
  readonly reframe?: Reframe;
  /**
   * The moment of the host clip at which `start` is shown: the last frame, or a cue by its pin's
   * key. Default: the first frame.
   */
  readonly at?: 'end' | { readonly cue: string };
}
/**
 * The clip whose settings a pin's footage has: footage may be in a project several times. A plate
 * comes before a clip, because plates are material; among equals the first in the project's order.
 */
export const pinned = <C extends { readonly hash: string; readonly role?: 'clip' | 'plate' }>(
  hash: string,
  inOrder: readonly C[],
): C | undefined => {
  const same = inOrder.filter((c) => c.hash === hash);
  return same.find((c) => c.role === 'plate') ?? same[0];
};

/** What footage shows beyond its ends: repeat, to and fro, hold the last frame, or nothing. */
export const BEYOND = ['again', 'to-and-fro', 'hold', 'end'] as const;
/** One of `BEYOND`. */
export type Beyond = (typeof BEYOND)[number];
/** A clip's pins by key. One key serves every look that asks for it. */
export type ClipPins = Readonly<Record<string, readonly PinValue[]>>;
/** Pins without a trace; undefined if none names it. */
export function withoutTrace(pins: ClipPins, id: string): ClipPins | undefined {
  const left = Object.entries(pins).map(
    ([key, all]) => [key, all.filter((p) => !('trace' in p && p.trace === id))] as const,
  );
  return left.every(([key, all]) => all.length === pins[key]!.length)
    ? undefined
    : Object.fromEntries(left.filter(([, all]) => all.length > 0));
}

/** Pins of places as places in the look frame. */
export type PlacesInFrame = Readonly<Record<string, readonly PlaceInFrame[]>>;
/**
 * Where a trace that a pin takes lies in the clip's picture at a moment; undefined if it is not
 * known.
 */
export type TracedPlace = (trace: string, pin: string) => PlaceValue | undefined;
const MIDDLE: PlaceValue = { x: 0.5, y: 0.5 };
/**
 * All places that a clip's pins set, in the frame. Pins of other kinds are left out; a trace of
 * which nothing is known lies in the middle.
 */
export const placesInFrame = (
  pins: ClipPins,
  framing: Framing,
  traced: TracedPlace = () => undefined,
): PlacesInFrame =>
  Object.fromEntries(
    Object.entries(pins).map(([key, all]) => [
      key,
      all.flatMap((p) => {
        const at = 'trace' in p ? (traced(p.trace, key) ?? MIDDLE) : p;
        return isPlacePin(at) ? [inFrame(at, framing)] : [];
      }),
    ]),
  );
/** Keys of the pins that a trace moves. */
export const tracedPins = (pins: ClipPins): string[] =>
  Object.keys(pins).filter((key) => pins[key]!.some((p) => 'trace' in p));
/** Ids of the traces that a clip's pins name, of those with some keys. */
export const tracesNamed = (pins: ClipPins | undefined, keys: readonly string[]): string[] => [
  ...new Set(
    keys.flatMap((key) => (pins?.[key] ?? []).flatMap((p) => ('trace' in p ? [p.trace] : []))),
  ),
];
