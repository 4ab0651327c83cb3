import {
  type Mixing,
  mixNumbers,
  type Named,
  type ParameterBase,
  type ParameterKind,
} from './kind';
import { oklabToRgb, rgbToOklab } from './oklab';

/** Encoded red, green and blue; 0…1 for colours that a screen can show. */
export type Colour = readonly [number, number, number];
/** A colour. */
export interface ColourParameter extends ParameterBase {
  readonly kind: 'colour';
  readonly default: Colour;
}

/** Whether a value is three finite numbers. */
export const isColour = (v: unknown): v is Colour =>
  Array.isArray(v) &&
  v.length === 3 &&
  v.every((x) => typeof x === 'number' && Number.isFinite(x) && x >= -1 && x <= 16);

/** A mix of two encoded colours: in linear light, or perceptually (Oklab; Ottosson, 2020). */
export function mixColours(a: Colour, b: Colour, share: number, how: Mixing = 'even'): Colour {
  if (share === 0) return a;
  if (share === 1) return b;
  return oklabToRgb(
    mixNumbers(rgbToOklab(a, how === 'even'), rgbToOklab(b, how === 'even'), share),
    how === 'even',
  );
}

/** As #rrggbb, clamped to 0…1. */
export const hexOf = (c: Colour): string =>
  `#${c
    .map((v) =>
      Math.round(Math.max(0, Math.min(1, v)) * 255)
        .toString(16)
        .padStart(2, '0'),
    )
    .join('')}`;
/** Colour parameters. */
export const colourKind: ParameterKind<ColourParameter, Colour> = {
  unsuited: (v) => (isColour(v) ? undefined : 'must be three numbers: red, green, blue'),
  schema: () => ({ $ref: '#/$defs/colour' }),
  parse: (text) => text.split(',').map(Number),
  mix: mixColours,
  any: (_, random) => [random(), random(), random()],
};

/** A colour parameter. */
export const colour = <const Id extends string>(
  id: Id,
  label: string,
  def: Colour,
): ColourParameter & Named<Id> => ({
  kind: 'colour',
  id,
  label,
  default: def,
});
