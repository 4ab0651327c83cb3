/** Keys of the chosen mover: one with its values, or several together. */
import { edit, MIXINGS, type Mixing, type Mover, parameterAt } from '../../../core';
import { EASE_KINDS, EASE_WORDS, type EaseKind } from '../../../core/time';
import { Choice } from '../../components/Choice';
import { copy } from './clipboard';
import { useBench, useClipTime, useStill, useStoreItself } from './context';
import { ParameterControl } from './controls/ParameterControl';
import { ValueControl } from './controls/ValueControl';
import { InstantEditor } from './InstantEditor';
import { NO_KEYS } from './store';

const MIXING_WORDS: Record<Mixing, string> = { even: 'evenly to the eye', light: 'as light is' };

/** Edits several keys: move, stretch, mirror, copy, remove. */
export function SeveralKeys({ mover, which }: { mover: Mover; which: readonly number[] }) {
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
        {frames.length} keys, frames <span className="num">{first}</span> to{' '}
        <span className="num">{last}</span>. Drag one and all of them move.
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
            const over = Math.max(
              frames.length - 1,
              Math.min(time.frames - 1 - first, Math.round(Number(e.target.value))),
            );
            if (Number.isFinite(over) && over !== last - first)
              change(`spread keys of ${mover.name}`, (now) =>
                edit.stretchKeys(now, mover.key, which, over, time),
              );
          }}
          onKeyDown={(e) => {
            if (e.key === 'Enter') e.currentTarget.blur();
          }}
        />
        <span className="quiet">frames</span>
      </label>
      <div className="flex gap-1">
        <button
          className="word quiet"
          onClick={() =>
            change(`mirror keys of ${mover.name}`, (now) =>
              edit.mirrorKeys(now, mover.key, which, time),
            )
          }
        >
          mirror
        </button>
        <button
          className="word quiet"
          title="So does Ctrl+C; Ctrl+V sets them from the playhead on"
          onClick={() =>
            copy({
              kind: 'keys',
              keys: edit.copiedKeys(store.getState().look, mover.key, which, time),
            })
          }
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

/** Edits one key. */
export function KeyPanel({ mover, index }: { mover: Mover; index: number | null }) {
  const change = useBench((s) => s.change),
    end = useBench((s) => s.endGesture);
  const parameter = useStill((look) => parameterAt(look, mover.targets[0]!.path)?.parameter);
  const key = index === null ? undefined : mover.keys?.[index];
  if (!parameter) return null;
  if (!key || index === null)
    return (
      <p className="quiet py-1">
        {mover.keys!.length} key{mover.keys!.length === 1 ? '' : 's'}. Moving the control sets one
        at the playhead; so does <span className="num">I</span>. Click a key to see its numbers,
        more of them with the shift key.
      </p>
    );
  const ease = key.ease ?? { kind: 'linear' as const };
  return (
    <>
      <InstantEditor
        label="Key"
        at={key.at}
        onInstant={(look, at) => edit.changeKey(look, mover.key, index, { at })}
      />
      <div className="grid grid-cols-[74px_1fr] items-center min-h-6 gap-x-1">
        <span className="quiet truncate">{parameter.label}</span>
        <ValueControl
          parameter={parameter}
          value={key.value}
          reset={parameter.default}
          onValue={(value, g) =>
            change(
              `key of ${mover.name}`,
              (now) => edit.changeKey(now, mover.key, index, { value }),
              g && `key value ${index} ${g}`,
            )
          }
          onEnd={end}
        />
        <span className="quiet">To the next</span>
        <Choice
          className="field"
          aria-label="How it gets to the next key"
          value={ease.kind}
          onChange={(v) =>
            change('ease', (now) =>
              edit.changeKey(now, mover.key, index, { ease: { ...ease, kind: v as EaseKind } }),
            )
          }
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
          parameter={{
            kind: 'number',
            id: 'by',
            label: 'How strongly',
            unit: '%',
            min: 0,
            max: 100,
            default: 50,
          }}
          setting={ease.by ?? { value: 50 }}
          name="ease"
          reset={50}
          onSetting={(look, by) =>
            edit.changeKey(look, mover.key, index, { ease: { ...ease, by } })
          }
        />
      )}
      {ease.kind === 'cubic' && (
        <Handles mover={mover} index={index} handles={ease.handles ?? [1 / 3, 0, 2 / 3, 1]} />
      )}
      {parameter.kind === 'colour' && (
        <label className="grid grid-cols-[74px_1fr] items-center min-h-6 gap-x-1">
          <span className="quiet">Mixed</span>
          <Choice
            className="field"
            value={mover.mixing ?? 'even'}
            onChange={(v) =>
              change('mixing', (now) => edit.changeMover(now, mover.key, { mixing: v as Mixing }))
            }
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
/** Control points of a cubic, in per cent of time and value. */
function Handles({
  mover,
  index,
  handles,
}: {
  mover: Mover;
  index: number;
  handles: readonly [number, number, number, number];
}) {
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
            return edit.changeKey(look, mover.key, index, {
              ease: { kind: 'cubic', handles: next },
            });
          }}
        />
      ))}
    </>
  );
}
