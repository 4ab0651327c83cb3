import { mixNumber, type ParameterBase, type ParameterKind } from './kind';

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
  /** What may be typed; the slider's own range is `soft`. */
  readonly min: number;
  readonly max: number;
  readonly soft?: readonly [number, number];
  readonly default: number;
  /** The value at which the parameter does nothing, where that is not the default. */
  readonly neutral?: number;
  /**
   * What of a colour of the picture this number can be taken from: its hue, its luma, or the luma
   * of its light.
   */
  readonly picked?: 'hue' | 'luma' | 'light';
}

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

export const number = (
  id: string,
  label: string,
  unit: NumberParameter['unit'],
  min: number,
  max: number,
  def: number,
  more: Partial<NumberParameter> = {},
): NumberParameter => ({ kind: 'number', id, label, unit, min, max, default: def, ...more });
