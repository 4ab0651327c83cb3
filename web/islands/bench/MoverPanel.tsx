/** The chosen mover: parameters, instants, targets and amounts; for keys, the chosen key. */
import { X } from 'lucide-react';
import {
  amountOf,
  edit,
  KEYS,
  type LookDocument,
  type Mover,
  type MoverTarget,
  parameterAt,
  pieceOfMover,
  type Way,
  WAYS,
} from '../../../core';
import { type MoverKind, moverOf } from '../../../core/time';
import { Choice } from '../../components/Choice';
import { useBench, useStill } from './context';
import { ParameterControl } from './controls/ParameterControl';
import { InstantEditor } from './InstantEditor';
import { Keep } from './Keep';
import { Fits } from './MoverFits';
import { KeyPanel, SeveralKeys } from './MoverKeys';

const WAY_WORDS: Record<Way, string> = { add: 'adds', multiply: 'multiplies', replace: 'leads to' };

/** The panel of a mover. */
export function MoverPanel({ mover }: { mover: Mover }) {
  const change = useBench((s) => s.change),
    show = useBench((s) => s.show),
    keysChosen = useBench((s) => s.keysChosen);
  const kind = moverOf(mover.kind);
  const name = mover.name;
  const set = (words: string, c: Parameters<typeof edit.changeMover>[2]) =>
    change(words, (now) => edit.changeMover(now, mover.key, c));
  return (
    <div
      className="w-[318px] h-[227px] flex-none border-l line scrolls px-2 py-1 bg-base-200"
      aria-label={`Mover ${name}`}
      role="group"
    >
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
          onChange={(e) =>
            set(`${name} ${e.target.checked ? 'on' : 'off'}`, { on: e.target.checked })
          }
        />
        <Keep
          title="Keeps it as a piece: other parameters and looks can be moved by it"
          of={(look) => pieceOfMover(look, mover.key)}
        />
        <button
          className="word quiet"
          onClick={() => change(`remove ${name}`, (now) => edit.removeMover(now, mover.key))}
        >
          remove
        </button>
        <button
          className="quiet"
          aria-label="Fold the mover away"
          onClick={() => show({ mover: null })}
        >
          <X size={12} aria-hidden="true" />
        </button>
      </div>
      {mover.kind !== KEYS && kind && <KindPanel mover={mover} kind={kind} />}
      {mover.kind === KEYS && mover.keys!.length > 1 && <Fits mover={mover} />}
      {mover.kind === KEYS && keysChosen.length > 1 && (
        <SeveralKeys mover={mover} which={keysChosen} />
      )}
      {mover.kind === KEYS && keysChosen.length < 2 && (
        <KeyPanel mover={mover} index={keysChosen[0] ?? null} />
      )}
      <div className="border-t line mt-1 pt-0.5">
        {mover.targets.map((t) => (
          <Target key={t.path} mover={mover} target={t} kind={kind} />
        ))}
      </div>
    </div>
  );
}

function KindPanel({ mover, kind }: { mover: Mover; kind: MoverKind }) {
  const instants = (look: LookDocument, id: string) =>
    edit.moverNamed(look, mover.key)?.instants?.[id] ?? [{ from: 'start' as const }];
  const change = useBench((s) => s.change);
  const inSpan = useStill((look) =>
    mover.targets.some(
      (t) => (parameterAt(look, t.path)?.spans.length ?? 0) > 0 || look.span !== undefined,
    ),
  );
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
                unset={mover.instants?.[id] === undefined}
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
              onClick={() =>
                change('add instant', (now) =>
                  edit.setInstants(now, mover.key, id, [
                    ...instants(now, id),
                    instants(now, id).at(-1)!,
                  ]),
                )
              }
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

function Target({
  mover,
  target,
  kind,
}: {
  mover: Mover;
  target: MoverTarget;
  kind: MoverKind | undefined;
}) {
  const change = useBench((s) => s.change);
  const found = useStill((look) => parameterAt(look, target.path));
  if (!found) return null;
  const set = (t: Partial<MoverTarget>) =>
    change(`what ${mover.name} does`, (now) => edit.setTarget(now, mover.key, { ...target, ...t }));
  const amount = amountOf(found.parameter, target.how);
  const ways = WAYS.filter(
    (w) =>
      amountOf(found.parameter, w) !== undefined &&
      (mover.kind !== KEYS || w === 'replace' || found.parameter.kind === 'number'),
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
                to && {
                  amount: {
                    value:
                      v === 'multiply'
                        ? 100
                        : v === 'replace'
                          ? found.parameter.default
                          : to.default,
                  },
                }),
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
          <Choice
            className="field w-[66px]"
            aria-label="By its"
            value={target.part ?? kind.parts[0]!.id}
            onChange={(part) => set({ part })}
          >
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
          onClick={() =>
            change(`${found.parameter.label} moves no longer`, (now) =>
              edit.removeTarget(now, mover.key, target.path),
            )
          }
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
