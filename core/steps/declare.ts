/** What a step declares. Controls, validation, documentation and tests follow from it. */
import type { AssetId } from '../assets';
import type { Domain, ImageNode } from '../graph';
import type { EncodingId } from '../image';
import type { Node, Pixel, TableSpec } from '../kernel';
import type { Colour, Line, Parameter, Values, ValuesOf } from '../parameters';
import type { Rate } from '../time';

/** Families of steps, in the order of the menu. */
export type Family = 'colour' | 'light' | 'edge' | 'film' | 'tape' | 'warp' | 'time' | 'fill';
/** Number parameters as a grid. `ids` holds each row's parameters in the order of the columns. */
export interface NumberGrid {
  readonly columns: readonly string[];
  readonly rows: readonly { readonly label: string; readonly ids: readonly string[] }[];
}

/** Number parameters that a wheel moves together: a colour offset, and all channels at once. */
export interface Wheel {
  readonly label: string;
  readonly all: string;
  readonly channels: readonly [string, string, string];
}

/** Where and when a step is evaluated. */
export interface FrameContext {
  /**
   * Index of the frame, counted from the clip's first; in a clip that was split off from the first
   * of the whole, as are its seconds, cuts and cues.
   */
  readonly frame: number;
  /** Index of the frame in the clip itself. Default: `frame`. */
  readonly index?: number;
  /** Seed of this step in this layer of this look on this clip. */
  readonly seed: number;
  /** Working size in pixels. A line is 1/1080 of the height. */
  readonly width: number;
  readonly height: number;
  /** Time from the clip's first frame, at the clip's rate. */
  readonly seconds: number;
  readonly rate: Rate;
  /**
   * Frames at which another shot begins inside the clip, and frames of the cues that the look asks
   * for.
   */
  readonly cuts?: readonly number[];
  readonly cues?: readonly number[];
  /** Encoding of the clip, for steps that act on code values. Default: sRGB. */
  readonly encoding?: EncodingId;
  /** Other pictures that a step may read: what lies below its layer, and the clip. */
  readonly others?: { readonly below: ImageNode; readonly clip: ImageNode };
  /**
   * The picture of the layer that the step names; undefined if it names none, or one that is
   * planned later.
   */
  readonly layerNamed?: (() => ImageNode | undefined) | undefined;
  /**
   * This step's own input a number of frames earlier, in any domain; undefined if there is none.
   * Steps that use it declare `looksBack`.
   */
  readonly earlier?: ((frames: number) => ImageNode | undefined) | undefined;
  /**
   * Motion of the clip from a number of frames earlier to the frame after that: right and down in
   * pixels, and confidence. Undefined if not measured. Steps that use it declare `uses`.
   */
  readonly motion?: ((frames: number) => ImageNode | undefined) | undefined;
  /**
   * This step's own input at a share of the way from the previous frame to this one, made from the
   * clip's motion; undefined at the first frame and if motion is not measured. Steps that use it
   * declare `uses`.
   */
  readonly instantBefore?: ((share: number) => ImageNode | undefined) | undefined;
  /**
   * The smallest number of frames ago at which what moves was that many lines back on its way;
   * undefined if that is too long ago or before the clip. The answer is known to be at least
   * `from`. Missing if motion is not measured.
   */
  readonly framesSince?: ((lines: number, from?: number) => number | undefined) | undefined;
}

/** What a pixel step's expression may use. */
export interface PixelTools {
  /** The i-th number returned by `numbers`. */
  n(i: number): Node;
  /** `x` through the i-th table returned by `tables`, a curve. */
  curve(i: number, x: Node): Node;
  /** A colour through the i-th table returned by `tables`, a cube. */
  cube(i: number, c: Pixel): Pixel;
  /** The pixel's centre in lines from the middle of the frame. */
  x: Node;
  y: Node;
  seed: Node;
  frame: Node;
}

/** Curves that a step shows beside its controls. */
export interface Plot {
  readonly x: { readonly label: string; readonly from: number; readonly to: number };
  readonly y: { readonly label: string; readonly from: number; readonly to: number };
  /** Each drawn in a channel's colour, or (`all`) in that of lightness. */
  readonly lines: readonly {
    readonly name: string;
    readonly of: 'red' | 'green' | 'blue' | 'all';
    readonly points: readonly (readonly [number, number])[];
  }[];
  /** Position of an encoded tone of the clip along x. */
  readonly place: (tone: number) => number;
}

/** Some of a step's values. */
type Some<V> = string extends keyof V ? V : Partial<V>;

interface StepBase<V> {
  readonly id: string;
  readonly family: Family;
  readonly label: string;
  readonly help: string;
  readonly domain: Domain;
  readonly parameters: readonly Parameter[];
  /** Initial values when added by hand, for steps whose defaults have no visible effect. */
  readonly start?: Some<V>;
  /** Values for its picture in the menu, for steps whose defaults rightly have no effect. */
  readonly example?: Some<V>;
  /** Steps below it in its picture (id and values), where it acts on what others made. */
  readonly exampleOn?: readonly { readonly step: string; readonly values: Values }[];
  /** Draws something of its own even at its neutral values (fills, film, tape). */
  readonly alwaysActs?: boolean;
  /**
   * Has places where the smallest change of a number changes a pixel completely (an edge, a seam).
   */
  readonly jumps?: boolean;
  readonly wheels?: readonly Wheel[];
  /** Numbers that are clearer in a grid than in a list. */
  readonly grid?: NumberGrid;
  /** The file format whose contents are this step's parameters. */
  readonly exchange?: 'cdl';
  /** The effect of the step as curves, on a clip of an encoding. */
  readonly plot?: (v: V, encoding: EncodingId) => Plot;
  /** The values at which a colour (linear light) becomes grey. */
  readonly greyFrom?: (light: Colour) => Values;
}
/** A step that computes each pixel from that pixel alone. */
export interface PixelStep<V = Values> extends StepBase<V> {
  /** The numbers of the kernel for these values; always the same count. */
  readonly numbers: (v: V, at: FrameContext) => readonly number[];
  readonly tables?: (v: V, at: FrameContext) => readonly TableSpec[];
  /** Whether these values leave every picture unchanged. */
  readonly idle?: (v: V) => boolean;
  /** The name of the expression's variant; values that change the expression must change it. */
  readonly variant?: (v: V, at: FrameContext) => string;
  /**
   * The expression. Colour is not premultiplied, unless `covering`. Pure: the same variant gives
   * the same expression.
   */
  readonly pixel: (c: Pixel, t: PixelTools, v: V, at: FrameContext) => Pixel;
  /** Acts on premultiplied colour and may change coverage. */
  readonly covering?: boolean;
  /** If each channel is a function of itself alone: the approximate number of operations. */
  readonly channelwise?: (v: V) => number;
  /** Number of planes of the result for that of the input. Default: the same. */
  readonly planes?: (taken: number) => number;
}
/** A step that builds its own graph. */
export interface BuiltStep<V = Values> extends StepBase<V> {
  readonly build: (input: ImageNode, v: V, at: FrameContext) => ImageNode;
  /** The choice, and its value, at which it reads the layer that its use names (`from`). */
  readonly namesLayer?: { readonly id: keyof V & string; readonly at: string };
  /** Reads its own input of earlier frames: always, or when a choice has one of some values. */
  readonly looksBack?: boolean | { readonly id: keyof V & string; readonly at: readonly string[] };
  /**
   * The assets that it asks for, each with the parameter that makes it ask: unless it is 0 or off,
   * or when it has a value.
   */
  readonly uses?: {
    readonly [K in AssetId]?: { readonly id: keyof V & string; readonly at?: string };
  };
  /** Whether a single event of it begins at a frame; events are shown on the time shelf. */
  readonly begins?: (v: V, at: EventContext) => boolean;
}
/** What the events of a step depend on. */
export type EventContext = Required<Pick<FrameContext, 'frame' | 'seed' | 'cuts' | 'cues'>>;
/** What a declaration says with its parameters, in order to give its functions typed values. */
type Declared<Kind, P> = Kind & { readonly parameters: P };
/** Declares a pixel step; its functions get values by the types of its parameters. */
export const pixelStep = <const P extends readonly Parameter[]>(
  step: Declared<PixelStep<ValuesOf<P>>, P>,
): PixelStep => step as unknown as PixelStep;
/** Declares a built step; its functions get values by the types of its parameters. */
export const builtStep = <const P extends readonly Parameter[]>(
  step: Declared<BuiltStep<ValuesOf<P>>, P>,
): BuiltStep => step as unknown as BuiltStep;
/** A step of either kind. */
export type Step = PixelStep | BuiltStep;

/** A point in lines from the middle of the frame. */
export const inLines = (
  [x, y]: readonly [number, number],
  at: Pick<FrameContext, 'width' | 'height'>,
): readonly [number, number] => [((x - 0.5) * 1080 * at.width) / at.height, (y - 0.5) * 1080];
/**
 * The position at a share along a line, from its first end (0) to its second (100): the line's unit
 * direction, and the distance along it in lines.
 */
export function acrossLine(
  [x0, y0, x1, y1]: Line,
  place: number,
  at: Pick<FrameContext, 'width' | 'height'>,
): readonly [number, number, number] {
  const [ax, ay] = inLines([x0, y0], at),
    [bx, by] = inLines([x1, y1], at);
  const far = Math.max(1e-3, Math.sqrt((bx - ax) * (bx - ax) + (by - ay) * (by - ay)));
  const [nx, ny] = [(bx - ax) / far, (by - ay) / far];
  return [nx, ny, nx * ax + ny * ay + (far * place) / 100];
}

/** A length in lines, in pixels. */
export const pixels = (lines: number, at: FrameContext): number => (lines * at.height) / 1080;

/** The values at which a step returns its input. */
export const neutralValues = (step: Step): Values =>
  Object.fromEntries(
    step.parameters.map((p) => [p.id, p.kind === 'number' ? (p.neutral ?? p.default) : p.default]),
  );
