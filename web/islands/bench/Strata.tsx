import { ChevronDown, ChevronRight } from 'lucide-react';
import type { ReactNode } from 'react';
import { BLEND_IDS, BLEND_MODES, edit, type Layer, resolve, type SourceId, stepOf, STEPS } from '../../../core';
import { Picture } from '../../engine/Picture';
import { LayerContext, useBench, useEngine } from './context';
import { ParameterControl } from './controls/ParameterControl';
import { Suits } from './Goals';
import { Sortable, useRow } from './Sortable';
import { StepRow } from './StepRow';

const SHARE = { kind: 'number', id: 'share', label: 'Opacity', unit: '%', min: 0, max: 100, default: 100 } as const;
const SOURCE_WORDS: Record<SourceId, string> = { clip: 'the clip', below: 'what is below', fill: 'nothing (a fill)' };

/** The stack as a column, the bedrock at its foot. */
export function Strata({ heroName, children }: { heroName: string; children?: ReactNode }) {
  const look = useBench((s) => s.look),
    change = useBench((s) => s.change),
    fold = useBench((s) => s.fold),
    choose = useBench((s) => s.choose),
    trimming = useBench((s) => s.trimming !== null),
    trimFor = useBench((s) => s.trimFor);
  const engine = useEngine();
  const down = [...look.layers].reverse();
  const add = (source: SourceId) => {
    const steps = source === 'fill' ? [edit.newStep(stepOf('solid')!, [])] : [];
    const next = edit.addLayer(
      look,
      edit.newLayer(
        source === 'fill' ? 'fill' : 'layer',
        source,
        look.layers.map((l) => l.key),
        steps,
      ),
    );
    change('add layer', next);
    const key = next.layers.at(-1)!.key;
    fold(key, true);
    choose({ layer: key });
  };
  return (
    <section aria-label="Strata" className="w-[322px] flex-none border-r line bg-base-200 flex flex-col min-h-0">
      <div className="flex items-center gap-1 px-3 h-9 border-b line flex-none">
        <h2 className="font-semibold mr-auto">Strata</h2>
        <span className="relative word framed">
          + layer
          <select
            className="absolute inset-0 opacity-0 cursor-pointer"
            aria-label="Add a layer from"
            disabled={trimming}
            value=""
            onChange={(e) => add(e.target.value as SourceId)}
          >
            <option value="" disabled>
              from …
            </option>
            {Object.entries(SOURCE_WORDS).map(([id, w]) => (
              <option key={id} value={id}>
                {w}
              </option>
            ))}
          </select>
        </span>
      </div>
      {trimming && (
        <p role="status" className="px-3 py-1.5 border-b line quiet">
          The dials set {heroName} alone. The stack belongs to the look:{' '}
          <button className="underline" onClick={() => trimFor(null)}>
            go back to it
          </button>{' '}
          to change it.
        </p>
      )}
      <ol className={`flex-1 scrolls min-h-0 ${trimming ? 'opacity-60' : ''}`} inert={trimming}>
        <Sortable keys={down.map((l) => l.key)} onMove={(key, to) => change('move layer', edit.moveLayer(look, key, look.layers.length - 1 - to))}>
          {down.map((l) => (
            <LayerRow key={l.key} layer={l} />
          ))}
        </Sortable>
        <li className="flex items-center gap-2 px-3 py-2 border-b line">
          <Picture engine={engine} view="stratum:" label="The bedrock" className="w-[54px] h-[31px] object-contain bg-base-300 ml-[18px] flex-none" />
          <span className="flex-1 truncate">
            <span className="font-medium">bedrock</span> <span className="quiet">{heroName}</span>
          </span>
          <input
            type="checkbox"
            className="tick"
            aria-label="Bedrock on"
            checked={look.bedrock}
            onChange={(e) => change('bedrock on or off', { ...look, bedrock: e.target.checked })}
          />
        </li>
        {look.layers.length === 0 && <li className="px-4 py-6 quiet">Nothing lies on the clip yet. Add a layer, then steps to it.</li>}
      </ol>
      {!trimming && (
        <div className="scrolls max-h-[40%] flex-none">
          {children}
          <Suits />
        </div>
      )}
    </section>
  );
}

function LayerRow({ layer }: { layer: Layer }) {
  const look = useBench((s) => s.look),
    change = useBench((s) => s.change),
    fold = useBench((s) => s.fold),
    choose = useBench((s) => s.choose);
  const open = useBench((s) => s.unfolded.has(layer.key)),
    chosen = useBench((s) => s.chosen?.layer === layer.key && !s.chosen.step);
  const engine = useEngine();
  const row = useRow(layer.key, `layer ${layer.name}`);
  const opacity = resolve(look, layer.opacity, {}) as number;
  const set = (name: string, c: Parameters<typeof edit.changeLayer>[2]) => change(name, edit.changeLayer(look, layer.key, c));
  return (
    <li ref={row.ref} style={row.style} className={`border-b line bg-base-200 ${layer.on ? '' : 'opacity-60'}`} data-layer={layer.key}>
      <div
        className={`flex items-center gap-1.5 pl-1 pr-3 py-1.5 border-l-2 ${chosen ? 'border-primary bg-base-100' : 'border-transparent'}`}
        onClick={() => choose({ layer: layer.key })}
      >
        {row.grip}
        <Picture
          engine={engine}
          view={`stratum:${layer.key}`}
          label={`Up to ${layer.name}`}
          className="w-[54px] h-[31px] object-contain bg-base-300 flex-none"
        />
        <button className="flex-1 min-w-0 flex items-center gap-1 text-left" aria-expanded={open} onClick={() => fold(layer.key)}>
          {open ? <ChevronDown size={13} aria-hidden="true" /> : <ChevronRight size={13} aria-hidden="true" />}
          <span className="truncate font-medium">{layer.name}</span>
        </button>
        <span className="quiet truncate max-w-[72px]">{BLEND_MODES[layer.blend].label.toLowerCase()}</span>
        <span className="num quiet w-9 text-right">{Math.round(opacity)}%</span>
        <input
          type="checkbox"
          className="tick"
          aria-label={`${layer.name} on`}
          checked={layer.on}
          onChange={(e) => set(e.target.checked ? `${layer.name} on` : `${layer.name} off`, { on: e.target.checked })}
        />
      </div>
      {open && (
        <LayerContext value={layer.key}>
          <div className="pl-3 pr-2 pb-2">
            <div className="grid grid-cols-[1fr_1fr] gap-1.5 mb-1">
              <input
                className="field min-w-0"
                aria-label="Layer name"
                defaultValue={layer.name}
                key={layer.name}
                onBlur={(e) => {
                  const v = e.target.value.trim();
                  if (v && v !== layer.name) set('rename layer', { name: v });
                }}
                onKeyDown={(e) => {
                  if (e.key === 'Enter') e.currentTarget.blur();
                }}
              />
              <select
                className="field min-w-0"
                aria-label="Blend"
                value={layer.blend}
                onChange={(e) => set(`${layer.name} blend`, { blend: e.target.value as Layer['blend'] })}
              >
                {BLEND_IDS.map((b) => (
                  <option key={b} value={b}>
                    {BLEND_MODES[b].label}
                  </option>
                ))}
              </select>
              <label className="col-span-2 flex items-center gap-2">
                <span className="quiet w-[66px]">works on</span>
                <select
                  className="field flex-1"
                  aria-label="Source"
                  value={layer.source}
                  onChange={(e) => set(`${layer.name} source`, { source: e.target.value as SourceId })}
                >
                  {Object.entries(SOURCE_WORDS).map(([id, w]) => (
                    <option key={id} value={id}>
                      {w}
                    </option>
                  ))}
                </select>
              </label>
            </div>
            <ParameterControl
              parameter={SHARE}
              setting={layer.opacity}
              name={`${layer.name} opacity`}
              reset={100}
              onSetting={(doc, s) => edit.changeLayer(doc, layer.key, { opacity: s })}
            />
            <ol className="mt-1">
              <Sortable keys={layer.steps.map((s) => s.key)} onMove={(key, to) => change('move step', edit.moveStep(look, layer.key, key, to))}>
                {layer.steps.map((s) => (
                  <StepRow key={s.key} layer={layer} use={s} />
                ))}
              </Sortable>
            </ol>
            <LayerWords layer={layer} />
          </div>
        </LayerContext>
      )}
    </li>
  );
}

function LayerWords({ layer }: { layer: Layer }) {
  const look = useBench((s) => s.look),
    change = useBench((s) => s.change),
    fold = useBench((s) => s.fold);
  const families = [...new Set(STEPS.map((s) => s.family))];
  const addStep = (id: string) => {
    const next = edit.addStep(look, layer.key, edit.newStep(stepOf(id)!, []));
    change(`add ${stepOf(id)!.label.toLowerCase()}`, next);
    fold(`${layer.key}/${next.layers.find((l) => l.key === layer.key)!.steps.at(-1)!.key}`, true);
  };
  return (
    <div className="flex items-center gap-1 mt-1">
      <span className="relative word framed mr-auto">
        + step
        <select
          className="absolute inset-0 opacity-0 cursor-pointer"
          aria-label={`Add a step to ${layer.name}`}
          value=""
          onChange={(e) => addStep(e.target.value)}
        >
          <option value="" disabled>
            step …
          </option>
          {families.map((f) => (
            <optgroup key={f} label={f}>
              {STEPS.filter((s) => s.family === f).map((s) => (
                <option key={s.id} value={s.id}>
                  {s.label}
                </option>
              ))}
            </optgroup>
          ))}
        </select>
      </span>
      <button className="word quiet" onClick={() => change('duplicate layer', edit.duplicateLayer(look, layer.key))}>
        duplicate
      </button>
      <button className="word quiet" onClick={() => change('remove layer', edit.removeLayer(look, layer.key))}>
        remove
      </button>
    </div>
  );
}
