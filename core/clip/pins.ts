/**
 * Pins: what a clip says of itself where a look asks for it, and where its places lie in a frame.
 */
import { type Fit, type Framing, frameFit, type Reframe } from '../image';
import type { Line, Point } from '../parameters';
import type { Balance } from './balance';

/**
 * An instant, as a frame of the clip counted from its first; a place, as shares of the clip's own
 * picture from its upper left corner; a line by its two ends; or footage.
 */
export type PinValue = { readonly frame: number } | PlacePin | LinePin | FootagePin;
export interface PlacePin {
  readonly x: number;
  readonly y: number;
}
export interface LinePin extends PlacePin {
  readonly x2: number;
  readonly y2: number;
}
/**
 * Another clip of the project, by its content: which of its frames is seen at a moment of the clip,
 * and at how many of its seconds to one of the clip's it goes on.
 */
export interface FootagePin {
  readonly hash: string;
  readonly start: number;
  readonly speed: number;
  /** What is there before its first frame and after its last; by default it begins again. */
  readonly beyond?: Beyond;
  /** Brings it to the clip it stands beside, in place of its own balance. */
  readonly balance?: Balance;
  /** How it is brought into the look's frame; by default as it is as a clip. */
  readonly fit?: Fit;
  /**
   * How it lies in the look's frame beside this clip; by default as it lies as a clip, or in the
   * middle where `fit` is set.
   */
  readonly reframe?: Reframe;
  /**
   * The moment of the clip at which `start` is seen: its last frame, or a cue (by its pin's key);
   * by default its first frame.
   */
  readonly at?: 'end' | { readonly cue: string };
}
export const BEYOND = ['again', 'to-and-fro', 'hold', 'end'] as const;
export type Beyond = (typeof BEYOND)[number];
/**
 * A clip's pins by the key a look asks for them by; the same key serves every look that asks for
 * it.
 */
export type ClipPins = Readonly<Record<string, readonly PinValue[]>>;

/** Point and line pins as places in the look frame. */
export type PointsInFrame = Readonly<Record<string, readonly (Point | Line)[]>>;
/** A place of the clip's picture as one of the frame, and back. */
export function placeInFrame([x, y]: Point, framing: Framing): Point {
  const { size, middle } = frameFit(framing);
  return [0.5 + (x - middle[0]) * size[0], 0.5 + (y - middle[1]) * size[1]];
}
export function placeInClip([x, y]: Point, framing: Framing): Point {
  const { size, middle } = frameFit(framing);
  return [middle[0] + (x - 0.5) / size[0], middle[1] + (y - 0.5) / size[1]];
}
export const pointsInFrame = (pins: ClipPins, framing: Framing): PointsInFrame =>
  Object.fromEntries(
    Object.entries(pins).map(([key, all]) => [
      key,
      all.flatMap((p) => ('x' in p ? [inFrame(p, framing)] : [])),
    ]),
  );
const inFrame = (p: PlacePin | LinePin, framing: Framing): Point | Line => {
  const from = placeInFrame([p.x, p.y], framing);
  return 'x2' in p ? [...from, ...placeInFrame([p.x2, p.y2], framing)] : from;
};
