import { type Colour, isColour, mixColours } from './colour';
import {
  isNumbers,
  isPlace,
  mixNumber,
  numbersSchema,
  type ParameterBase,
  type ParameterKind,
} from './kind';

/** A place (as a point) and the colour there. */
export type ColourPlace = readonly [number, number, number, number, number];
/** Several colours at places. */
export interface ColoursParameter extends ParameterBase {
  readonly kind: 'colours';
  readonly default: readonly ColourPlace[];
}

/** Most places of a gradient. */
export const MOST_COLOURS = 12;

/** Parameters of several colours at places. */
export const coloursKind: ParameterKind<ColoursParameter, readonly ColourPlace[]> = {
  unsuited: (v) =>
    Array.isArray(v) &&
    v.length >= 1 &&
    v.length <= MOST_COLOURS &&
    v.every((c) => isNumbers(c, 5) && isPlace(c.slice(0, 2), 2) && isColour(c.slice(2)))
      ? undefined
      : `must be 1 to ${MOST_COLOURS} places with their colour: across, down, red, green, blue`,
  schema: () => ({
    type: 'array',
    minItems: 1,
    maxItems: MOST_COLOURS,
    items: numbersSchema(5, 'across, down, red, green, blue'),
  }),
  parse: (text) =>
    text.split(';').map((c) => c.split(',').map((v, i) => (i < 2 ? Number(v) / 100 : Number(v)))),
  mix: (a, b, share, how) =>
    a.length !== b.length
      ? share >= 1
        ? b
        : a
      : a.map(([x, y, ...c], i): ColourPlace => {
          const [u, v, ...d] = b[i]!;
          return [
            mixNumber(x, u, share),
            mixNumber(y, v, share),
            ...mixColours(c as Colour, d as Colour, share, how),
          ];
        }),
  any: (_, random) =>
    Array.from({ length: 3 }, () => [random(), random(), random(), random(), random()] as const),
};
