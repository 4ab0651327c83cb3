import { X } from 'lucide-react';
import { type Colour, edit, resolve } from '../../../core';
import { useBench } from './context';
import { ColourControl } from './controls/ColourControl';
import { NumberControl } from './controls/NumberControl';

/** The face of the look: its dials, strength first. */
export function Dials() {
  const look = useBench((s) => s.look),
    change = useBench((s) => s.change),
    end = useBench((s) => s.endGesture);
  const put = (key: string, label: string) => (v: number | boolean | Colour, gesture?: string) =>
    change(label, edit.setDial(look, key, v), gesture && `dial ${gesture}`);
  return (
    <section aria-label="Dials" className="flex-none min-h-11 px-4 py-1.5 border-b line flex flex-wrap gap-x-5 gap-y-0.5 items-center bg-base-100">
      {look.dials.map((d) => (
        <div key={d.key} className="group flex items-center gap-2" data-dial={d.key}>
          <span className="font-medium whitespace-nowrap">{d.label}</span>
          {d.kind === 'number' && (
            <span className="w-[150px]">
              <NumberControl
                label={d.label}
                value={d.value as number}
                min={d.min!}
                max={d.max!}
                unit={d.unit}
                onChange={put(d.key, d.label)}
                onEnd={end}
                {...(d.key === 'strength' && { reset: 100 })}
              />
            </span>
          )}
          {d.kind === 'colour' && <ColourControl label={d.label} value={d.value as Colour} onChange={put(d.key, d.label)} onEnd={end} />}
          {d.kind === 'switch' && (
            <input
              type="checkbox"
              className="tick"
              aria-label={d.label}
              checked={d.value as boolean}
              onChange={(e) => put(d.key, d.label)(e.target.checked)}
            />
          )}
          {d.key !== 'strength' && (
            <button
              className="opacity-0 group-hover:opacity-60 focus:opacity-100"
              aria-label={`Take the dial ${d.label} off`}
              title="Take this dial off; what it drives keeps its value"
              onClick={() =>
                change(
                  `remove dial ${d.label}`,
                  edit.removeDial(look, d.key, (s) => resolve(look, s, {})),
                )
              }
            >
              <X size={11} aria-hidden="true" />
            </button>
          )}
        </div>
      ))}
    </section>
  );
}
