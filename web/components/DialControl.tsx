import type { Colour, Dial, DialValue } from '../../core';
import { ColourControl } from './ColourControl';
import { NumberControl } from './NumberControl';

interface Props {
  readonly dial: Dial;
  readonly value: DialValue;
  /** The value set by a double click. */
  readonly reset?: number | undefined;
  readonly onTurn: (v: DialValue, gesture?: string) => void;
  readonly onEnd: () => void;
}

/** A control for a dial, by its kind: slider, colour or switch. */
export function DialControl({ dial, value, reset, onTurn, onEnd }: Props) {
  if (dial.kind === 'number')
    return (
      <NumberControl
        label={dial.label}
        value={value as number}
        min={dial.min!}
        max={dial.max!}
        unit={dial.unit}
        onChange={onTurn}
        onEnd={onEnd}
        {...(reset !== undefined && { reset })}
      />
    );
  if (dial.kind === 'colour')
    return (
      <ColourControl label={dial.label} value={value as Colour} onChange={onTurn} onEnd={onEnd} />
    );
  return (
    <input
      type="checkbox"
      className="tick"
      aria-label={dial.label}
      checked={value as boolean}
      onChange={(e) => onTurn(e.target.checked)}
    />
  );
}
