import { useQuery, useQueryClient } from '@tanstack/react-query';
import { type RefCallback, useCallback, useMemo, useState } from 'react';
import { rateLabel } from '../../../core/time';
import { call } from '../../data/http';
import type { ClipView, ProjectRow, ProjectView } from '../../data/views';
import type { Batch } from '../../data/uploads';
import { Island, useProject } from '../../data/queries';
import { DropZone } from '../../components/DropZone';
import { Notice } from '../../components/Head';
import { useAppliedLookPictures } from '../../components/useAppliedLookPictures';
import { NewProjectForm } from './NewProjectForm';
import { type Proposed, proposedFrom } from './proposed-frame';

/** The list of projects, as an island. */
export const Projects = () => (
  <Island>
    <Place />
  </Island>
);

/** Interval between attempts after a failure, ms. */
const AGAIN = 2000;

function Place() {
  const { data: all, error } = useQuery({
    queryKey: ['projects'],
    queryFn: () => call<ProjectRow[]>('GET', '/api/projects'),
    // Until the server or its database is available again.
    refetchInterval: (q) => (q.state.error ? AGAIN : false),
  });
  const queries = useQueryClient();
  const [trouble, setTrouble] = useState<string | null>(null);
  const [begun, setBegun] = useState<{
    readonly batches: readonly Batch[];
    readonly proposed: Proposed | undefined;
    readonly key: number;
  } | null>(null);
  const begin = async (batches: readonly Batch[]) =>
    setBegun({ batches, proposed: await proposedFrom(batches), key: Date.now() });
  const act = (work: Promise<unknown>) =>
    void work.then(
      () => queries.invalidateQueries({ queryKey: ['projects'] }),
      (e: Error) => setTrouble(e.message),
    );
  const there = all?.filter((p) => !p.removed) ?? [],
    removed = all?.filter((p) => p.removed) ?? [];
  return (
    <DropZone
      className="h-screen scrolls"
      words="Drop footage to begin a project with it"
      onDropped={(batches) => void begin(batches)}
      onTrouble={setTrouble}
    >
      <Notice text={trouble ?? error?.message ?? null} onClose={() => setTrouble(null)} />
      <main className="mx-auto max-w-[1120px] px-10 py-8 flex flex-col gap-6">
        <header className="flex items-end gap-3">
          <div className="mr-auto">
            <h1 className="text-xl font-semibold">Wabisabi</h1>
            <p className="quiet">One look, held over every clip of a video.</p>
          </div>
          {all && !begun && there.length > 0 && (
            <>
              <span className="quiet">drop footage anywhere here, or</span>
              <button
                className="word main"
                onClick={() => setBegun({ batches: [], proposed: undefined, key: 0 })}
              >
                New project
              </button>
            </>
          )}
        </header>
        {all && (begun || there.length === 0) && (
          <NewProjectForm
            key={begun?.key ?? 0}
            batches={begun?.batches ?? []}
            proposed={begun?.proposed}
            onLeave={() => setBegun(null)}
          />
        )}
        {all && there.length === 0 && !begun && (
          <p className="quiet text-center py-10">
            No projects yet: name one above, or drop its footage here.
          </p>
        )}
        <ul
          aria-label="Projects"
          className="grid grid-cols-[repeat(auto-fill,minmax(420px,1fr))] gap-x-6 gap-y-8"
        >
          {there.map((p) => (
            <Card key={p.id} row={p} act={act} />
          ))}
        </ul>
        {removed.length > 0 && (
          <section aria-label="Removed projects" className="border-t line pt-3">
            <h2 className="quiet mb-1">removed</h2>
            <ul>
              {removed.map((p) => (
                <li key={p.id} className="flex items-center gap-2">
                  <span>{p.name}</span>
                  <button
                    className="word"
                    onClick={() => act(call('PATCH', `/api/projects/${p.id}`, { removed: false }))}
                  >
                    put {p.name} back
                  </button>
                </li>
              ))}
            </ul>
          </section>
        )}
      </main>
    </DropZone>
  );
}

interface CardProps {
  readonly row: ProjectRow;
  readonly act: (work: Promise<unknown>) => void;
}

const ago = (iso: string): string => {
  const minutes = (Date.now() - new Date(iso).getTime()) / 60_000;
  const words = new Intl.RelativeTimeFormat('en', { numeric: 'auto' });
  if (minutes < 60) return minutes < 2 ? 'just now' : words.format(-Math.round(minutes), 'minute');
  return minutes < 1440
    ? words.format(-Math.round(minutes / 60), 'hour')
    : words.format(-Math.round(minutes / 1440), 'day');
};

function Card({ row, act }: CardProps) {
  const [name, setName] = useState<string | null>(null);
  const address = `/p/${row.id}/${row.clips > 0 ? 'bench' : 'rushes'}`;
  const rename = () => {
    const to = name?.trim();
    setName(null);
    if (to && to !== row.name) act(call('PATCH', `/api/projects/${row.id}`, { name: to }));
  };
  return (
    <li data-project={row.name} className="flex flex-col gap-1.5">
      <a href={address} aria-label={`Open ${row.name}`} className="block outline-offset-2">
        <Four row={row} />
      </a>
      <div className="flex items-baseline gap-2">
        {name === null ? (
          <a href={address} className="font-semibold truncate hover:underline">
            {row.name}
          </a>
        ) : (
          <input
            className="field min-w-0"
            aria-label={`New name of ${row.name}`}
            maxLength={80}
            autoFocus
            value={name}
            onChange={(e) => setName(e.target.value)}
            onBlur={rename}
            onKeyDown={(e) => {
              if (e.key === 'Enter') e.currentTarget.blur();
              if (e.key === 'Escape') setName(null);
            }}
          />
        )}
        <span className="quiet ml-auto whitespace-nowrap">{ago(row.touched)}</span>
      </div>
      <div className="flex items-center gap-1">
        <span className="num quiet mr-auto whitespace-nowrap">
          {row.clips} clip{row.clips === 1 ? '' : 's'} · {row.width}×{row.height} ·{' '}
          {rateLabel([row.rateNum, row.rateDen])}
        </span>
        <button className="word quiet" onClick={() => setName(row.name)}>
          rename
        </button>
        <button
          className="word quiet"
          onClick={() => act(call('POST', `/api/projects/${row.id}/copy`))}
        >
          duplicate
        </button>
        <button
          className="word quiet"
          title="It can be put back from the foot of this page"
          onClick={() => act(call('PATCH', `/api/projects/${row.id}`, { removed: true }))}
        >
          remove
        </button>
      </div>
    </li>
  );
}

const NOTHING: readonly ClipView[] = [];
/** Four clips: those with looks first, one per look. */
function fourOf(clips: readonly ClipView[]): ClipView[] {
  const withLook = clips.filter(
    (c, i) => c.look && clips.findIndex((o) => o.look?.lookId === c.look!.lookId) === i,
  );
  return [...withLook, ...clips.filter((c) => !withLook.includes(c))].slice(0, 4);
}

/** True once an element has been visible. */
function useSeen(): readonly [boolean, RefCallback<HTMLElement>] {
  const [seen, setSeen] = useState(false);
  const watch = useCallback((e: HTMLElement | null) => {
    if (!e) return;
    const observer = new IntersectionObserver((all) => {
      if (all.some((x) => x.isIntersecting)) setSeen(true);
    });
    observer.observe(e);
    return () => observer.disconnect();
  }, []);
  return [seen, watch];
}

/** A project as four of its clips under their looks, once visible. */
function Four({ row }: Pick<CardProps, 'row'>) {
  const [seen, watch] = useSeen();
  const { data } = useProject(row.id, seen && row.clips > 0);
  return (
    <span
      ref={watch}
      className="grid grid-cols-2 grid-rows-2 gap-px bg-base-100"
      style={{ aspectRatio: `${row.width}/${row.height}` }}
    >
      {data ? (
        <Pictures project={data} />
      ) : (
        <span className="col-span-2 row-span-2 bg-base-300 grid place-items-center quiet">
          {row.clips > 0 ? '' : 'no footage yet'}
        </span>
      )}
    </span>
  );
}

function Pictures({ project }: { readonly project: ProjectView }) {
  const four = useMemo(() => fourOf(project.clips ?? NOTHING), [project.clips]);
  const pictures = useAppliedLookPictures(project, four);
  return four.map((c) => (
    <span key={c.id} className="bg-base-300 min-h-0">
      {pictures.get(c.id) && (
        <img
          src={pictures.get(c.id)}
          alt={c.look ? `${c.name} under ${c.look.name}` : c.name}
          className="w-full h-full object-cover"
        />
      )}
    </span>
  ));
}
