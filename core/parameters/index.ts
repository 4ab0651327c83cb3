/**
 * Parameters of steps, mattes, placements and movers. One file per kind holds everything about it:
 * validation, schema, parsing, interpolation, random values for tests. Its control is in web.
 */
import { choiceKind, type ChoiceParameter } from './choice';
import { colourKind } from './colour';
import { coloursKind } from './colours';
import { cubeKind } from './cube';
import { curveKind } from './curve';
import { ellipseKind } from './ellipse';
import type { Mixing, ParameterBase, ParameterKind, Reading, Schema } from './kind';
import { lineKind } from './line';
import { numberKind } from './number';
import { pathKind } from './path';
import { pointKind } from './point';
import { switchKind } from './switch';
import { textKind } from './text';

/** All kinds of parameters. A new one is a file and a line here. */
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
};
type Kinds = typeof KINDS;
/** A parameter of any kind, distinguished by `kind`. */
export type Parameter = {
  [K in keyof Kinds]: Kinds[K] extends ParameterKind<infer P extends ParameterBase, infer _>
    ? P
    : never;
}[keyof Kinds];
/** A value of a parameter of any kind. */
export type ParameterValue = {
  [K in keyof Kinds]: Kinds[K] extends ParameterKind<infer _ extends ParameterBase, infer V>
    ? V
    : never;
}[keyof Kinds];
/** Values by parameter id. */
export type Values = Readonly<Record<string, ParameterValue>>;
/** The values of a parameter; of a choice one of its options. */
export type ValueOf<P extends Pick<Parameter, 'kind'>> =
  P extends ChoiceParameter<infer O>
    ? O
    : Kinds[P['kind']] extends ParameterKind<infer _ extends ParameterBase, infer V>
      ? V
      : never;
/** The values of declared parameters, each with its type. */
export type ValuesOf<P extends readonly Parameter[]> = {
  readonly [Q in P[number] as Q['id']]: ValueOf<Q>;
};
const kindOf = (p: Parameter): ParameterKind<ParameterBase, ParameterValue> =>
  KINDS[p.kind] as unknown as ParameterKind<ParameterBase, ParameterValue>;

/** What a value must be to suit the parameter; undefined if it suits. */
export const unsuited = (p: Parameter, v: unknown): string | undefined => kindOf(p).unsuited(v, p);
/** A parameter's values as JSON Schema. */
export const valueSchema = (p: Parameter): Schema => kindOf(p).schema(p);
/** A value from a command line, to be checked with `unsuited`. Throws what `reading` throws. */
export const parseValue = (p: Parameter, text: string, reading: Reading): unknown =>
  kindOf(p).parse(text, reading);
/** Interpolates between two values: the first at share 0, the second at 1. */
export const mixValues = (
  p: Pick<Parameter, 'kind'>,
  a: ParameterValue,
  b: ParameterValue,
  share: number,
  how?: Mixing,
): ParameterValue => kindOf(p as Parameter).mix(a, b, share, how);
/** A random value of a parameter for tests; `random` returns 0…1. */
export const anyValue = (p: Parameter, random: () => number): ParameterValue =>
  kindOf(p).any(p, random);

/** Values with the defaults of the parameters filled in. */
export const withDefaults = <P extends readonly Parameter[]>(
  of: { readonly parameters: P },
  v: Partial<Values>,
): ValuesOf<P> =>
  Object.fromEntries(of.parameters.map((p) => [p.id, v[p.id] ?? p.default])) as ValuesOf<P>;
/** The number at `id`. */
export const num = (v: Values, id: string): number => v[id] as number;

export { MIXINGS, type Mixing, type Schema } from './kind';
export { choice, type ChoiceParameter, optionsFrom } from './choice';
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
