import { Crosshair } from 'lucide-react';
import type { Point } from '../../../../core';
import { useBench } from '../context';
import { NumberField } from '../../../components/NumberField';

interface Props {
  readonly label: string;
  readonly value: Point;
  readonly onChange: (v: Point, gesture?: string) => void;
  readonly onEnd: () => void;
}
const WAYS = ['across', 'down'] as const;

/** A place in the frame: two numbers in per cent, or a click on the hero. */
export function PointControl({ label, value, onChange, onEnd }: Props) {
  const place = useBench((s) => s.place),
    waiting = useBench((s) => s.placing?.label === label);
  return (
    <span className="flex items-center gap-1 min-w-0">
      {WAYS.map((way, i) => (
        <NumberField
          key={way}
          className="w-full !text-center"
          label={`${label} ${way}`}
          value={value[i]! * 100}
          min={-400}
          max={500}
          soft={[0, 100]}
          unit="%"
          reset={50}
          onChange={(v, g) => onChange(i === 0 ? [v / 100, value[1]] : [value[0], v / 100], g)}
          onEnd={onEnd}
        />
      ))}
      <button
        className={`flex-none rounded-sm p-0.5 hover:bg-base-300 ${waiting ? 'text-primary' : 'quiet'}`}
        aria-label={`Place ${label} on the picture`}
        aria-pressed={waiting}
        title={`Place ${label.toLowerCase()} on the picture`}
        onClick={() =>
          place(
            waiting
              ? null
              : {
                  label,
                  many: false,
                  take: ([x, y]) => {
                    onChange([Math.round(x * 1e4) / 1e4, Math.round(y * 1e4) / 1e4]);
                    return 'enough';
                  },
                },
          )
        }
      >
        <Crosshair size={12} aria-hidden="true" />
      </button>
    </span>
  );
}
