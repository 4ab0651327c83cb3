import { ChevronDown, ChevronRight } from 'lucide-react';
import { memo } from 'react';
import {
  allLayers,
  BLEND_IDS,
  BLEND_MODES,
  edit,
  type Layer,
  pieceOf,
  resolve,
  stepOf,
  STEPS,
} from '../../../core';
import { Picture } from '../../engine/client/Picture';
import {
  LayerContext,
  type LayerFace,
  sameFace,
  useBench,
  useEngine,
  useStoreItself,
} from './context';
import { ParameterControl } from './controls/ParameterControl';
import { InnerLookOf } from './InnerLook';
import { Keep } from './Keep';
import { LayerSource } from './LayerSource';
import { Mattes } from './Mattes';
import { Placement } from './Placement';
import { LayerTime, SpanOf } from './When';
import { useIdleWords } from './useIdleWords';
import { Sortable, useRow } from './Sortable';
import { StepRow } from './StepRow';
import { Choice } from '../../components/Choice';
import { Finder } from '../../components/Finder';
import { StepPictures } from './StepPictures';

const STEPS_FOUND = STEPS.map(({ id, family, label, help }) => ({
  id,
  group: family,
  label,
  help,
}));

const SHARE = {
  kind: 'number',
  id: 'share',
  label: 'Opacity',
  unit: '%',
  min: 0,
  max: 100,
  default: 100,
} as const;

/** A layer's row; when open, with its controls and its group's layers. */
export const LayerRow = memo(function LayerRow({
  layer,
  depth = 0,
}: {
  layer: Layer;
  depth?: number;
}) {
  const change = useBench((s) => s.change),
    fold = useBench((s) => s.fold),
    choose = useBench((s) => s.choose),
    show = useBench((s) => s.show);
  const open = useBench((s) => s.unfolded.has(layer.key)),
    chosen = useBench((s) => s.chosen?.layer === layer.key && !s.chosen.step),
    alone = useBench((s) => s.solo === layer.key),
    idle = useIdleWords(layer.key);
  const engine = useEngine();
  const row = useRow(layer.key, `layer ${layer.name}`);
  const opacity = useBench((s) => resolve(s.look, layer.opacity, {}) as number),
    group = useBench((s) =>
      layer.source === 'group' ? s.still.groups?.find((g) => g.key === layer.from) : undefined,
    );
  const set = (name: string, c: Parameters<typeof edit.changeLayer>[2]) =>
    change(name, (now) => edit.changeLayer(now, layer.key, c));
  return (
    <li
      ref={row.ref}
      style={row.style}
      className={`border-b line bg-base-200 ${layer.on ? '' : 'opacity-60'}`}
      data-layer={layer.key}
    >
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
        <button
          className="flex-1 min-w-0 flex items-center gap-1 text-left"
          aria-expanded={open}
          onClick={() => fold(layer.key)}
        >
          {open ? (
            <ChevronDown size={13} className="flex-none" aria-hidden="true" />
          ) : (
            <ChevronRight size={13} className="flex-none" aria-hidden="true" />
          )}
          <span className="min-w-0">
            <span className="block truncate font-medium">{layer.name}</span>
            {layer.on && idle && (
              <span
                className="block truncate quiet italic"
                data-idle={layer.key}
                title={idle.words}
              >
                {idle.words}
              </span>
            )}
          </span>
        </button>
        {alone && (
          <button
            className="word framed"
            title="Show all layers again (L)"
            onClick={() => show({ solo: null })}
          >
            alone
          </button>
        )}
        <span className="quiet truncate max-w-[72px]">
          {BLEND_MODES[layer.blend].label.toLowerCase()}
        </span>
        <span className="num quiet w-9 text-right">{Math.round(opacity)}%</span>
        <input
          type="checkbox"
          className="tick"
          aria-label={`${layer.name} on`}
          checked={layer.on}
          onChange={(e) =>
            set(e.target.checked ? `${layer.name} on` : `${layer.name} off`, {
              on: e.target.checked,
            })
          }
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
              <span className="flex gap-1 min-w-0">
                <Choice
                  className="field min-w-0 flex-1"
                  aria-label="Blend"
                  value={layer.blend}
                  onChange={(v) => set(`${layer.name} blend`, { blend: v as Layer['blend'] })}
                >
                  {BLEND_IDS.map((b) => (
                    <option key={b} value={b}>
                      {BLEND_MODES[b].label}
                    </option>
                  ))}
                </Choice>
                <button
                  className="word quiet"
                  title="The hero under every mode at once"
                  onClick={() => show({ modesOf: layer.key })}
                >
                  all
                </button>
              </span>
              <LayerSource layer={layer} />
            </div>
            {layer.source === 'look' && <InnerLookOf layer={layer} />}
            <ParameterControl
              parameter={SHARE}
              setting={layer.opacity}
              name={`${layer.name} opacity`}
              reset={100}
              path={`${layer.key}/opacity`}
              onSetting={(doc, s) => edit.changeLayer(doc, layer.key, { opacity: s })}
            />
            {group && depth < 4 && (
              <ol className="mt-1 ml-1 border-l-2 line" aria-label={`Group ${group.name}`}>
                <Sortable
                  keys={[...group.layers].reverse().map((l) => l.key)}
                  onMove={(key, to) =>
                    change('move layer', (now) =>
                      edit.moveLayer(now, key, group.layers.length - 1 - to),
                    )
                  }
                >
                  {[...group.layers].reverse().map((l) => (
                    <LayerRow key={l.key} layer={l} depth={depth + 1} />
                  ))}
                </Sortable>
              </ol>
            )}
            <ol className="mt-1">
              <Sortable
                keys={layer.steps.map((s) => s.key)}
                onMove={(key, to) =>
                  change('move step', (now) => edit.moveStep(now, layer.key, key, to))
                }
              >
                {layer.steps.map((s) => (
                  <StepRow key={s.key} layer={layer} use={s} />
                ))}
              </Sortable>
            </ol>
            <LayerWords layer={layer} group={group?.key} />
            <Mattes owner={{ layer: layer.key }} mattes={layer.mattes ?? []} of={layer.name} />
            <Placement layer={layer} />
            <SpanOf of={{ layer: layer.key }} span={layer.span} name={layer.name} />
            <LayerTime layer={layer} />
          </div>
        </LayerContext>
      )}
    </li>
  );
});

interface WordsProps {
  readonly layer: LayerFace;
  readonly group: string | undefined;
}
const LayerWords = memo(Words, (a, b) => a.group === b.group && sameFace(a.layer, b.layer));

function Words({ layer, group }: WordsProps) {
  const change = useBench((s) => s.change),
    fold = useBench((s) => s.fold),
    store = useStoreItself();
  const addStep = (id: string) => {
    change(`add ${stepOf(id)!.label.toLowerCase()}`, (now) =>
      edit.addStep(now, layer.key, edit.startedStep(stepOf(id)!, [])),
    );
    fold(`${layer.key}/${edit.layerOf(store.getState().look, layer.key)!.steps.at(-1)!.key}`, true);
  };
  const into = () => {
    const { look: before } = store.getState();
    const next = edit.groupLayer(before, layer.key);
    change(`group ${layer.name}`, next);
    const outer = allLayers(next).find((l) => !edit.layerOf(before, l.key));
    if (outer) fold(outer.key, true);
  };
  return (
    <div className="flex flex-wrap items-center gap-0.5 mt-1">
      <span className="mr-auto">
        <Finder
          label={`Add a step to ${layer.name}`}
          all={STEPS_FOUND}
          pictures={StepPictures}
          onChoose={addStep}
        >
          + step
        </Finder>
      </span>
      {group === undefined ? (
        <button
          className="word quiet !px-1"
          title="Puts it into a group of its own, which other layers can show too"
          onClick={into}
        >
          group
        </button>
      ) : (
        <button
          className="word quiet !px-1"
          onClick={() =>
            change('add layer to group', (now) =>
              edit.addLayer(now, edit.newLayer('layer', 'clip', []), undefined, group),
            )
          }
        >
          + layer in it
        </button>
      )}
      <Keep
        title="Keeps it as a piece, for use in other looks"
        of={(look) => pieceOf(look, layer.key)}
      />
      <button
        className="word quiet !px-1"
        onClick={() => change('duplicate layer', (now) => edit.duplicateLayer(now, layer.key))}
      >
        duplicate
      </button>
      <button
        className="word quiet !px-1"
        onClick={() => change('remove layer', (now) => edit.removeLayer(now, layer.key))}
      >
        remove
      </button>
    </div>
  );
}
