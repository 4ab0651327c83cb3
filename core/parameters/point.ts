import {
  isPlace,
  mixNumbers,
  type Named,
  type ParameterBase,
  type ParameterKind,
  sharesOf,
} from './kind';

/** A place in the look frame: shares of its width and height from the upper left corner. */
export type Point = readonly [number, number];
/** A point. */
export interface PointParameter extends ParameterBase {
  readonly kind: 'point';
  readonly default: Point;
}

/** Point parameters. */
export const pointKind: ParameterKind<PointParameter, Point> = {
  unsuited: (v) => (isPlace(v, 2) ? undefined : 'must be two shares of the frame: across and down'),
  schema: () => ({
    type: 'array',
    items: { type: 'number', minimum: -4, maximum: 5 },
    minItems: 2,
    maxItems: 2,
    description: 'shares of the frame: across, down',
  }),
  parse: sharesOf,
  mix: mixNumbers,
  any: (_, random) => [random() * 1.4 - 0.2, random() * 1.4 - 0.2],
};

/** The middle of the frame. */
export const CENTRE: Point = [0.5, 0.5];
/** A point parameter. */
export const point = <const Id extends string>(
  id: Id,
  label: string,
  def: Point = CENTRE,
): PointParameter & Named<Id> => ({
  kind: 'point',
  id,
  label,
  default: def,
});
