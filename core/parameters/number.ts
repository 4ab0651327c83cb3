import { mixNumber, type Named, type ParameterBase, type ParameterKind } from './kind';

/** A number with a unit. */
export interface NumberParameter extends ParameterBase {
  readonly kind: 'number';
  readonly unit:
    | 'stops'
    | 'lines'
    | '%'
    | ''
    | '°'
    | 'encoded'
    | 'points'
    | 'years'
    | 'frames'
    | 'seconds'
    | 'µm'
    | 'µs'
    | 'ns'
    | 'MHz'
    | 'Hz'
    | 'dB'
    | 'rows';
  /** Range that can be typed; the slider's range is `soft`. */
  readonly min: number;
  readonly max: number;
  readonly soft?: readonly [number, number];
  readonly default: number;
  /** The value without effect, if that is not the default. */
  readonly neutral?: number;
  /** What the number can be picked from: a colour's hue, its luma, or the luma of its light. */
  readonly picked?: 'hue' | 'luma' | 'light';
}

/** Number parameters. */
export const numberKind: ParameterKind<NumberParameter, number> = {
  unsuited: (v, p) =>
    typeof v === 'number' && v >= p.min && v <= p.max
      ? undefined
      : `must be a number from ${p.min} to ${p.max}`,
  schema: (p) => ({ type: 'number', minimum: p.min, maximum: p.max }),
  parse: (text) => (text.trim() === '' ? NaN : Number(text)),
  mix: mixNumber,
  any: (p, random) => p.min + random() * (p.max - p.min),
};

/** A number parameter. */
export const number = <const Id extends string>(
  id: Id,
  label: string,
  unit: NumberParameter['unit'],
  min: number,
  max: number,
  def: number,
  more: Partial<Omit<NumberParameter, 'id' | 'kind'>> = {},
): NumberParameter & Named<Id> => ({
  kind: 'number',
  id,
  label,
  unit,
  min,
  max,
  default: def,
  ...more,
});
