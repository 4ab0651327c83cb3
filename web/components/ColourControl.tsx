import { type Colour, hexOf } from '../../core';
import { PickButton } from './PickButton';

const colour = (s: string): Colour =>
  [1, 3, 5].map(
    (i) => Math.round((parseInt(s.slice(i, i + 2), 16) / 255) * 1000) / 1000,
  ) as unknown as Colour;

/** A control for an encoded colour: chosen, or typed as three numbers. */
export function ColourControl({
  label,
  value,
  onChange,
  onEnd,
}: {
  label: string;
  value: Colour;
  onChange: (c: Colour, gesture: string) => void;
  onEnd: () => void;
}) {
  return (
    <span className="flex items-center gap-2">
      <input
        type="color"
        className="shade"
        aria-label={label}
        value={hexOf(value)}
        onChange={(e) => onChange(colour(e.target.value), `colour ${label}`)}
        onBlur={onEnd}
      />
      <PickButton
        label={label}
        onPicked={({ encoded }) => {
          onChange(
            encoded.map(
              (v) => Math.round(Math.max(0, Math.min(1, v)) * 1000) / 1000,
            ) as unknown as Colour,
            `pick ${label}`,
          );
          onEnd();
        }}
      />
      <span className="num quiet">{value.map((v) => v.toFixed(2)).join(' ')}</span>
    </span>
  );
}
