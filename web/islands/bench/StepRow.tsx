import { ChevronDown, ChevronRight } from 'lucide-react';
import { memo, useState } from 'react';
import { allLayers, edit, type Step, pieceOfStep, stepOf, type StepUse } from '../../../core';
import { type LayerFace, sameFace, useBench, useStill } from './context';
import { Choice } from '../../components/Choice';
import { CdlFiles } from './controls/CdlFiles';
import { NumberGrid } from './controls/NumberGrid';
import { ParameterControl } from './controls/ParameterControl';
import { PickButton } from '../../components/PickButton';
import { StepPlot } from './controls/StepPlot';
import { Mattes } from './Mattes';
import { SpanOf } from './When';
import { Keep } from './Keep';
import { useIdleWords } from './useIdleWords';
import { useRow } from './Sortable';

const MIX = {
  kind: 'number',
  id: 'mix',
  label: 'Mix',
  help: 'How much of the step is mixed with its own input.',
  unit: '%',
  min: 0,
  max: 100,
  default: 100,
} as const;

const inGrid = (step: Step, id: string): boolean =>
  step.grid?.rows.some((r) => r.ids.includes(id)) ?? false;

interface StepProps {
  readonly layer: LayerFace;
  readonly use: StepUse;
}

/**
 * A step's row; when open, with its controls. It re-renders only when the step or its layer
 * changes.
 */
export const StepRow = memo(StepLine, (a, b) => a.use === b.use && sameFace(a.layer, b.layer));

function StepLine({ layer, use }: StepProps) {
  const name = useBench((s) => s.still.name),
    change = useBench((s) => s.change),
    fold = useBench((s) => s.fold),
    choose = useBench((s) => s.choose);
  const key = `${layer.key}/${use.key}`;
  const open = useBench((s) => s.unfolded.has(key)),
    chosen = useBench((s) => s.chosen?.layer === layer.key && s.chosen.step === use.key),
    idle = useIdleWords(key);
  const step = stepOf(use.step)!;
  const [lines, setLines] = useState(false);
  const row = useRow(use.key, `step ${step.label}`);
  return (
    <li
      ref={row.ref}
      style={row.style}
      className={`border-t line bg-base-200 ${use.on ? '' : 'opacity-60'}`}
      data-step={use.key}
    >
      <div
        className={`flex items-center gap-1 py-1 border-l-2 ${chosen ? 'border-primary bg-base-100' : 'border-transparent'}`}
        onClick={() => choose({ layer: layer.key, step: use.key })}
      >
        {row.grip}
        <button
          className="flex-1 min-w-0 text-left flex items-center gap-1"
          aria-expanded={open}
          title={step.help}
          onClick={() => fold(key)}
        >
          {open ? (
            <ChevronDown size={12} className="flex-none" aria-hidden="true" />
          ) : (
            <ChevronRight size={12} className="flex-none" aria-hidden="true" />
          )}
          <span className="flex-none">{step.label}</span>
          {use.on && layer.on && idle && (
            <span className="quiet italic truncate" data-idle={key} title={idle.words}>
              {idle.words}
            </span>
          )}
        </button>
        {open && (
          <Keep
            title={`Keeps ${step.label} as a piece, for use in other looks`}
            of={(look) => pieceOfStep(look, layer.key, use.key)}
          />
        )}
        {open && (
          <button
            className="word quiet"
            aria-label={`Remove ${step.label}`}
            onClick={() =>
              change(`remove ${step.label.toLowerCase()}`, (now) =>
                edit.removeStep(now, layer.key, use.key),
              )
            }
          >
            remove
          </button>
        )}
        <input
          type="checkbox"
          className="tick"
          aria-label={`${step.label} on`}
          checked={use.on}
          onChange={(e) =>
            change(`${step.label} ${e.target.checked ? 'on' : 'off'}`, (now) =>
              edit.changeStep(now, layer.key, use.key, { on: e.target.checked }),
            )
          }
        />
      </div>
      {open && (
        <div className="pl-4 pb-1.5 flex flex-col gap-0.5">
          {step.grid && (
            <button
              className="word quiet self-end"
              onClick={() => setLines(!lines)}
              title="Sliders can be driven by dials"
            >
              {lines ? 'side by side' : 'as sliders'}
            </button>
          )}
          {step.grid && !lines && <NumberGrid layer={layer} use={use} step={step} />}
          {step.greyFrom && (
            <span className="self-end">
              <PickButton
                label="Grey"
                words="pick a grey"
                onPicked={({ light }) =>
                  change(`${step.label} from a grey`, (now) =>
                    Object.entries(step.greyFrom!(light)).reduce(
                      (doc, [p, v]) => edit.setConstant(doc, layer.key, use.key, p, v),
                      now,
                    ),
                  )
                }
              />
            </span>
          )}
          {step.plot && <StepPlot step={step} use={use} />}
          {step.exchange === 'cdl' && (
            <CdlFiles
              layer={layer}
              use={use}
              name={`${name}-${layer.name}`.toLowerCase().replace(/[^a-z0-9]+/g, '-')}
            />
          )}
          {step.parameters
            .filter((p) => lines || !inGrid(step, p.id))
            .map((p) => (
              <ParameterControl
                key={p.id}
                parameter={p}
                setting={use.parameters[p.id] ?? { value: p.default }}
                name={`${step.label} ${p.label.toLowerCase()}`}
                reset={p.default}
                own={`${layer.key}/${use.key}/${p.id}`}
                path={`${layer.key}/${use.key}/${p.id}`}
                onSetting={(doc, s) => edit.setParameter(doc, layer.key, use.key, p.id, s)}
              />
            ))}
          {'build' in step && step.namesLayer && (
            <NamedLayer layer={layer} use={use} names={step.namesLayer} />
          )}
          <ParameterControl
            parameter={MIX}
            setting={use.mix}
            name={`${step.label} mix`}
            reset={100}
            path={`${layer.key}/${use.key}/mix`}
            onSetting={(doc, s) => edit.changeStep(doc, layer.key, use.key, { mix: s })}
          />
          <SpanOf of={{ layer: layer.key, step: use.key }} span={use.span} name={step.label} />
          <Mattes
            owner={{ layer: layer.key, step: use.key }}
            mattes={use.mattes ?? []}
            of={step.label}
          />
        </div>
      )}
    </li>
  );
}

/** Chooses the layer that a step reads, if its parameters say that it reads one. */
function NamedLayer({
  layer,
  use,
  names,
}: StepProps & { readonly names: { readonly id: string; readonly at: string } }) {
  const change = useBench((s) => s.change);
  const choices = useStill((still) =>
    allLayers(still).flatMap((l) => (l.key === layer.key ? [] : [{ key: l.key, label: l.name }])),
  );
  const set = use.parameters[names.id];
  if (!set || !('value' in set) || set.value !== names.at) return null;
  return (
    <label className="grid grid-cols-[74px_1fr_18px] items-center gap-x-1.5 min-h-6">
      <span className="quiet">Layer</span>
      <Choice
        className="field"
        aria-label={`${stepOf(use.step)!.label} looks at`}
        value={use.from ?? ''}
        onChange={(from) =>
          change('layer looked at', (now) => edit.changeStep(now, layer.key, use.key, { from }))
        }
      >
        <option value="" disabled>
          {choices.length > 0 ? 'choose a layer below' : 'there is no other layer'}
        </option>
        {choices.map((c) => (
          <option key={c.key} value={c.key}>
            {c.label}
          </option>
        ))}
      </Choice>
    </label>
  );
}
