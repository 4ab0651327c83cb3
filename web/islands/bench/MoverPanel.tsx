/** The chosen mover: its numbers, what it counts from, what it moves and how far; of keys the chosen one. */
import { X } from 'lucide-react';
import {
  amountOf,
  edit,
  KEYS,
  type LookDocument,
  MIXINGS,
  type Mixing,
  type Mover,
  moverExcess,
  type MoverTarget,
  parameterAt,
  pieceOfMover,
  type Way,
  WAYS,
} from '../../../core';
import { EASE_KINDS, EASE_WORDS, type EaseKind, type Fitting, FITTING_WORDS, FITTINGS, type MoverKind, moverOf } from '../../../core/time';
import { Choice } from '../shared/Choice';
import { copy } from './clipboard';
import { useBench, useClipTime, useStill, useStoreItself } from './context';
import { ParameterControl } from './controls/ParameterControl';
import { ValueControl } from './controls/ValueControl';
import { InstantEditor } from './InstantEditor';
import { Keep } from './Keep';
import { NO_KEYS } from './store';

const WAY_WORDS: Record<Way, string> = { add: 'adds', multiply: 'multiplies', replace: 'leads to' };
const MIXING_WORDS: Record<Mixing, string> = { even: 'evenly to the eye', light: 'as light is' };

export function MoverPanel({ mover }: { mover: Mover }) {
  const change = useBench((s) => s.change),
    show = useBench((s) => s.show),
    keysChosen = useBench((s) => s.keysChosen);
  const kind = moverOf(mover.kind);
  const name = mover.name;
  const set = (words: string, c: Parameters<typeof edit.changeMover>[2]) => change(words, (now) => edit.changeMover(now, mover.key, c));
  return (
    <div className="w-[318px] h-[227px] flex-none border-l line scrolls px-2 py-1 bg-base-200" aria-label={`Mover ${name}`} role="group">
      <div className="flex items-center gap-1">
        <input
          className="field min-w-0 flex-1 font-medium"
          aria-label="Mover name"
          key={name}
          defaultValue={name}
          onBlur={(e) => {
            const v = e.target.value.trim();
            if (v && v !== name) set('rename mover', { name: v });
          }}
          onKeyDown={(e) => {
            if (e.key === 'Enter') e.currentTarget.blur();
          }}
        />
        <span className="quiet">{kind?.label.toLowerCase() ?? 'keys'}</span>
        <input
          type="checkbox"
          className="tick"
          aria-label={`${name} on`}
          checked={mover.on}
          onChange={(e) => set(`${name} ${e.target.checked ? 'on' : 'off'}`, { on: e.target.checked })}
        />
        <Keep title="Keeps it as a piece: other parameters and looks can be moved by it" of={(look) => pieceOfMover(look, mover.key)} />
        <button className="word quiet" onClick={() => change(`remove ${name}`, (now) => edit.removeMover(now, mover.key))}>
          remove
        </button>
        <button className="quiet" aria-label="Fold the mover away" onClick={() => show({ mover: null })}>
          <X size={12} aria-hidden="true" />
        </button>
      </div>
      {mover.kind !== KEYS && kind && <KindPanel mover={mover} kind={kind} />}
      {mover.kind === KEYS && keysChosen.length > 1 && <SeveralKeys mover={mover} which={keysChosen} />}
      {mover.kind === KEYS && keysChosen.length < 2 && <KeyPanel mover={mover} index={keysChosen[0] ?? null} />}
      <div className="border-t line mt-1 pt-0.5">
        {mover.targets.map((t) => (
          <Target key={t.path} mover={mover} target={t} kind={kind} />
        ))}
      </div>
    </div>
  );
}

function KindPanel({ mover, kind }: { mover: Mover; kind: MoverKind }) {
  const instants = (look: LookDocument, id: string) => edit.moverNamed(look, mover.key)?.instants?.[id] ?? [{ from: 'start' as const }];
  const change = useBench((s) => s.change);
  const inSpan = useStill((look) => mover.targets.some((t) => (parameterAt(look, t.path)?.spans.length ?? 0) > 0 || look.span !== undefined));
  return (
    <>
      {kind.instants.map(({ id, label, many }) => (
        <div key={id}>
          {(mover.instants?.[id] ?? [{ from: 'start' as const }]).map((at, i, all) => (
            <div key={i} className="relative">
              <InstantEditor
                label={i === 0 ? label : 'and at'}
                at={at}
                inSpan={inSpan}
                many={many ?? false}
                onInstant={(look, to) =>
                  edit.setInstants(
                    look,
                    mover.key,
                    id,
                    instants(look, id).map((x, k) => (k === i ? to : x)),
                  )
                }
              />
              {all.length > 1 && (
                <button
                  className="quiet absolute right-0 bottom-1"
                  aria-label={`Remove the instant ${i + 1}`}
                  onClick={() =>
                    change('remove instant', (now) =>
                      edit.setInstants(
                        now,
                        mover.key,
                        id,
                        instants(now, id).filter((_, k) => k !== i),
                      ),
                    )
                  }
                >
                  <X size={11} aria-hidden="true" />
                </button>
              )}
            </div>
          ))}
          {many && (
            <button
              className="word quiet"
              onClick={() => change('add instant', (now) => edit.setInstants(now, mover.key, id, [...instants(now, id), instants(now, id).at(-1)!]))}
            >
              + instant
            </button>
          )}
        </div>
      ))}
      {kind.lasts && <Fits mover={mover} />}
      {kind.parameters.map((p) => (
        <ParameterControl
          key={p.id}
          parameter={p}
          setting={mover.parameters[p.id] ?? { value: p.default }}
          name={`${mover.name} ${p.label.toLowerCase()}`}
          reset={p.default}
          onSetting={(look, s) => edit.setMoverParameter(look, mover.key, p.id, s)}
        />
      ))}
    </>
  );
}

/** What becomes of it on clips that end before it does, and whether the hero is one. */
function Fits({ mover }: { mover: Mover }) {
  const change = useBench((s) => s.change),
    time = useClipTime(),
    over = useStill((look) => moverExcess(look, mover, time));
  return (
    <label className="grid grid-cols-[74px_1fr] items-center min-h-6 gap-x-1">
      <span className="quiet">If too long</span>
      <Choice
        className="field"
        aria-label="Where the clip ends before it does it"
        value={mover.fits ?? 'cut'}
        onChange={(v) => change(`if ${mover.name} is too long`, (now) => edit.changeMover(now, mover.key, { fits: v as Fitting }))}
      >
        {FITTINGS.map((f) => (
          <option key={f} value={f}>
            {FITTING_WORDS[f]}
          </option>
        ))}
      </Choice>
      {over > 0 && (
        <span role="status" className="quiet col-start-2">
          here by {over} frame{over === 1 ? '' : 's'}
        </span>
      )}
    </label>
  );
}

/** Several keys at once: moved together on the lane, spread, mirrored, copied, taken away. */
function SeveralKeys({ mover, which }: { mover: Mover; which: readonly number[] }) {
  const change = useBench((s) => s.change),
    show = useBench((s) => s.show),
    store = useStoreItself(),
    time = useClipTime();
  const frames = useStill((look) =>
    edit
      .keysOnClip(look, mover, time)
      .filter((k) => which.includes(k.index))
      .map((k) => k.frame),
  );
  const [first, last] = [frames[0] ?? 0, frames.at(-1) ?? 0];
  return (
    <>
      <p className="quiet py-1">
        {frames.length} keys, frames <span className="num">{first}</span> to <span className="num">{last}</span>. Drag one and all of them move.
      </p>
      <label className="flex items-center gap-1 min-h-6">
        <span className="quiet w-[74px]">Spread over</span>
        <input
          className="field num w-16"
          aria-label={`Frames the keys of ${mover.name} are spread over`}
          inputMode="numeric"
          key={last - first}
          defaultValue={last - first}
          onBlur={(e) => {
            const over = Math.max(frames.length - 1, Math.min(time.frames - 1 - first, Math.round(Number(e.target.value))));
            if (Number.isFinite(over) && over !== last - first)
              change(`spread keys of ${mover.name}`, (now) => edit.stretchKeys(now, mover.key, which, over, time));
          }}
          onKeyDown={(e) => {
            if (e.key === 'Enter') e.currentTarget.blur();
          }}
        />
        <span className="quiet">frames</span>
      </label>
      <div className="flex gap-1">
        <button className="word quiet" onClick={() => change(`mirror keys of ${mover.name}`, (now) => edit.mirrorKeys(now, mover.key, which, time))}>
          mirror
        </button>
        <button
          className="word quiet"
          title="So does Ctrl+C; Ctrl+V sets them from the playhead on"
          onClick={() => copy({ kind: 'keys', keys: edit.copiedKeys(store.getState().look, mover.key, which, time) })}
        >
          copy
        </button>
        <button
          className="word quiet"
          onClick={() => {
            show({ keysChosen: NO_KEYS });
            change(`remove keys of ${mover.name}`, (now) => edit.removeKeys(now, mover.key, which));
          }}
        >
          remove
        </button>
      </div>
    </>
  );
}

function KeyPanel({ mover, index }: { mover: Mover; index: number | null }) {
  const change = useBench((s) => s.change),
    end = useBench((s) => s.endGesture);
  const parameter = useStill((look) => parameterAt(look, mover.targets[0]!.path)?.parameter);
  const key = index === null ? undefined : mover.keys?.[index];
  if (!parameter) return null;
  if (!key || index === null)
    return (
      <p className="quiet py-1">
        {mover.keys!.length} key{mover.keys!.length === 1 ? '' : 's'}. Moving the control sets one at the playhead; so does{' '}
        <span className="num">I</span>. Click a key to see its numbers, more of them with the shift key.
      </p>
    );
  const ease = key.ease ?? { kind: 'linear' as const };
  return (
    <>
      <InstantEditor label="Key" at={key.at} onInstant={(look, at) => edit.changeKey(look, mover.key, index, { at })} />
      <div className="grid grid-cols-[74px_1fr] items-center min-h-6 gap-x-1">
        <span className="quiet truncate">{parameter.label}</span>
        <ValueControl
          parameter={parameter}
          value={key.value}
          reset={parameter.default}
          onValue={(value, g) =>
            change(`key of ${mover.name}`, (now) => edit.changeKey(now, mover.key, index, { value }), g && `key value ${index} ${g}`)
          }
          onEnd={end}
        />
        <span className="quiet">To the next</span>
        <Choice
          className="field"
          aria-label="How it gets to the next key"
          value={ease.kind}
          onChange={(v) => change('ease', (now) => edit.changeKey(now, mover.key, index, { ease: { ...ease, kind: v as EaseKind } }))}
        >
          {EASE_KINDS.map((k) => (
            <option key={k} value={k}>
              {EASE_WORDS[k]}
            </option>
          ))}
        </Choice>
      </div>
      {ease.kind !== 'linear' && ease.kind !== 'hold' && ease.kind !== 'cubic' && (
        <ParameterControl
          parameter={{ kind: 'number', id: 'by', label: 'How strongly', unit: '%', min: 0, max: 100, default: 50 }}
          setting={ease.by ?? { value: 50 }}
          name="ease"
          reset={50}
          onSetting={(look, by) => edit.changeKey(look, mover.key, index, { ease: { ...ease, by } })}
        />
      )}
      {ease.kind === 'cubic' && <Handles mover={mover} index={index} handles={ease.handles ?? [1 / 3, 0, 2 / 3, 1]} />}
      {parameter.kind === 'colour' && (
        <label className="grid grid-cols-[74px_1fr] items-center min-h-6 gap-x-1">
          <span className="quiet">Mixed</span>
          <Choice
            className="field"
            value={mover.mixing ?? 'even'}
            onChange={(v) => change('mixing', (now) => edit.changeMover(now, mover.key, { mixing: v as Mixing }))}
          >
            {MIXINGS.map((m) => (
              <option key={m} value={m}>
                {MIXING_WORDS[m]}
              </option>
            ))}
          </Choice>
        </label>
      )}
    </>
  );
}

const HANDLE_WORDS = ['Leaves after', 'at', 'Arrives before', 'at'] as const;
/** A cubic's inner points, in per cent of the time and of the way. */
function Handles({ mover, index, handles }: { mover: Mover; index: number; handles: readonly [number, number, number, number] }) {
  return (
    <>
      {HANDLE_WORDS.map((label, i) => (
        <ParameterControl
          key={i}
          parameter={{
            kind: 'number',
            id: `handle-${i}`,
            label,
            unit: '%',
            min: i % 2 === 0 ? 0 : -200,
            max: i % 2 === 0 ? 100 : 300,
            soft: [0, 100],
            default: 0,
          }}
          setting={{ value: handles[i]! * 100 }}
          name={`handle ${i}`}
          reset={[33, 0, 67, 100][i]!}
          onSetting={(look, s) => {
            const next = [...handles] as [number, number, number, number];
            if ('value' in s) next[i] = (s.value as number) / 100;
            return edit.changeKey(look, mover.key, index, { ease: { kind: 'cubic', handles: next } });
          }}
        />
      ))}
    </>
  );
}

function Target({ mover, target, kind }: { mover: Mover; target: MoverTarget; kind: MoverKind | undefined }) {
  const change = useBench((s) => s.change);
  const found = useStill((look) => parameterAt(look, target.path));
  if (!found) return null;
  const set = (t: Partial<MoverTarget>) => change(`what ${mover.name} does`, (now) => edit.setTarget(now, mover.key, { ...target, ...t }));
  const amount = amountOf(found.parameter, target.how);
  const ways = WAYS.filter(
    (w) => amountOf(found.parameter, w) !== undefined && (mover.kind !== KEYS || w === 'replace' || found.parameter.kind === 'number'),
  );
  return (
    <div data-target={target.path}>
      <div className="flex items-center gap-1 min-h-6">
        <Choice
          className="field w-[86px] flex-none"
          aria-label={`How it moves ${found.parameter.label}`}
          value={target.how}
          onChange={(v) => {
            const to = amountOf(found.parameter, v as Way);
            set({
              how: v as Way,
              ...(mover.kind !== KEYS &&
                to && { amount: { value: v === 'multiply' ? 100 : v === 'replace' ? found.parameter.default : to.default } }),
            });
          }}
        >
          {ways.map((w) => (
            <option key={w} value={w}>
              {WAY_WORDS[w]}
            </option>
          ))}
        </Choice>
        <span className="truncate flex-1" title={found.of}>
          {found.of}: {found.parameter.label.toLowerCase()}
        </span>
        {kind?.parts && (
          <Choice className="field w-[66px]" aria-label="By its" value={target.part ?? kind.parts[0]!.id} onChange={(part) => set({ part })}>
            {kind.parts.map((p) => (
              <option key={p.id} value={p.id}>
                {p.label}
              </option>
            ))}
          </Choice>
        )}
        <button
          className="quiet"
          aria-label={`No longer moves ${found.parameter.label}`}
          onClick={() => change(`${found.parameter.label} moves no longer`, (now) => edit.removeTarget(now, mover.key, target.path))}
        >
          <X size={11} aria-hidden="true" />
        </button>
      </div>
      {mover.kind !== KEYS && amount && target.amount && (
        <ParameterControl
          parameter={{ ...amount, label: 'How far' }}
          setting={target.amount}
          name={`how far ${mover.name} moves ${found.parameter.label}`}
          reset={amount.default}
          onSetting={(look, s) => edit.setTarget(look, mover.key, { ...target, amount: s })}
        />
      )}
    </div>
  );
}
