import { useEffect, useState } from 'react';
import type { ClipView, LookView } from '../../api/views';
import { STATUSES, type Status } from './arrange';

interface Props {
  readonly all: number;
  readonly chosen: readonly ClipView[];
  readonly looks: readonly LookView[];
  readonly onAll: () => void;
  readonly onAssign: (version: string | null) => void;
  readonly onStatus: (s: Status) => void;
  readonly onNote: (note: string) => void;
}

/** What is done to the clips that are chosen. */
export function ForChosen({ all, chosen, looks, onAll, onAssign, onStatus, onNote }: Props) {
  const none = chosen.length === 0;
  const same = <T,>(of: (c: ClipView) => T): T | undefined => (!none && chosen.every((c) => of(c) === of(chosen[0]!)) ? of(chosen[0]!) : undefined);
  const note = same((c) => c.note) ?? '';
  const [typed, setTyped] = useState(note);
  useEffect(() => setTyped(note), [note, chosen.map((c) => c.id).join()]);
  return (
    <>
      <button className="word" onClick={onAll}>
        {chosen.length === all && all > 0 ? 'choose none' : 'choose all'}
      </button>
      <span className="num quiet">{chosen.length} chosen</span>
      <select
        className="field w-40"
        aria-label="Assign a look to the chosen clips"
        value=""
        disabled={none}
        onChange={(e) => onAssign(e.target.value === '-' ? null : e.target.value)}
      >
        <option value="" disabled>
          assign a look …
        </option>
        {looks.map((l) => (
          <optgroup key={l.id} label={l.name}>
            {l.versions.map((v, i) => (
              <option key={v.id} value={v.id}>
                {l.name} v{v.number}
                {i === 0 ? ' (newest)' : ''}
              </option>
            ))}
          </optgroup>
        ))}
        <option value="-">no look</option>
      </select>
      <select
        className="field w-28"
        aria-label="Status of the chosen clips"
        value={same((c) => c.status) ?? ''}
        disabled={none}
        onChange={(e) => onStatus(e.target.value as Status)}
      >
        <option value="" disabled>
          status …
        </option>
        {STATUSES.map((s) => (
          <option key={s} value={s}>
            {s}
          </option>
        ))}
      </select>
      <input
        className="field w-56"
        aria-label="Note on the chosen clips"
        placeholder={none ? 'choose clips to note something' : 'note'}
        maxLength={500}
        disabled={none}
        value={typed}
        onChange={(e) => setTyped(e.target.value)}
        onBlur={() => {
          if (typed !== note) onNote(typed);
        }}
        onKeyDown={(e) => {
          if (e.key === 'Enter') e.currentTarget.blur();
          else if (e.key === 'Escape') setTyped(note);
        }}
      />
    </>
  );
}
