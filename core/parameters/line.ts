import {
  isPlace,
  mixNumbers,
  numbersSchema,
  type Named,
  type ParameterBase,
  type ParameterKind,
  sharesOf,
} from './kind';

/** From one place to another, each as a point. */
export type Line = readonly [number, number, number, number];
/** A line. */
export interface LineParameter extends ParameterBase {
  readonly kind: 'line';
  readonly default: Line;
}

/** Line parameters. */
export const lineKind: ParameterKind<LineParameter, Line> = {
  unsuited: (v) =>
    isPlace(v, 4) ? undefined : 'must be four shares of the frame: across and down of its two ends',
  schema: () => numbersSchema(4, 'shares of the frame: across and down of its two ends'),
  parse: sharesOf,
  mix: mixNumbers,
  any: (_, random) => [random(), random(), random(), random()],
};

/** A line parameter. */
export const line = <const Id extends string>(
  id: Id,
  label: string,
  def: Line,
  more: Partial<Omit<LineParameter, 'id' | 'kind'>> = {},
): LineParameter & Named<Id> => ({
  kind: 'line',
  id,
  label,
  default: def,
  ...more,
});
