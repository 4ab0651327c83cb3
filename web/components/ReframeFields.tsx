import { CENTRED, type Reframe } from '../../core';
import { NumberField } from './NumberField';

const FIGURES = [
  ['closer', 'Closer', '%', 10, 1000, [50, 200]],
  ['x', 'Across', '%', -100, 200, [0, 100]],
  ['y', 'Down', '%', -100, 200, [0, 100]],
] as const;

interface Props {
  /** Name of the clip. */
  readonly name: string;
  readonly value: Reframe;
  readonly onChange: (reframe: Reframe) => void;
  readonly onEnd: () => void;
}

/** Number fields for a reframe: magnification, and the place in the middle of the frame. */
export function ReframeFields({ name, value, onChange, onEnd }: Props) {
  return (
    <div className="grid grid-cols-3 gap-x-3">
      {FIGURES.map(([key, label, unit, min, max, soft]) => {
        const share = key === 'closer' ? 1 : 100;
        return (
          <label key={key} className="flex items-center">
            <span className="quiet">{label.toLowerCase()}</span>
            <NumberField
              label={`${name} ${label.toLowerCase()}`}
              className="w-full"
              value={value[key] * share}
              min={min}
              max={max}
              soft={soft}
              unit={unit}
              reset={CENTRED[key] * share}
              onChange={(v) => onChange({ ...value, [key]: v / share })}
              onEnd={onEnd}
            />
          </label>
        );
      })}
    </div>
  );
}
