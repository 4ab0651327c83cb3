import {
  isNumbers,
  isPlace,
  mixNumbers,
  numbersSchema,
  type ParameterBase,
  type ParameterKind,
} from './kind';

/** Centre (as a point), half width and half height in lines, and rotation in degrees, clockwise. */
export type Ellipse = readonly [number, number, number, number, number];
/** An ellipse or box. */
export interface EllipseParameter extends ParameterBase {
  readonly kind: 'ellipse';
  /** The shape drawn with these numbers. */
  readonly outline: 'ellipse' | 'box';
  readonly default: Ellipse;
}

const isEllipse = (v: unknown): boolean =>
  isNumbers(v, 5) &&
  isPlace(v.slice(0, 2), 2) &&
  v.slice(2).every((x) => Math.abs(x) <= 1e5) &&
  v[2]! >= 0 &&
  v[3]! >= 0;

/** Ellipse parameters. */
export const ellipseKind: ParameterKind<EllipseParameter, Ellipse> = {
  unsuited: (v) =>
    isEllipse(v)
      ? undefined
      : 'must be five numbers: a centre in shares of the frame, half its width and height in lines, its turn in degrees',
  schema: () =>
    numbersSchema(
      5,
      'a centre in shares of the frame, half its width and height in lines, its turn in degrees',
    ),
  parse: (text) => text.split(',').map((v, i) => (i < 2 ? Number(v) / 100 : Number(v))),
  // Rotation keeps its winding: 350° and 370° are 20° apart, 350° and 10° are 340° apart.
  mix: mixNumbers,
  any: (_, random) => [random(), random(), random() * 400, random() * 400, random() * 360],
};
