/** What a step declares: from it come the controls, the validation, the documentation and the tests of its defaults. */
import type { Node, Pixel, TableSpec } from '../kernel';
import type { EncodingId } from '../image/encodings';
import type { Domain, Picturing } from '../plan/graph';
import type { ProcessValue } from './process';

export type Family = 'colour' | 'light' | 'edge' | 'film' | 'tape' | 'warp' | 'fill';
export type Colour = readonly [number, number, number];
/** Points of a curve, x rising, encoded values. */
export type CurvePoints = readonly (readonly [number, number])[];
/** A look-up table: of colours (3d) or a curve a channel (1d). */
export interface CubeValue {
  readonly name: string;
  readonly kind: '1d' | '3d';
  /** Entries of a curve, or of a side. */
  readonly size: number;
  /** What its first and last entries stand for. */
  readonly lo: Colour;
  readonly hi: Colour;
  /** Names the contents. */
  readonly key: string;
  /** Little-endian 32-bit floats in base64. */
  readonly data: string;
}
/** What a LUT step carries: a table, or a list of nodes. */
export type LutValue = CubeValue | ProcessValue;
/** A place in the look frame: shares of its width and height from the upper left corner. */
export type Point = readonly [number, number];
/** From one place to another, each as a point. */
export type Line = readonly [number, number, number, number];
/** A centre as a point, half its width and half its height in lines, and its turn in degrees, clockwise. */
export type Ellipse = readonly [number, number, number, number, number];
/** A node of a drawn path: its place as a point, and how far from it the handles before and after it lie, in the same shares. */
export type PathNode = readonly [number, number, number, number, number, number];
/** A closed outline of cubic Bézier curves; fewer than three nodes enclose nothing. */
export type Path = readonly PathNode[];
/** A place as a point, and the colour there. */
export type ColourPlace = readonly [number, number, number, number, number];
export type ParameterValue =
  number | boolean | string | Colour | Point | Line | Ellipse | Path | readonly ColourPlace[] | CurvePoints | LutValue | null;

interface Base {
  readonly id: string;
  readonly label: string;
  readonly help?: string;
}
export interface NumberParameter extends Base {
  readonly kind: 'number';
  readonly unit: 'stops' | 'lines' | '%' | '' | '°' | 'encoded' | 'points' | 'years' | 'frames' | 'µm' | 'µs' | 'ns' | 'MHz' | 'Hz' | 'dB' | 'rows';
  /** What may be typed; the slider's own range is `soft`. */
  readonly min: number;
  readonly max: number;
  readonly soft?: readonly [number, number];
  readonly default: number;
  /** The value at which the parameter does nothing, where that is not the default. */
  readonly neutral?: number;
  /** What of a colour of the picture this number can be taken from: its hue, its luma, or the luma of its light. */
  readonly picked?: 'hue' | 'luma' | 'light';
}
export interface ColourParameter extends Base {
  readonly kind: 'colour';
  readonly default: Colour;
}
export interface SwitchParameter extends Base {
  readonly kind: 'switch';
  readonly default: boolean;
}
export interface ChoiceParameter extends Base {
  readonly kind: 'choice';
  readonly options: readonly { readonly id: string; readonly label: string }[];
  readonly default: string;
}
export interface CurveParameter extends Base {
  readonly kind: 'curve';
  readonly default: CurvePoints;
}
export interface PointParameter extends Base {
  readonly kind: 'point';
  readonly default: Point;
}
export interface LineParameter extends Base {
  readonly kind: 'line';
  readonly default: Line;
}
export interface EllipseParameter extends Base {
  readonly kind: 'ellipse';
  /** What is drawn with these five numbers. */
  readonly outline: 'ellipse' | 'box';
  readonly default: Ellipse;
}
export interface PathParameter extends Base {
  readonly kind: 'path';
  readonly default: Path;
}
export interface ColoursParameter extends Base {
  readonly kind: 'colours';
  readonly default: readonly ColourPlace[];
}
export interface TextParameter extends Base {
  readonly kind: 'text';
  readonly default: string;
}
export interface CubeParameter extends Base {
  readonly kind: 'cube';
  readonly default: null;
}
export type Parameter =
  | NumberParameter
  | ColourParameter
  | SwitchParameter
  | ChoiceParameter
  | CurveParameter
  | PointParameter
  | LineParameter
  | EllipseParameter
  | PathParameter
  | ColoursParameter
  | TextParameter
  | CubeParameter;

/** Number parameters as rows and columns; `ids` holds a row's parameters in the order of the columns. */
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

export type Values = Readonly<Record<string, ParameterValue>>;

/** Where and when a step works. */
export interface Moment {
  /** The clip's frame, counted from its first. */
  readonly frame: number;
  /** Of this step in this layer of this look on this clip. */
  readonly seed: number;
  /** The working size in pixels; a line is 1/1080 of its height. */
  readonly width: number;
  readonly height: number;
  /** From the clip's first frame to this one, at the clip's rate. */
  readonly seconds?: number;
  /** How the clip is coded, for what acts on its code values; sRGB where nothing says. */
  readonly encoding?: EncodingId;
  /** What a step may look at beside its own input: what lies below its layer, and the clip. */
  readonly others?: { readonly below: Picturing; readonly clip: Picturing };
}
export const secondsOf = (at: Moment): number => at.seconds ?? at.frame / 25;

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
  readonly numbers: (v: Values, at: Moment) => readonly number[];
  readonly tables?: (v: Values, at: Moment) => readonly TableSpec[];
  /** Whether these values leave every picture as it is. */
  readonly idle?: (v: Values) => boolean;
  /** Choices that change the expression itself. */
  readonly variant?: (v: Values, at: Moment) => string;
  /** Sees plain colour, unmultiplied, unless `covering`. Pure: the same variant gives the same expression. */
  readonly pixel: (c: Pixel, t: PixelTools, v: Values, at: Moment) => Pixel;
  /** Works on colour times coverage and may change coverage. */
  readonly covering?: boolean;
  /** Each channel is a function of itself alone: about how many operations that takes. */
  readonly channelwise?: (v: Values) => number;
  /** Planes given for those taken; by default the same. */
  readonly planes?: (taken: number) => number;
}
export interface BuiltStep extends StepBase {
  readonly build: (input: Picturing, v: Values, at: Moment) => Picturing;
}
export type Step = PixelStep | BuiltStep;

export const number = (
  id: string,
  label: string,
  unit: NumberParameter['unit'],
  min: number,
  max: number,
  def: number,
  more: Partial<NumberParameter> = {},
): NumberParameter => ({ kind: 'number', id, label, unit, min, max, default: def, ...more });
export const colour = (id: string, label: string, def: Colour): ColourParameter => ({ kind: 'colour', id, label, default: def });

export const CENTRE: Point = [0.5, 0.5];
export const point = (id: string, label: string, def: Point = CENTRE): PointParameter => ({ kind: 'point', id, label, default: def });
export const line = (id: string, label: string, def: Line, more: Partial<LineParameter> = {}): LineParameter => ({
  kind: 'line',
  id,
  label,
  default: def,
  ...more,
});
export const choice = (
  id: string,
  label: string,
  options: Readonly<Record<string, string>>,
  def: string,
  more: Partial<ChoiceParameter> = {},
): ChoiceParameter => ({
  kind: 'choice',
  id,
  label,
  options: Object.entries(options).map(([key, words]) => ({ id: key, label: words })),
  default: def,
  ...more,
});
export const flag = (id: string, label: string, def: boolean, more: Partial<SwitchParameter> = {}): SwitchParameter => ({
  kind: 'switch',
  id,
  label,
  default: def,
  ...more,
});

/** A point in lines from the middle of the frame. */
export const inLines = ([x, y]: readonly [number, number], at: Pick<Moment, 'width' | 'height'>): readonly [number, number] => [
  ((x - 0.5) * 1080 * at.width) / at.height,
  (y - 0.5) * 1080,
];
/** A place in lines from the middle of the frame. */
export const fromMiddle = (v: Values, id: string, at: Moment): readonly [number, number] => inLines(v[id] as Point, at);

export const num = (v: Values, id: string): number => v[id] as number;
/** Pixels in a length given in lines. */
export const pixels = (lines: number, at: Moment): number => (lines * at.height) / 1080;

/** A step's values with its defaults filled in. */
export const withDefaults = (step: Pick<Step, 'parameters'>, v: Partial<Values>): Values =>
  Object.fromEntries(step.parameters.map((p) => [p.id, v[p.id] ?? p.default]));
/** The values at which a step returns its input. */
export const neutralValues = (step: Step): Values =>
  Object.fromEntries(step.parameters.map((p) => [p.id, p.kind === 'number' ? (p.neutral ?? p.default) : p.default]));
