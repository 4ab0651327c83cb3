import { useQueries, useQueryClient } from '@tanstack/react-query';
import { useEffect, useMemo, useRef, useState } from 'react';
import { changesBetween, type LookDocument } from '../../../core';
import { call, type Refused } from '../../data/http';
import type { ClipView, LookView, ProjectView, VersionView } from '../../data/views';
import { dataOf, versionQuery } from '../../data/queries';
import { type LookPicture, useLookPictures } from '../../components/useLookPictures';
import { useBench } from './context';

interface Props {
  readonly look: LookView;
  readonly project: ProjectView;
  readonly hero: ClipView;
  readonly onCompare: (version: string) => void;
  readonly onClose: () => void;
}

/** Versions shown at first, and with each press. */
const PAGE = 12;
/** Most changes listed per version; further ones are counted. */
const MOST = 8;

/**
 * A look's versions, each shown on the hero with its changes. One can be applied as an undoable
 * change. One that no clip wears can be removed and restored.
 */
export function Versions({ look, project, hero, onCompare, onClose }: Props) {
  const dialog = useRef<HTMLDialogElement>(null);
  useEffect(() => dialog.current?.showModal(), []);
  const now = useBench((s) => s.look),
    opened = useBench((s) => s.opened),
    change = useBench((s) => s.change);
  const [most, setMost] = useState(PAGE);
  const shown = look.versions.slice(0, most);
  // One more: changes are told from the version before.
  const versions = useQueries({
    queries: look.versions.slice(0, most + 1).map((v) => versionQuery(v.id)),
    combine: dataOf,
  });
  const wanted = useMemo(
    () =>
      versions.slice(0, most).map((v): LookPicture => ({ id: v.id, clip: hero, look: v.document })),
    [versions, hero, most],
  );
  const pictures = useLookPictures(project, wanted);
  const since = (v: VersionView): VersionView | undefined =>
    versions.find((o) => o.number < v.number);
  const newest = versions.find((v) => v.number === opened.number);
  const unsaved = newest ? changesBetween(newest.document, now) : [];
  const queries = useQueryClient(),
    [trouble, setTrouble] = useState<string | null>(null);
  const remove = async (id: string, removed: boolean) => {
    setTrouble(null);
    try {
      await call('PATCH', `/api/versions/${id}`, { removed });
      await queries.invalidateQueries({ queryKey: ['looks'] });
    } catch (e) {
      setTrouble((e as Refused).message);
    }
  };
  const takeUp = (v: VersionView) => {
    change(`take up v${v.number}`, v.document);
    onClose();
  };
  return (
    <dialog
      ref={dialog}
      aria-label={`Versions of ${look.name}`}
      onClose={onClose}
      className="m-auto bg-base-100 text-base-content border line rounded w-[760px] max-h-[86vh] backdrop:bg-black/50 flex-col open:flex"
    >
      <header className="px-5 py-3 border-b line flex items-baseline">
        <h2 className="font-semibold mr-auto">Versions of {look.name}</h2>
        <button className="word" onClick={onClose}>
          close <span className="num quiet">Esc</span>
        </button>
      </header>
      {trouble && (
        <p role="alert" className="px-5 py-2 border-b line text-warning">
          {trouble}
        </p>
      )}
      <ul className="flex-1 min-h-0 scrolls px-5 py-3 flex flex-col gap-4">
        {unsaved.length > 0 && (
          <li className="grid grid-cols-[200px_1fr] gap-4">
            <span className="font-medium">not saved yet</span>
            <Changes all={unsaved} />
          </li>
        )}
        {versions.slice(0, most).map((v) => (
          <Version
            key={v.id}
            version={v}
            made={look.versions.find((o) => o.id === v.id)?.created ?? ''}
            isOpen={v.number === opened.number}
            onRemove={() => void remove(v.id, true)}
            url={pictures.get(v.id)}
            shape={`${project.width}/${project.height}`}
            changes={since(v) ? changesBetween(since(v)!.document, v.document) : null}
            isNow={sameLook(v.document, now)}
            appliedTo={project.clips.filter((c) => c.look?.versionId === v.id).map((c) => c.name)}
            onTakeUp={() => takeUp(v)}
            onCompare={() => {
              onCompare(v.id);
              onClose();
            }}
          />
        ))}
        {shown.length < look.versions.length && (
          <li>
            <button className="word framed" onClick={() => setMost(most + PAGE)}>
              {Math.min(PAGE, look.versions.length - shown.length)} earlier of{' '}
              {look.versions.length}
            </button>
          </li>
        )}
        {look.removed.length > 0 && (
          <li className="grid grid-cols-[200px_1fr] gap-4" aria-label="Removed versions">
            <span className="quiet">removed</span>
            <ul className="flex flex-wrap gap-x-4">
              {look.removed.map((v) => (
                <li key={v.id} className="flex items-baseline gap-1">
                  v{v.number}
                  <button className="word" onClick={() => void remove(v.id, false)}>
                    put back
                  </button>
                </li>
              ))}
            </ul>
          </li>
        )}
      </ul>
    </dialog>
  );
}
const sameLook = (a: LookDocument, b: LookDocument): boolean =>
  JSON.stringify(a) === JSON.stringify(b);

const Changes = ({ all }: { readonly all: readonly string[] }) => (
  <ul className="quiet">
    {all.slice(0, MOST).map((c, i) => (
      <li key={i}>{c}</li>
    ))}
    {all.length > MOST && <li>and {all.length - MOST} more</li>}
  </ul>
);

interface VersionProps {
  readonly version: VersionView;
  readonly made: string;
  readonly url: string | undefined;
  readonly shape: string;
  /** Changes since the previous version; null for the first. */
  readonly changes: readonly string[] | null;
  readonly isNow: boolean;
  readonly appliedTo: readonly string[];
  /** Whether it is the version on the Bench, which cannot be removed. */
  readonly isOpen: boolean;
  readonly onRemove: () => void;
  readonly onTakeUp: () => void;
  readonly onCompare: () => void;
}

function Version({
  version,
  made,
  url,
  shape,
  changes,
  isNow,
  appliedTo,
  isOpen,
  onRemove,
  onTakeUp,
  onCompare,
}: VersionProps) {
  return (
    <li className="grid grid-cols-[200px_1fr] gap-4" data-version={version.number}>
      <span className="block bg-base-300" style={{ aspectRatio: shape }}>
        {url && (
          <img
            src={url}
            alt={`version ${version.number} on the hero`}
            className="w-full h-full object-contain"
          />
        )}
      </span>
      <div>
        <div className="flex items-baseline gap-2">
          <span className="font-medium">v{version.number}</span>
          <span className="num quiet mr-auto">
            {new Date(made).toLocaleString('en-GB', {
              day: 'numeric',
              month: 'short',
              hour: '2-digit',
              minute: '2-digit',
            })}
          </span>
          <button
            className="word quiet"
            disabled={isOpen || appliedTo.length > 0}
            title={
              isOpen
                ? 'It is open on the Bench'
                : appliedTo.length > 0
                  ? `It is on ${appliedTo.join(', ')}`
                  : 'It can be put back'
            }
            onClick={onRemove}
          >
            remove
          </button>
          <button className="word" onClick={onCompare}>
            compare
          </button>
          <button
            className="word framed"
            disabled={isNow}
            title={isNow ? 'It is what stands on the Bench' : 'As a change that can be undone'}
            onClick={onTakeUp}
          >
            take up
          </button>
        </div>
        {appliedTo.length > 0 && <p className="quiet">on {appliedTo.join(', ')}</p>}
        {changes === null ? (
          <p className="quiet">the first</p>
        ) : changes.length === 0 ? (
          <p className="quiet">nothing changed</p>
        ) : (
          <Changes all={changes} />
        )}
      </div>
    </li>
  );
}
