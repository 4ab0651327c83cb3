import { useEffect, useEffectEvent, useState } from 'react';
import { type Flag, FLAG_WORDS, flagMuch, type LookDocument } from '../../../core';
import { call } from '../../data/http';
import type { ClipView, ProjectView } from '../../data/views';
import { pinTroubles } from '../../domain/pins';
import { isAccepted, isMeant, openFlags } from './flags';

interface Props {
  readonly project: ProjectView;
  /** The chosen clips, or all if none is chosen. */
  readonly clips: readonly ClipView[];
  readonly documentOf: (c: ClipView) => LookDocument | null;
  readonly onAccept: (c: ClipView, kind: Flag['kind'], reason: string | null) => void;
  readonly onTrouble: (text: string) => void;
  readonly onClose: () => void;
}

const underWay = (c: ClipView): boolean =>
  c.inspection?.state === 'waiting' || c.inspection?.state === 'running';
const isKnown = (c: ClipView): boolean => c.inspection?.current === true;

/**
 * Inspection flags of each clip under its look. Inspection runs in the background while this is
 * open.
 */
export function FlagsPanel({ project, clips, documentOf, onAccept, onTrouble, onClose }: Props) {
  const all = project.clips;
  const inspect = (again: boolean) =>
    void call('POST', `/api/projects/${project.id}/inspections`, {
      clips: all.map((c) => c.id),
      again,
    }).catch((e: Error) => onTrouble(e.message));
  const stale = all.filter((c) => !isKnown(c)).length;
  const inspectStale = useEffectEvent(() => inspect(false));
  useEffect(() => {
    if (stale > 0) inspectStale();
  }, [project.id, stale]);
  const waiting = all.filter(underWay).length,
    stopped = all.filter(
      (c) => c.inspection?.state === 'cancelled' || c.inspection?.state === 'failed',
    ).length;
  const kinds = clips.map((c) => new Set(openFlags(c).map((f) => f.kind)).size);
  return (
    <aside
      aria-label="Flags"
      className="w-[340px] flex-none border-l line bg-base-200 flex flex-col min-h-0"
    >
      <div className="flex items-center px-3 h-9 border-b line flex-none gap-2">
        <h2 className="font-semibold">Flags</h2>
        <span className="num quiet mr-auto">{kinds.reduce((a, b) => a + b, 0)}</span>
        <button className="word" onClick={onClose}>
          close
        </button>
      </div>
      {waiting > 0 && (
        <p role="status" className="px-3 py-1.5 border-b line flex items-center gap-2">
          inspecting: {all.length - waiting} of {all.length} clips are done
          <button
            className="word framed ml-auto"
            onClick={() =>
              void call('DELETE', `/api/projects/${project.id}/inspections`).catch((e: Error) =>
                onTrouble(e.message),
              )
            }
          >
            stop
          </button>
        </p>
      )}
      {waiting === 0 && stopped > 0 && (
        <p role="status" className="px-3 py-1.5 border-b line flex items-center gap-2">
          {stopped} clip{stopped === 1 ? ' was' : 's were'} not inspected to the end
          <button className="word framed ml-auto" onClick={() => inspect(true)}>
            inspect
          </button>
        </p>
      )}
      <ul className="flex-1 scrolls min-h-0">
        {clips.map((c) => (
          <li
            key={c.id}
            className="px-3 py-2 border-b line"
            data-flags={c.name}
            data-state={isKnown(c) ? c.inspection!.state : 'waiting'}
          >
            <div className="flex gap-2">
              <span className="font-medium truncate mr-auto">{c.name}</span>
              <span className="quiet">{stateOf(c)}</span>
            </div>
            <ul>
              {documentOf(c) &&
                pinTroubles(documentOf(c)!, c, project).map((trouble) => (
                  <li key={trouble} className="py-1">
                    {trouble}
                  </li>
                ))}
              {c.inspection?.flags.map((f) => (
                <FlagRow
                  key={`${f.kind} ${f.first}`}
                  project={project.id}
                  clip={c}
                  flag={f}
                  onAccept={(reason) => onAccept(c, f.kind, reason)}
                />
              ))}
            </ul>
          </li>
        ))}
        {clips.length === 0 && <li className="p-3 quiet">There are no clips to inspect yet.</li>}
      </ul>
    </aside>
  );
}

function stateOf(c: ClipView): string {
  const i = c.inspection;
  if (!i) return 'not inspected yet';
  if (i.state === 'running') return `${Math.round(i.progress * 100)} %`;
  if (i.state === 'waiting') return 'waiting';
  if (i.state === 'failed') return `failed: ${i.error}`;
  if (i.state === 'cancelled') return 'stopped';
  if (!i.current) return 'changed since';
  return i.flags.length === 0 ? 'nothing to flag' : '';
}

interface RowProps {
  readonly project: string;
  readonly clip: ClipView;
  readonly flag: Flag;
  readonly onAccept: (reason: string | null) => void;
}

function FlagRow({ project, clip, flag, onAccept }: RowProps) {
  const [asking, setAsking] = useState(false);
  const accepted = isAccepted(clip, flag),
    meant = !accepted && isMeant(clip, flag);
  return (
    <li className={`py-1 ${accepted || meant ? 'quiet' : ''}`} data-flag={flag.kind}>
      <div className="flex items-baseline gap-2">
        <a
          className="underline decoration-dotted"
          title="Opens the Bench at its first frame"
          href={`/p/${project}/bench?clip=${clip.id}&frame=${flag.first}`}
        >
          {FLAG_WORDS[flag.kind]}
        </a>
        <span className="num quiet">
          {flag.first === flag.last ? flag.first : `${flag.first}–${flag.last}`}
        </span>
        <span className="ml-auto">
          {meant ? null : accepted ? (
            <button className="word quiet" onClick={() => onAccept(null)}>
              take back
            </button>
          ) : (
            <button
              className="word quiet"
              aria-expanded={asking}
              onClick={() => setAsking(!asking)}
            >
              accept …
            </button>
          )}
        </span>
      </div>
      <p className="num quiet">
        {accepted
          ? `accepted: ${clip.accepted[flag.kind]!.reason}`
          : meant
            ? `meant by ${clip.look!.name}: ${flagMuch(flag)}`
            : flagMuch(flag)}
      </p>
      {asking && !accepted && (
        <form
          className="flex gap-1 pt-1"
          onSubmit={(e) => {
            e.preventDefault();
            const reason = new FormData(e.currentTarget).get('reason') as string;
            setAsking(false);
            onAccept(reason.trim());
          }}
        >
          <input
            name="reason"
            className="field flex-1 min-w-0"
            aria-label={`Why ${FLAG_WORDS[flag.kind]} is meant`}
            placeholder="why it is meant"
            required
            pattern=".*\S.*"
            maxLength={300}
            autoFocus
          />
          <button className="word framed">accept</button>
        </form>
      )}
    </li>
  );
}
