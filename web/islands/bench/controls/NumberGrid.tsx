import { useShallow } from 'zustand/react/shallow';
import { edit, resolve, type NumberParameter, type Step, type StepUse } from '../../../../core';
import { type LayerFace, useBench } from '../context';
import { NumberField } from '../../../components/NumberField';
import { type Push, Wheel } from './Wheel';

/** A step's numbers in a grid, below its wheels if any. Bound ones are shown as sliders. */
export function NumberGrid({ layer, use, step }: { layer: LayerFace; use: StepUse; step: Step }) {
  const dials = useBench((s) => s.still.dials),
    change = useBench((s) => s.change),
    end = useBench((s) => s.endGesture);
  const grid = step.grid!;
  const parameter = (id: string) => step.parameters.find((p) => p.id === id) as NumberParameter;
  const setting = (id: string) => use.parameters[id] ?? { value: parameter(id).default };
  const numbers = step.parameters.filter((p) => p.kind === 'number');
  const values = useBench(
    useShallow((s) =>
      Object.fromEntries(numbers.map((p) => [p.id, resolve(s.look, setting(p.id), {})])),
    ),
  );
  const value = (id: string) => values[id] as number;
  const put = (name: string, values: Record<string, number>, gesture: string) =>
    change(
      `${step.label} ${name}`,
      (now) =>
        Object.entries(values).reduce(
          (doc, [id, v]) => edit.setConstant(doc, layer.key, use.key, id, v),
          now,
        ),
      `${layer.key} ${use.key} ${gesture}`,
    );
  const columns = { gridTemplateColumns: `64px repeat(${grid.columns.length}, minmax(0, 1fr))` };
  return (
    <div
      className="grid gap-x-1 gap-y-0.5 items-center"
      style={columns}
      role="group"
      aria-label={`${step.label} numbers`}
    >
      {step.wheels && <span />}
      {step.wheels?.map((w) => {
        const driven = w.channels.some((id) => 'dial' in setting(id));
        return (
          <span key={w.label} className="grid justify-items-center py-1">
            {driven ? (
              <span className="quiet">by a dial</span>
            ) : (
              <Wheel
                label={w.label}
                value={w.channels.map(value) as unknown as Push}
                reach={parameter(w.channels[0]).soft?.[1] ?? 100}
                onChange={(v, g) =>
                  put(
                    w.label.toLowerCase(),
                    Object.fromEntries(w.channels.map((id, i) => [id, v[i]!])),
                    g,
                  )
                }
                onEnd={end}
              />
            )}
          </span>
        );
      })}
      <span />
      {grid.columns.map((c) => (
        <span key={c} className="quiet text-center truncate">
          {c}
        </span>
      ))}
      {grid.rows.map((row) => [
        <span key={row.label} className="quiet truncate">
          {row.label}
        </span>,
        ...row.ids.map((id) => {
          const p = parameter(id),
            s = setting(id);
          if ('dial' in s)
            return (
              <span
                key={id}
                className="quiet text-right pr-1 truncate"
                title={`driven by the dial ${dials.find((d) => d.key === s.dial)?.label ?? s.dial}`}
              >
                by a dial
              </span>
            );
          return (
            <NumberField
              key={id}
              className="w-full !text-center"
              label={p.label}
              value={value(id)}
              min={p.min}
              max={p.max}
              soft={p.soft}
              unit={p.unit}
              reset={p.default}
              onChange={(v, g) => put(p.label.toLowerCase(), { [id]: v }, g)}
              onEnd={end}
            />
          );
        }),
      ])}
    </div>
  );
}
