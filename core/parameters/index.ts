/**
 * Parameters: what a step, a matte, a placement or a mover can be told. One file a kind holds all
 * that is known of it: validation, schema, reading from words, values between two, any value for
 * tests. Its control in web stands beside the others there.
 */
import { choiceKind, type ChoiceParameter } from './choice';
import { type Colour, colourKind, type ColourParameter } from './colour';
import { type ColourPlace, coloursKind, type ColoursParameter } from './colours';
import { cubeKind, type CubeParameter, type LutValue } from './cube';
import { curveKind, type CurveParameter } from './curve';
import type { CurvePoints } from './curve-points';
import { type Ellipse, ellipseKind, type EllipseParameter } from './ellipse';
import type { Mixing, ParameterBase, ParameterKind, Reading, Schema } from './kind';
import { type Line, lineKind, type LineParameter } from './line';
import { numberKind, type NumberParameter } from './number';
import { type Path, pathKind, type PathParameter } from './path';
import { type Point, pointKind, type PointParameter } from './point';
import { switchKind, type SwitchParameter } from './switch';
import { textKind, type TextParameter } from './text';

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
export type ParameterValue =
  | number
  | boolean
  | string
  | Colour
  | Point
  | Line
  | Ellipse
  | Path
  | readonly ColourPlace[]
  | CurvePoints
  | LutValue
  | null;
export type Values = Readonly<Record<string, ParameterValue>>;

/** Every kind of parameter there is; adding one is its file and its line here. */
const KINDS = {
  number: numberKind,
  switch: switchKind,
  colour: colourKind,
  choice: choiceKind,
  curve: curveKind,
  point: pointKind,
  line: lineKind,
  ellipse: ellipseKind,
  path: pathKind,
  colours: coloursKind,
  text: textKind,
  cube: cubeKind,
} satisfies Record<Parameter['kind'], unknown>;
const kindOf = (p: Parameter): ParameterKind<ParameterBase, ParameterValue> =>
  KINDS[p.kind] as unknown as ParameterKind<ParameterBase, ParameterValue>;

/** Undefined when a constant suits a parameter; else what it must be. */
export const unsuited = (p: Parameter, v: unknown): string | undefined => kindOf(p).unsuited(v, p);
/** A parameter's values as JSON Schema. */
export const valueSchema = (p: Parameter): Schema => kindOf(p).schema(p);
/**
 * A value from words on a command line, still to be checked by `unsuited`. Throws what `reading`
 * throws.
 */
export const parseValue = (p: Parameter, text: string, reading: Reading): unknown =>
  kindOf(p).parse(text, reading);
/** Between two values of a parameter: the first at share 0, the second at 1. */
export const mixValues = (
  p: Pick<Parameter, 'kind'>,
  a: ParameterValue,
  b: ParameterValue,
  share: number,
  how?: Mixing,
): ParameterValue => kindOf(p as Parameter).mix(a, b, share, how);
/** Any value of a parameter, for tests, from numbers of 0…1. */
export const anyValue = (p: Parameter, random: () => number): ParameterValue =>
  kindOf(p).any(p, random);

/** Values with the defaults of parameters filled in. */
export const withDefaults = (
  of: { readonly parameters: readonly Parameter[] },
  v: Partial<Values>,
): Values => Object.fromEntries(of.parameters.map((p) => [p.id, v[p.id] ?? p.default]));
export const num = (v: Values, id: string): number => v[id] as number;

export { MIXINGS, type Mixing, type Schema } from './kind';
export { choice, type ChoiceParameter } from './choice';
export { colour, type Colour, type ColourParameter, hexOf, isColour, mixColours } from './colour';
export { type ColourPlace, type ColoursParameter, MOST_COLOURS } from './colours';
export { type CubeParameter, type LutValue } from './cube';
export { type CurveParameter } from './curve';
export { curvesTable, curveThrough, type CurvePoints } from './curve-points';
export { type Ellipse, type EllipseParameter } from './ellipse';
export { line, type Line, type LineParameter } from './line';
export { number, type NumberParameter } from './number';
export { MOST_NODES, type Path, type PathNode, type PathParameter, splitPath } from './path';
export { CENTRE, point, type Point, type PointParameter } from './point';
export { flag, type SwitchParameter } from './switch';
export { type TextParameter } from './text';
export * from './cube-value';
export * from './process-value';
export { oklabToRgb } from './oklab';
