import { Target, X } from 'lucide-react';
import { useState } from 'react';
import { type Dial, edit, type Goal, goalWords, measureWord, type Suit } from '../../../core';
import {
  FLAG_WORDS,
  GOAL_MEASURES,
  MEANABLE,
  type Meanable,
  RELATIONS,
  SUIT_MEASURES,
} from '../../../core';
import { useBench } from './context';
import { NumberField } from '../../components/NumberField';
import { Choice } from '../../components/Choice';

interface RowProps<T extends Goal | Suit> {
  readonly label: string;
  readonly measures: readonly T['of'][];
  readonly value: T;
  readonly onChange: (v: T) => void;
  readonly onEnd: () => void;
}

/** A measure, a direction, and a number in per cent. */
function MeasureRow<T extends Goal | Suit>({
  label,
  measures,
  value,
  onChange,
  onEnd,
}: RowProps<T>) {
  return (
    <span className="flex items-center gap-1">
      <Choice
        className="field"
        aria-label={`${label}: what`}
        value={value.of}
        onChange={(v) => onChange({ ...value, of: v as T['of'] })}
      >
        {measures.map((m) => (
          <option key={m} value={m}>
            {measureWord(m)}
          </option>
        ))}
      </Choice>
      <Choice
        className="field"
        aria-label={`${label}: above or below`}
        value={value.is}
        onChange={(v) => onChange({ ...value, is: v as T['is'] })}
      >
        {RELATIONS.map((r) => (
          <option key={r} value={r}>
            {r}
          </option>
        ))}
      </Choice>
      <NumberField
        label={`${label}: per cent`}
        className="w-16"
        value={value.value}
        min={-50}
        max={150}
        soft={[0, 100]}
        unit="%"
        onChange={(v) => onChange({ ...value, value: v })}
        onEnd={onEnd}
      />
    </span>
  );
}

/** Shows, sets and removes the goal of a number dial. */
export function GoalButton({ dial }: { dial: Dial }) {
  const change = useBench((s) => s.change),
    end = useBench((s) => s.endGesture);
  const [open, setOpen] = useState(false);
  const put = (goal: Goal | undefined, gesture?: string) =>
    change(`goal of ${dial.label}`, (now) => edit.setGoal(now, dial.key, goal), gesture);
  return (
    <span
      className="relative"
      onKeyDown={(e) => {
        if (e.key === 'Escape') setOpen(false);
      }}
    >
      <button
        className={
          dial.goal ? 'text-primary' : 'opacity-0 group-hover:opacity-60 focus:opacity-100'
        }
        aria-label={`Goal of ${dial.label}`}
        aria-expanded={open}
        title={
          dial.goal
            ? `Goal: ${goalWords(dial.goal)}`
            : 'A figure that this dial should reach on each clip'
        }
        onClick={() => {
          if (!dial.goal) put({ of: 'bright', is: 'above', value: 95 });
          setOpen(!open);
        }}
      >
        <Target size={12} aria-hidden="true" />
      </button>
      {open && dial.goal && (
        <span
          role="group"
          aria-label={`Goal of ${dial.label}`}
          className="absolute left-0 top-6 z-20 p-2 bg-base-100 border line rounded shadow-md flex flex-col gap-1.5"
        >
          <MeasureRow
            label={`Goal of ${dial.label}`}
            measures={GOAL_MEASURES}
            value={dial.goal}
            onChange={(g) => put(g, `goal ${dial.key}`)}
            onEnd={end}
          />
          <span className="flex gap-2">
            <button className="word framed" onClick={() => setOpen(false)}>
              done
            </button>
            <button
              className="word quiet"
              onClick={() => {
                put(undefined);
                setOpen(false);
              }}
            >
              no goal
            </button>
          </span>
        </span>
      )}
    </span>
  );
}

/** Chooses inspection flags that the look raises on purpose. */
function Means() {
  const means = useBench((s) => s.still.means) ?? NO_FLAGS,
    change = useBench((s) => s.change);
  const left = MEANABLE.filter((m) => !means.includes(m));
  const put = (next: readonly Meanable[]) =>
    change('flags that are meant', (now) => edit.setMeans(now, next));
  return (
    <div
      className="flex flex-wrap items-center gap-1"
      role="group"
      aria-label="Flags that are meant"
    >
      <span className="quiet">means {means.length === 0 && 'no flag'}</span>
      {means.map((m) => (
        <button
          key={m}
          className="word framed"
          title="Take it off: it counts as a flag again"
          onClick={() => put(means.filter((o) => o !== m))}
        >
          {FLAG_WORDS[m]}
        </button>
      ))}
      {left.length > 0 && (
        <span className="ml-auto">
          <Choice
            className="word quiet"
            aria-label="A flag that is meant"
            value=""
            onChange={(v) => put([...means, v as Meanable])}
          >
            <option value="" disabled>
              + flag
            </option>
            {left.map((m) => (
              <option key={m} value={m}>
                {FLAG_WORDS[m]}
              </option>
            ))}
          </Choice>
        </span>
      )}
    </div>
  );
}
const NO_FLAGS: readonly Meanable[] = [];

/** Chooses what footage the look suits; other clips are flagged on the Wall. */
export function Suits() {
  const suits = useBench((s) => s.still.suits) ?? [],
    change = useBench((s) => s.change),
    end = useBench((s) => s.endGesture);
  const put = (next: readonly Suit[], gesture?: string) =>
    change('what it suits', (now) => edit.setSuits(now, next), gesture);
  return (
    <section aria-label="Suits" className="flex-none px-3 py-1.5 border-t line">
      <div className="flex items-center">
        <span className="quiet mr-auto">suits {suits.length === 0 && 'any footage'}</span>
        <button
          className="word quiet"
          onClick={() => put([...suits, { of: 'bright', is: 'above', value: 60 }])}
        >
          + demand
        </button>
      </div>
      <Means />
      <ul>
        {suits.map((s, i) => (
          <li key={i} className="flex items-center gap-1 py-0.5">
            <MeasureRow
              label={`Demand ${i + 1}`}
              measures={SUIT_MEASURES}
              value={s}
              onChange={(v) =>
                put(
                  suits.map((o, k) => (k === i ? v : o)),
                  `suit ${i}`,
                )
              }
              onEnd={end}
            />
            <button
              className="quiet"
              aria-label={`Take demand ${i + 1} off`}
              onClick={() => put(suits.filter((_, k) => k !== i))}
            >
              <X size={11} aria-hidden="true" />
            </button>
          </li>
        ))}
      </ul>
    </section>
  );
}
