/**
 * What a step declares: from it come the controls, the validation, the documentation and the tests
 * of its defaults.
 */
import type { Domain, ImageNode } from '../graph';
import type { EncodingId } from '../image';
import type { Node, Pixel, TableSpec } from '../kernel';
import type { Colour, Line, Parameter, Point, Values } from '../parameters';
import type { Rate } from '../time';

export type Family = 'colour' | 'light' | 'edge' | 'film' | 'tape' | 'warp' | 'time' | 'fill';
/**
 * Number parameters as rows and columns; `ids` holds a row's parameters in the order of the
 * columns.
 */
export interface NumberGrid {
  readonly columns: readonly string[];
  readonly rows: readonly { readonly label: string; readonly ids: readonly string[] }[];
}

/** Number parameters that a wheel moves together: a push of colour, and all channels alike. */
export interface Wheel {
  readonly label: string;
  readonly all: string;
  readonly channels: readonly [string, string, string];
}

/** Where and when a step works. */
export interface FrameContext {
  /** The clip's frame, counted from its first. */
  readonly frame: number;
  /** Of this step in this layer of this look on this clip. */
  readonly seed: number;
  /** The working size in pixels; a line is 1/1080 of its height. */
  readonly width: number;
  readonly height: number;
  /** From the clip's first frame to this one, at the clip's rate. */
  readonly seconds: number;
  readonly rate: Rate;
  /**
   * The frames with which another shot begins inside the clip, and those of the cues that the look
   * asks for.
   */
  readonly cuts?: readonly number[];
  readonly cues?: readonly number[];
  /** How the clip is coded, for what acts on its code values; sRGB where nothing says. */
  readonly encoding?: EncodingId;
  /** What a step may look at beside its own input: what lies below its layer, and the clip. */
  readonly others?: { readonly below: ImageNode; readonly clip: ImageNode };
  /**
   * The picture of the layer that its use names; undefined where it names none, or one that is not
   * planned before.
   */
  readonly layerNamed?: () => ImageNode | undefined;
  /**
   * This step's own input so many frames earlier, in whatever domain; undefined where there is
   * none. Steps that ask say so by `looksBack`.
   */
  readonly earlier?: (frames: number) => ImageNode | undefined;
  /**
   * Where each pixel of the clip went from so many frames earlier to the frame after that: right
   * and down in pixels, and how far that is believed. Undefined where it was not measured. Steps
   * that ask say so by `usesMotion`.
   */
  readonly motion?: (frames: number) => ImageNode | undefined;
  /**
   * This step's own input at a share of the way from the frame before to this one, made from the
   * clip's motion; undefined at the first frame, and where motion is not measured. Steps that ask
   * say so by `usesMotion`.
   */
  readonly instantBefore?: (share: number) => ImageNode | undefined;
  /**
   * How many frames ago what moves lay so many lines back on its way, at the latest; undefined
   * where that is longer ago than is looked back, or before the clip. It is known not to be less
   * long ago than `from` frames. Not there where nothing of it is measured.
   */
  readonly framesSince?: (lines: number, from?: number) => number | undefined;
}

/** What a pixel step's expression may use. */
export interface PixelTools {
  /** The numbers that `numbers` returned, in its order. */
  n(i: number): Node;
  /** A curve or table that `tables` returned. */
  curve(i: number, x: Node): Node;
  /** A colour through a cube that `tables` returned. */
  cube(i: number, c: Pixel): Pixel;
  /** The pixel's centre in lines, from the middle of the frame. */
  x: Node;
  y: Node;
  seed: Node;
  frame: Node;
}

/** Curves that a step draws beside its controls. */
export interface Plot {
  readonly x: { readonly label: string; readonly from: number; readonly to: number };
  readonly y: { readonly label: string; readonly from: number; readonly to: number };
  /** Each drawn in a channel's colour, or (`all`) in that of lightness. */
  readonly lines: readonly {
    readonly name: string;
    readonly of: 'red' | 'green' | 'blue' | 'all';
    readonly points: readonly (readonly [number, number])[];
  }[];
  /** Where an encoded tone of the clip lies along x. */
  readonly place: (tone: number) => number;
}

interface StepBase {
  readonly id: string;
  readonly family: Family;
  readonly label: string;
  readonly help: string;
  readonly domain: Domain;
  readonly parameters: readonly Parameter[];
  /** What a step that is added by hand begins with, where its neutral values show nothing. */
  readonly start?: Values;
  /** Values that its picture is made with, where it begins neutral as it should. */
  readonly example?: Values;
  /** Draws something of its own even at its neutral values (fills, film, tape). */
  readonly alwaysActs?: boolean;
  /** Has places where the least change of a number changes a pixel wholly (an edge, a seam). */
  readonly jumps?: boolean;
  readonly wheels?: readonly Wheel[];
  /** Numbers that are clearer side by side than one below the other. */
  readonly grid?: NumberGrid;
  /** The kind of file whose contents are this step's parameters. */
  readonly exchange?: 'cdl';
  /** What it does, as curves, on a clip that is coded so. */
  readonly plot?: (v: Values, encoding: EncodingId) => Plot;
  /** The values at which a colour (linear light) that should be grey becomes grey. */
  readonly greyFrom?: (light: Colour) => Values;
}
export interface PixelStep extends StepBase {
  /** The numbers a kernel is given for these values; their count depends on nothing. */
  readonly numbers: (v: Values, at: FrameContext) => readonly number[];
  readonly tables?: (v: Values, at: FrameContext) => readonly TableSpec[];
  /** Whether these values leave every picture as it is. */
  readonly idle?: (v: Values) => boolean;
  /** Choices that change the expression itself. */
  readonly variant?: (v: Values, at: FrameContext) => string;
  /**
   * Sees plain colour, unmultiplied, unless `covering`. Pure: the same variant gives the same
   * expression.
   */
  readonly pixel: (c: Pixel, t: PixelTools, v: Values, at: FrameContext) => Pixel;
  /** Works on colour times coverage and may change coverage. */
  readonly covering?: boolean;
  /** Each channel is a function of itself alone: about how many operations that takes. */
  readonly channelwise?: (v: Values) => number;
  /** Planes given for those taken; by default the same. */
  readonly planes?: (taken: number) => number;
}
export interface BuiltStep extends StepBase {
  readonly build: (input: ImageNode, v: Values, at: FrameContext) => ImageNode;
  /** The choice, and its value, at which it looks at the layer that its use names (`from`). */
  readonly namesLayer?: { readonly id: string; readonly at: string };
  /**
   * Looks at its own input of earlier frames: always, or where a choice is set to one of some
   * values.
   */
  readonly looksBack?: boolean | { readonly id: string; readonly at: readonly string[] };
  /**
   * The parameter that has it ask for the clip's motion: unless it stands at 0 or is off; of a
   * choice, where it stands at `motion`.
   */
  readonly usesMotion?: string;
  /** The choice, and its value, at which it counts by how far what moves has come. */
  readonly countsWay?: { readonly id: string; readonly at: string };
  /** Whether a single event of it begins at a frame: those are shown on the time shelf. */
  readonly begins?: (v: Values, at: EventContext) => boolean;
}
export type EventContext = Required<Pick<FrameContext, 'frame' | 'seed' | 'cuts' | 'cues'>>;
export type Step = PixelStep | BuiltStep;

/** A point in lines from the middle of the frame. */
export const inLines = (
  [x, y]: readonly [number, number],
  at: Pick<FrameContext, 'width' | 'height'>,
): readonly [number, number] => [((x - 0.5) * 1080 * at.width) / at.height, (y - 0.5) * 1080];
/** A place in lines from the middle of the frame. */
export const fromMiddle = (v: Values, id: string, at: FrameContext): readonly [number, number] =>
  inLines(v[id] as Point, at);

/**
 * Where a place lies along a line from its first end (0) to its second (100): the line's direction,
 * and how far along that it is, in lines.
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

/** Pixels in a length given in lines. */
export const pixels = (lines: number, at: FrameContext): number => (lines * at.height) / 1080;

/** The values at which a step returns its input. */
export const neutralValues = (step: Step): Values =>
  Object.fromEntries(
    step.parameters.map((p) => [p.id, p.kind === 'number' ? (p.neutral ?? p.default) : p.default]),
  );
