import { useState } from 'react';
import type { ClipDecisions } from '../../../core';
import type { ClipView, LookView } from '../../data/views';
import { STATUSES, type Status } from './arrange';
import type { LookChange } from './applied-looks';
import { Choice } from '../../components/Choice';

function wearingFrom(text: string): LookChange {
  if (text === 'follow' || text === 'stay') return { kind: text };
  const [version, how] = text.split(' ');
  return { kind: 'look', version: version === '-' ? null : version!, follows: how !== 'stays' };
}

interface Props {
  readonly all: number;
  readonly chosen: readonly ClipView[];
  readonly looks: readonly LookView[];
  readonly onAll: () => void;
  readonly onAssign: (w: LookChange) => void;
  readonly onChange: (
    name: string,
    to: Pick<Partial<ClipDecisions>, 'status' | 'note' | 'scene'>,
  ) => void;
}

/** Actions on the chosen clips. */
export function ForChosen({ all, chosen, looks, onAll, onAssign, onChange }: Props) {
  const none = chosen.length === 0;
  const same = <T,>(of: (c: ClipView) => T): T | undefined =>
    !none && chosen.every((c) => of(c) === of(chosen[0]!)) ? of(chosen[0]!) : undefined;
  const ids = chosen.map((c) => c.id).join();
  return (
    <>
      <button className="word" onClick={onAll}>
        {chosen.length === all && all > 0 ? 'choose none' : 'choose all'}
      </button>
      <span className="num quiet">{chosen.length} chosen</span>
      <Choice
        className="field w-40"
        aria-label="Assign a look to the chosen clips"
        value=""
        disabled={none}
        onChange={(v) => onAssign(wearingFrom(v))}
      >
        <option value="" disabled>
          assign a look …
        </option>
        {looks.map((l) => (
          <optgroup key={l.id} label={l.name}>
            {l.versions.map((v, i) => (
              <option key={v.id} value={i === 0 ? v.id : `${v.id} stays`}>
                {l.name} v{v.number}
                {i === 0 ? ', follows the newest' : ', stays'}
              </option>
            ))}
          </optgroup>
        ))}
        <optgroup label="the look they wear">
          <option value="follow">follow its newest version</option>
          <option value="stay">stay at this version</option>
        </optgroup>
        <option value="-">no look</option>
      </Choice>
      <Choice
        className="field w-28"
        aria-label="Status of the chosen clips"
        value={same((c) => c.status) ?? ''}
        disabled={none}
        onChange={(v) => onChange('status', { status: v as Status })}
      >
        <option value="" disabled>
          status …
        </option>
        {STATUSES.map((s) => (
          <option key={s} value={s}>
            {s}
          </option>
        ))}
      </Choice>
      <Words
        key={`scene ${ids}`}
        label="Scene"
        most={60}
        none={none}
        value={same((c) => c.scene) ?? ''}
        onValue={(scene) => onChange('scene', { scene })}
      />
      <Words
        key={`note ${ids}`}
        label="Note"
        most={500}
        none={none}
        value={same((c) => c.note) ?? ''}
        onValue={(note) => onChange('note', { note })}
      />
    </>
  );
}

interface WordsProps {
  readonly label: string;
  readonly most: number;
  readonly none: boolean;
  readonly value: string;
  readonly onValue: (v: string) => void;
}

/**
 * A text field for the chosen clips; Enter or blur applies it, Escape does not. What is being typed is
 * not replaced by what comes from the server.
 */
function Words({ label, most, none, value, onValue }: WordsProps) {
  /** Null while nothing is being typed. */
  const [typed, setTyped] = useState<string | null>(null);
  return (
    <input
      className={`field ${most > 100 ? 'flex-1 min-w-24' : 'w-32'}`}
      aria-label={`${label} of the chosen clips`}
      placeholder={label.toLowerCase()}
      maxLength={most}
      disabled={none}
      value={typed ?? value}
      onChange={(e) => setTyped(e.target.value)}
      onBlur={() => {
        if (typed !== null && typed !== value) onValue(typed.trim());
        setTyped(null);
      }}
      onKeyDown={(e) => {
        if (e.key === 'Enter') e.currentTarget.blur();
        else if (e.key === 'Escape') setTyped(null);
      }}
    />
  );
}
