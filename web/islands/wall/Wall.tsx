import { useQueries, useQueryClient } from '@tanstack/react-query';
import { useEffect, useMemo, useState, useSyncExternalStore } from 'react';
import { useHotkeys } from 'react-hotkeys-hook';
import type { Balance } from '../../../core';
import { call } from '../../api/client';
import type { ClipView, ProjectView, VersionView } from '../../api/views';
import { EngineClient } from '../../engine/client';
import { Picture } from '../../engine/Picture';
import type { View } from '../../engine/protocol';
import { sized } from '../bench/useViews';
import { Away, Island, useLooks, useNews, useProject, versionQuery } from '../shared/data';
import { Head, Notice } from '../shared/Head';
import { rateLabel } from '../shared/words';
import { arranged, frameAt, type Order, ORDERS, type Playhead, PLAYHEADS, type Status } from './arrange';
import { BalancePanel } from './BalancePanel';
import { ForChosen } from './ForChosen';
import { FIRST_WISH, proposals } from './balancing';
import { SpreadPanel } from './SpreadPanel';
import { type Stage, STAGES, traitView } from './stages';

export const Wall = ({ project }: { project: string }) => (
  <Island>
    <Door project={project} />
  </Island>
);

function Door({ project }: { project: string }) {
  const { data, error } = useProject(project);
  const away = useNews(project);
  if (!data) return <p className="p-6">{error?.message ?? 'Opening …'}</p>;
  return <Place project={data} away={away} />;
}

/** What keeps the engine from showing a tile. */
function EngineTrouble({ engine }: { engine: EngineClient }) {
  const { trouble } = useSyncExternalStore(
    (f) => engine.onStatus(f),
    () => engine.status,
  );
  return trouble ? <span role="alert">{trouble}</span> : null;
}

const SIZES = [
  ['small', 170],
  ['medium', 260],
  ['large', 420],
] as const;

interface Change {
  readonly clip: string;
  readonly balance: Balance | null;
  readonly was: Balance | null;
}

function Place({ project, away }: { project: ProjectView; away: boolean }) {
  const engine = useMemo(() => new EngineClient('bt709'), []);
  useEffect(() => () => engine.close(), [engine]);
  const queries = useQueryClient();
  const looks = useLooks();
  const wanted = [...new Set(project.clips.flatMap((c) => (c.look ? [c.look.versionId] : [])))];
  const versions = useQueries({ queries: wanted.map((id) => versionQuery(id)) });
  const documents = new Map(versions.flatMap((v) => (v.data ? [[v.data.id, v.data] as [string, VersionView]] : [])));
  const ready = documents.size === wanted.length;
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const [last, setLast] = useState<string | null>(null);
  const [size, setSize] = useState(1);
  const [shows, setShows] = useState<Stage>('look');
  const [balancing, setBalancing] = useState(false),
    [held, setHeld] = useState(false),
    [spread, setSpread] = useState(false);
  const [order, setOrder] = useState<Order>('as shot in'),
    [playhead, setPlayhead] = useState<Playhead>('middle');
  const shown = useMemo(() => arranged(project.clips, order), [project.clips, order]);
  const [wish, setWish] = useState(FIRST_WISH);
  const [past, setPast] = useState<readonly (readonly Change[])[]>([]);
  const proposed = useMemo(() => (balancing ? proposals(project.clips, chosen, wish) : []), [balancing, project.clips, chosen, wish]);
  const [trouble, setTrouble] = useState<string | null>(null);

  useEffect(() => {
    if (!ready) return;
    const coming = new Map(held ? [] : proposed.map((p) => [p.clip.id, p.balance]));
    engine.clips(project.clips.map((c) => (coming.has(c.id) ? { ...c, balance: coming.get(c.id)! } : c)));
    const [width, height] = sized(project, 270);
    const shot = (c: ClipView, stage: Stage) => ({
      clip: c.id,
      frame: frameAt(c, playhead),
      look: stage !== 'look' || !c.look ? null : documents.get(c.look.versionId)!.document,
      from: 270 as const,
      asShot: stage === 'shot',
    });
    const tiles = project.clips.map((c): View => ({ ...shot(c, shows), id: `tile:${c.id}`, width, height }));
    const [w, h] = sized(project, 135);
    const measured = project.clips.flatMap((c) =>
      STAGES.map(([stage]): View => ({ ...shot(c, stage), id: traitView(stage, c.id), width: w, height: h, traits: true })),
    );
    engine.request(spread ? [...tiles, ...measured] : tiles);
    // The documents never change; the clips say which of them are worn.
  }, [engine, project, shows, ready, proposed, held, spread, playhead]);

  const choose = (clip: ClipView, e: { shiftKey: boolean; ctrlKey: boolean; metaKey: boolean }) => {
    const ids = shown.map((c) => c.id);
    if (e.shiftKey && last) {
      const [a, b] = [ids.indexOf(last), ids.indexOf(clip.id)].sort((x, y) => x - y) as [number, number];
      return setChosen(new Set([...chosen, ...ids.slice(a, b + 1)]));
    }
    setLast(clip.id);
    if (e.ctrlKey || e.metaKey) {
      const n = new Set(chosen);
      if (!n.delete(clip.id)) n.add(clip.id);
      return setChosen(n);
    }
    setChosen(chosen.size === 1 && chosen.has(clip.id) ? new Set() : new Set([clip.id]));
  };
  useHotkeys(
    'mod+a',
    (e) => {
      e.preventDefault();
      setChosen(new Set(project.clips.map((c) => c.id)));
    },
    [project.clips],
  );
  useHotkeys('escape', () => setChosen(new Set()));
  const some = shown.filter((c) => chosen.has(c.id));
  const change = (to: { status: Status } | { note: string }) =>
    Promise.all(some.map((c) => call('PATCH', `/api/clips/${c.id}`, to)))
      .then(() => queries.invalidateQueries({ queryKey: ['project', project.id] }))
      .catch((e: Error) => setTrouble(e.message));
  const assign = (version: string | null) =>
    call('POST', `/api/projects/${project.id}/assign`, { clips: [...chosen], version }).catch((e: Error) => setTrouble(e.message));

  /** Sets balances; what they replace can be put back. */
  const rebalance = async (changes: readonly Change[], undoing = false) => {
    try {
      await call('POST', `/api/projects/${project.id}/balance`, { clips: changes });
      setPast((p) => (undoing ? p.slice(0, -1) : [...p, changes]));
      await queries.invalidateQueries({ queryKey: ['project', project.id] });
    } catch (e) {
      setTrouble((e as Error).message);
    }
  };
  const undo = () => {
    const last = past.at(-1);
    if (last)
      void rebalance(
        last.map(({ clip, balance, was }) => ({ clip, balance: was, was: balance })),
        true,
      );
  };

  return (
    <>
      <Head
        title={
          <>
            {project.name} <span className="quiet font-normal">· Wall</span>
          </>
        }
      >
        <Away away={away} />
        <button className="word" disabled={past.length === 0} title={past.length > 0 ? 'Undo the last balance' : 'Nothing to undo'} onClick={undo}>
          undo{past.length > 0 && <span className="quiet">balance of {past.at(-1)!.length}</span>}
        </button>
        <span className="flex" role="group" aria-label="Tiles show">
          {STAGES.map(([id, label]) => (
            <button key={id} aria-pressed={shows === id} className={`word ${shows === id ? 'framed' : ''}`} onClick={() => setShows(id)}>
              {label}
            </button>
          ))}
        </span>
        <span className="flex" role="group" aria-label="Tile size">
          {SIZES.map(([label], i) => (
            <button key={label} aria-pressed={size === i} className={`word ${size === i ? 'framed' : ''}`} onClick={() => setSize(i)}>
              {label}
            </button>
          ))}
        </span>
        <span className="w-px h-5 bg-current opacity-15" />
        <EngineTrouble engine={engine} />
        <button className={`word ${spread ? 'framed' : ''}`} aria-pressed={spread} onClick={() => setSpread(!spread)}>
          spread
        </button>
        <button
          className={`word ${balancing ? 'framed' : ''}`}
          aria-pressed={balancing}
          onClick={() => {
            setBalancing(!balancing);
            if (shows === 'shot') setShows('balanced');
          }}
        >
          balance
        </button>
      </Head>
      <div className="flex-none h-10 flex items-center gap-2 px-4 border-b line bg-base-200">
        <ForChosen
          all={project.clips.length}
          chosen={some}
          looks={looks.data ?? []}
          onAll={() => setChosen(some.length === project.clips.length ? new Set() : new Set(project.clips.map((c) => c.id)))}
          onAssign={(version) => void assign(version)}
          onStatus={(status) => void change({ status })}
          onNote={(note) => void change({ note })}
        />
        <span className="flex ml-auto" role="group" aria-label="Tiles stand at the">
          {PLAYHEADS.map((at) => (
            <button key={at} aria-pressed={playhead === at} className={`word ${playhead === at ? 'framed' : ''}`} onClick={() => setPlayhead(at)}>
              {at}
            </button>
          ))}
        </span>
        <label className="flex items-center gap-2">
          <span className="quiet">sorted</span>
          <select className="field" value={order} onChange={(e) => setOrder(e.target.value as Order)}>
            {ORDERS.map((o) => (
              <option key={o} value={o}>
                {o}
              </option>
            ))}
          </select>
        </label>
      </div>
      <Notice text={trouble} onClose={() => setTrouble(null)} />
      <div className="flex-1 min-h-0 flex">
        <ul
          className="flex-1 scrolls p-4 grid gap-3 content-start"
          style={{ gridTemplateColumns: `repeat(auto-fill, minmax(${SIZES[size]![1]}px, 1fr))` }}
        >
          {shown.map((c) => (
            <li key={c.id}>
              <button
                onClick={(e) => choose(c, e)}
                aria-pressed={chosen.has(c.id)}
                data-clip={c.name}
                title={c.note || undefined}
                className={`block w-full text-left rounded-sm bg-base-200 border ${chosen.has(c.id) ? 'border-primary' : 'line'}`}
              >
                <span className="block bg-base-300" style={{ aspectRatio: `${project.width}/${project.height}` }}>
                  <Picture
                    engine={engine}
                    view={`tile:${c.id}`}
                    label={`${c.name} under ${c.look?.name ?? 'no look'}`}
                    className="w-full h-full object-contain"
                  />
                </span>
                <span className="flex gap-2 px-2 py-1.5">
                  <span className="truncate font-medium flex-1">
                    {chosen.has(c.id) && (
                      <span aria-hidden="true" className="text-primary">
                        ●{' '}
                      </span>
                    )}
                    {c.name}
                  </span>
                  {c.status !== 'open' && <span className="quiet whitespace-nowrap">{c.status}</span>}
                  {c.balance && <span className="quiet">balanced</span>}
                  <span className="quiet truncate">{c.look ? `${c.look.name} v${c.look.number}` : 'no look'}</span>
                  <span className="num quiet self-center">{rateLabel(c.rate)}</span>
                </span>
              </button>
            </li>
          ))}
          {project.clips.length === 0 && (
            <li className="col-span-full py-16 text-center quiet">
              No clips yet: bring footage in on{' '}
              <a className="underline" href={`/p/${project.id}/rushes`}>
                Rushes
              </a>
              .
            </li>
          )}
        </ul>
        {balancing && (
          <BalancePanel
            project={project}
            chosen={some}
            wish={wish}
            onWish={setWish}
            proposed={proposed}
            onApply={() => void rebalance(proposed.map(({ clip, balance }) => ({ clip: clip.id, balance, was: clip.balance })))}
            onTakeOff={() =>
              void rebalance(project.clips.filter((c) => chosen.has(c.id) && c.balance).map((c) => ({ clip: c.id, balance: null, was: c.balance })))
            }
            onHold={setHeld}
            onClose={() => setBalancing(false)}
          />
        )}
      </div>
      {spread && project.clips.length > 0 && (
        <SpreadPanel
          engine={engine}
          clips={project.clips}
          onOpen={(clip) => {
            location.href = `/p/${project.id}/bench?clip=${clip}`;
          }}
        />
      )}
    </>
  );
}
