import { X } from 'lucide-react';
import {
  allLayers,
  COMBINATIONS,
  edit,
  type LookDocument,
  matteOf,
  matteParameters,
  MATTE_VIEWS,
  MATTES,
  type MatteUse,
  type MatteView,
} from '../../../core';
import { useBench, useStill } from './context';
import { ParameterControl } from './controls/ParameterControl';
import { Choice } from '../../components/Choice';
import { Finder } from '../../components/Finder';

const MATTES_FOUND = MATTES.map(({ id, label, help }) => ({ id, group: '', label, help }));

interface Props {
  readonly owner: edit.Owner;
  readonly mattes: readonly MatteUse[];
  /** Name of the owner. */
  readonly of: string;
}
const mattePins = (look: LookDocument) => (look.pins ?? []).filter((p) => p.kind === 'matte');
const keyOf = ({ layer, step }: edit.Owner): string =>
  step === undefined ? layer : `${layer}/${step}`;

/** The mattes of a layer or step. */
export function Mattes({ owner, mattes, of }: Props) {
  const change = useBench((s) => s.change),
    show = useBench((s) => s.show),
    shown = useBench((s) => (s.matteShown?.key === keyOf(owner) ? s.matteShown.how : null));
  const add = (id: string) => {
    const kind = matteOf(id)!;
    change(`add ${kind.label.toLowerCase()} matte`, (now) => {
      const asked = kind.names === 'pin' && mattePins(now).length === 0;
      const ready = asked
        ? edit.addPin(now, { key: 'matte', label: 'Matte', kind: 'matte', many: false })
        : now;
      const others =
        kind.names === 'layer'
          ? allLayers(now).filter((l) => l.key !== owner.layer)
          : kind.names === 'pin'
            ? mattePins(ready)
            : [];
      return edit.addMatte(ready, owner, kind, others[0] ? { from: others[0].key } : {});
    });
  };
  return (
    <div className={mattes.length > 0 ? 'border-t line mt-1 pt-1' : ''} data-mattes={keyOf(owner)}>
      <div className="flex items-center gap-1">
        <span className="mr-auto">
          <Finder
            label={`Add a matte to ${of}`}
            className="word quiet"
            all={MATTES_FOUND}
            onChoose={add}
          >
            + matte
          </Finder>
        </span>
        {mattes.length > 0 && (
          <Choice
            className="field"
            aria-label={`Show the matte of ${of}`}
            title="X goes from one to the next"
            value={shown ?? ''}
            onChange={(v) =>
              show({ matteShown: v ? { key: keyOf(owner), how: v as MatteView } : null })
            }
          >
            <option value="">not shown</option>
            {Object.entries(MATTE_VIEWS).map(([id, words]) => (
              <option key={id} value={id}>
                {words}
              </option>
            ))}
          </Choice>
        )}
      </div>
      {mattes.map((m, i) => (
        <Matte key={m.key} owner={owner} matte={m} first={i === 0} />
      ))}
    </div>
  );
}

function Matte({ owner, matte, first }: { owner: edit.Owner; matte: MatteUse; first: boolean }) {
  const change = useBench((s) => s.change);
  const kind = matteOf(matte.matte)!;
  /** Options for what it is made from. */
  const sources = useStill((still) =>
    kind.names === 'pin'
      ? mattePins(still).map(({ key, label }) => ({ key, label }))
      : kind.names === 'layer'
        ? allLayers(still).flatMap((l) =>
            l.key === owner.layer ? [] : [{ key: l.key, label: l.name }],
          )
        : [],
  );
  const set = (name: string, c: Parameters<typeof edit.changeMatte>[3]) =>
    change(name, (now) => edit.changeMatte(now, owner, matte.key, c));
  return (
    <div
      className={`pl-2 border-l-2 line my-1 ${matte.on ? '' : 'opacity-60'}`}
      data-matte={matte.key}
    >
      <div className="flex items-center gap-1 min-h-6">
        <Choice
          className="field w-[68px] flex-none"
          aria-label={`${kind.label} joins by`}
          title={
            first ? 'or, and: only here; minus: everywhere but here' : 'how it joins those above it'
          }
          value={matte.combine}
          onChange={(v) => set('join mattes', { combine: v as MatteUse['combine'] })}
        >
          {COMBINATIONS.map((c) => (
            <option key={c}>{c}</option>
          ))}
        </Choice>
        <span className="font-medium truncate" title={kind.help}>
          {kind.label.toLowerCase()}
        </span>
        <label className="quiet flex items-center gap-1 ml-auto">
          invert
          <input
            type="checkbox"
            className="tick"
            checked={matte.invert}
            onChange={(e) => set('invert matte', { invert: e.target.checked })}
          />
        </label>
        <input
          type="checkbox"
          className="tick"
          aria-label={`${kind.label} on`}
          checked={matte.on}
          onChange={(e) => set('matte on or off', { on: e.target.checked })}
        />
        <button
          className="quiet"
          aria-label={`Remove ${kind.label}`}
          onClick={() => change('remove matte', (now) => edit.removeMatte(now, owner, matte.key))}
        >
          <X size={11} aria-hidden="true" />
        </button>
      </div>
      {kind.names && (
        <label className="grid grid-cols-[74px_1fr_18px] items-center gap-x-1.5 min-h-6">
          <span className="quiet">{kind.names === 'layer' ? 'Layer' : 'Pin'}</span>
          <Choice
            className="field"
            value={matte.from ?? ''}
            onChange={(v) => set('matte from layer', { from: v })}
          >
            {sources.map((o) => (
              <option key={o.key} value={o.key}>
                {o.label}
              </option>
            ))}
          </Choice>
        </label>
      )}
      {matteParameters(kind).map((p) => (
        <ParameterControl
          key={p.id}
          parameter={p}
          setting={matte.parameters[p.id] ?? { value: p.default }}
          name={`${kind.label} ${p.label.toLowerCase()}`}
          reset={p.default}
          own={`${keyOf(owner)}/${matte.key}`}
          path={`${keyOf(owner)}/@${matte.key}/${p.id}`}
          onSetting={(doc, s) => edit.setMatteParameter(doc, owner, matte.key, p.id, s)}
        />
      ))}
    </div>
  );
}
