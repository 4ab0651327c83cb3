/** What a kind of place declares: its numbers in a clip's picture, and how it lies in a frame. */
import { type Framing, frameFit } from '../image';
import type { Ellipse, Line, Path, Point } from '../parameters';

/** A place in the look's frame, as a value of the parameter that it sets. */
export type PlaceInFrame = Point | Line | Ellipse | Path;

/** A kind of place in a clip's picture. `V`: as clips keep it; `F`: in the look's frame. */
export interface PlaceKind<V, F extends PlaceInFrame> {
  readonly id: string;
  /** With its article, for messages. */
  readonly words: string;
  /** What it is until a clip sets it. */
  readonly unset: string;
  /** How its numbers are written on the command line, in per cent but for degrees. */
  readonly example: string;
  /** The fields of its values, in the order of `numbers`. */
  readonly fields: readonly (keyof V & string)[];
  /** Whether a value is one of its own, with places at most a little outside of the picture. */
  readonly is: (v: object) => boolean;
  /** Its numbers, and the value of such numbers. */
  readonly numbers: (v: V) => readonly number[];
  readonly of: (numbers: readonly number[]) => V;
  /** Its numbers at a share of the way from one to another. */
  readonly mix: (a: readonly number[], b: readonly number[], share: number) => readonly number[];
  readonly inFrame: (v: V, framing: Framing) => F;
  readonly inClip: (f: F, framing: Framing) => V;
  /**
   * The value after what it lies on has moved: by a map of places of the picture, in shares, and its
   * growth and turn in degrees.
   */
  readonly moved: (v: V, by: Movement) => V;
  /**
   * Places on its edge by which its movement is judged, in shares of the picture; `aspect`: the
   * picture's width ÷ its height.
   */
  readonly spots: (v: V, aspect: number) => readonly Point[];
  /** Whether what is seen at a place moves with it: on it, in it, or close to its edge. */
  readonly carriedBy: (v: V, at: Point, aspect: number) => boolean;
}

/** How something in a picture moved: places, size, and turn in degrees. */
export interface Movement {
  readonly place: (at: Point) => Point;
  readonly scale: number;
  readonly turn: number;
}

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

/** How far around a place belongs to it, in shares of the picture's height. */
export const MARGIN = 0.03;
/** Distance of two places, in shares of the picture's height. */
export function apart(a: Point, b: Point, aspect: number): number {
  const [dx, dy] = [(a[0] - b[0]) * aspect, a[1] - b[1]];
  return Math.sqrt(dx * dx + dy * dy);
}
/** Distance of a place from the line between two, in shares of the picture's height. */
export function fromLine(at: Point, a: Point, b: Point, aspect: number): number {
  const [dx, dy] = [(b[0] - a[0]) * aspect, b[1] - a[1]],
    length = dx * dx + dy * dy;
  const along = length > 0 ? ((at[0] - a[0]) * aspect * dx + (at[1] - a[1]) * dy) / length : 0,
    share = Math.max(0, Math.min(1, along));
  return apart(at, [a[0] + share * (b[0] - a[0]), a[1] + share * (b[1] - a[1])], aspect);
}

/** Shares of the picture, a good deal outside it at most. */
export const areShares = (...all: readonly unknown[]): boolean =>
  all.every((v) => typeof v === 'number' && v >= -4 && v <= 5);
/** Whether an object has these fields and no others. */
export const hasOnly = (v: object, fields: readonly string[]): boolean =>
  Object.keys(v).length === fields.length && fields.every((k) => k in v);
/** Numbers at a share of the way from one list to another of the same length. */
export const mixAll = (a: readonly number[], b: readonly number[], share: number): number[] =>
  a.map((v, i) => v + share * (b[i]! - v));
