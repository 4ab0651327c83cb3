/** Pins: what a clip supplies where a look asks for it, and where their places lie in a frame. */
import { type Fit, type Framing, frameFit, type Reframe } from '../image';
import type { Line, Point } from '../parameters';
import type { Balance } from './balance';

/**
 * A value of a pin. An instant is a frame of the clip, counted from its first. A place is in shares
 * of the clip's own picture, from its upper left corner. A line is given by its two ends. Footage
 * is another clip. A trace says a place for every frame.
 */
export type PinValue = { readonly frame: number } | PlacePin | LinePin | FootagePin | TracePin;
/** A place in shares of the clip's picture. */
export interface PlacePin {
  readonly x: number;
  readonly y: number;
}
/** A line from (x, y) to (x2, y2), in shares of the clip's picture. */
export interface LinePin extends PlacePin {
  readonly x2: number;
  readonly y2: number;
}
/** A place that a trace of the footage says, frame by frame; `trace` is its id. */
export interface TracePin {
  readonly trace: string;
}
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

/** Point and line pins as places in the look frame, in shares. */
export type PointsInFrame = Readonly<Record<string, readonly (Point | Line)[]>>;
/** Converts a place in the clip's picture to a place in the frame; both in shares. */
export function placeInFrame([x, y]: Point, framing: Framing): Point {
  const { size, middle } = frameFit(framing);
  return [0.5 + (x - middle[0]) * size[0], 0.5 + (y - middle[1]) * size[1]];
}
/** Converts a place in the frame to a place in the clip's picture; both in shares. */
export function placeInClip([x, y]: Point, framing: Framing): Point {
  const { size, middle } = frameFit(framing);
  return [middle[0] + (x - 0.5) / size[0], middle[1] + (y - 0.5) / size[1]];
}
/** Where a trace lies in the clip's picture at a moment; undefined if it is not known. */
export type TracedPlace = (trace: string) => PlacePin | undefined;
const MIDDLE: PlacePin = { x: 0.5, y: 0.5 };
/**
 * All point and line pins of a clip as places in the frame. Pins of other kinds are left out; a
 * trace of which nothing is known lies in the middle.
 */
export const pointsInFrame = (
  pins: ClipPins,
  framing: Framing,
  traced: TracedPlace = () => undefined,
): PointsInFrame =>
  Object.fromEntries(
    Object.entries(pins).map(([key, all]) => [
      key,
      all.flatMap((p) => {
        const at = 'trace' in p ? (traced(p.trace) ?? MIDDLE) : p;
        return 'x' in at ? [inFrame(at, framing)] : [];
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
const inFrame = (p: PlacePin | LinePin, framing: Framing): Point | Line => {
  const from = placeInFrame([p.x, p.y], framing);
  return 'x2' in p ? [...from, ...placeInFrame([p.x2, p.y2], framing)] : from;
};
