import { useState } from 'react';
import { call } from '../../data/http';
import { type Batch, batchesIn } from '../../data/uploads';
import { Choice } from '../../components/Choice';
import { FRAMES, type Proposed, RATES } from './proposed-frame';

interface Props {
  /** Dropped footage, to be imported into the new project. */
  readonly batches: readonly Batch[];
  readonly proposed: Proposed | undefined;
  readonly onLeave: () => void;
}

/** The name and frame of a new project: size, shape and rate. */
export function NewProjectForm({ batches, proposed, onLeave }: Props) {
  const [error, setError] = useState<string | null>(null);
  const [sending, setSending] = useState<{ readonly name: string; readonly share: number } | null>(
    null,
  );
  const make = async (filled: FormData) => {
    try {
      const [, width, height] = FRAMES[Number(filled.get('frame'))]!,
        [, rateNum, rateDen] = RATES[Number(filled.get('rate'))]!;
      const name = String(filled.get('name')).trim();
      const { id } = await call<{ id: string }>('POST', '/api/projects', {
        name,
        width,
        height,
        rateNum,
        rateDen,
      });
      const refused = await batchesIn(id, batches, (sent, share) =>
        setSending({ name: sent, share }),
      );
      if (refused.length > 0 && refused.length === batches.length)
        setError(`${refused.join('; ')}. The project ${name} is there without them.`);
      else location.href = `/p/${id}/rushes`;
    } catch (e) {
      setError((e as Error).message);
    }
  };
  return (
    <form
      aria-label="New project"
      className="flex flex-wrap items-end gap-3 border line bg-base-200 p-4"
      onSubmit={(e) => {
        e.preventDefault();
        void make(new FormData(e.currentTarget));
      }}
    >
      <div className="w-full flex items-baseline gap-2">
        <h2 className="font-semibold">New project</h2>
        {batches.length > 0 && (
          <span className="quiet truncate">
            with {batches.map((b) => b.name).join(', ')}
            {proposed ? '; frame and rate as it has them' : ''}
          </span>
        )}
      </div>
      <label className="flex flex-col gap-1 flex-1 min-w-48">
        <span className="quiet">Name</span>
        <input className="field" name="name" maxLength={80} required autoFocus />
      </label>
      <label className="flex flex-col gap-1">
        <span className="quiet">Frame</span>
        <Choice className="field" name="frame" defaultValue={String(proposed?.frame ?? 0)}>
          {FRAMES.map(([l], i) => (
            <option key={l} value={i}>
              {l}
            </option>
          ))}
        </Choice>
      </label>
      <label className="flex flex-col gap-1">
        <span className="quiet">Frames a second</span>
        <Choice className="field" name="rate" defaultValue={String(proposed?.rate ?? 2)}>
          {RATES.map(([l], i) => (
            <option key={l} value={i}>
              {l}
            </option>
          ))}
        </Choice>
      </label>
      <button className="word main" type="submit" disabled={sending !== null}>
        Start
      </button>
      <button className="word" type="button" onClick={onLeave}>
        leave it
      </button>
      {sending && (
        <span className="w-full flex items-center gap-2">
          <progress
            className="bar flex-1"
            value={sending.share}
            aria-label={`Sending ${sending.name}`}
          />
          <span className="quiet">{sending.name}</span>
        </span>
      )}
      {error && (
        <p role="alert" className="w-full">
          {error}
        </p>
      )}
    </form>
  );
}
