import { framesPerSecond } from '../../../core/time';
import { Check } from 'lucide-react';
import { useRef, useState } from 'react';
import { call } from '../../data/http';
import type { DeliveryView, ItemView, ProjectView } from '../../data/views';
import { Choice } from '../../components/Choice';
import { Away, Island, useKiln, useEvents, useProject } from '../../data/queries';
import { Head, Notice } from '../../components/Head';
import { useAppliedLookPictures } from '../../components/useAppliedLookPictures';
import { bytes } from '../../domain/words';
import { Player } from './Player';

/** The Kiln, as an island. */
export const Kiln = ({ project }: { project: string }) => (
  <Island>
    <Place project={project} />
  </Island>
);

function Place({ project }: { project: string }) {
  const { data } = useProject(project);
  const kiln = useKiln(project);
  const away = useEvents(project);
  const [trouble, setTrouble] = useState<string | null>(null);
  const [playing, setPlaying] = useState<string | null>(null);
  const attempt = (work: Promise<unknown>) =>
    void work.then(
      () => kiln.refetch(),
      (e: Error) => setTrouble(e.message),
    );
  if (!data || !kiln.data) return <p className="p-6">{kiln.error?.message ?? 'Opening …'}</p>;
  const { workers, deliveries } = kiln.data;
  const all = deliveries.flatMap((d) => d.items);
  const played = all.find((i) => i.id === playing && i.state === 'done');
  const source =
    played && !played.retimed ? data.clips.find((c) => c.hash === played.hash) : undefined;
  return (
    <>
      <Head
        help="kiln"
        title={
          <>
            {data.name} <span className="quiet font-normal">· Kiln</span>
          </>
        }
      >
        <Away away={away} />
        <span className="num quiet">
          {workers === 0
            ? 'no worker is running: start one with npm run worker'
            : `${workers} worker${workers > 1 ? 's' : ''}`}
        </span>
      </Head>
      <Notice text={trouble} onClose={() => setTrouble(null)} />
      <div className="flex-1 min-h-0 flex">
        <Order
          project={data}
          onOrder={(wanted) => attempt(call('POST', `/api/projects/${project}/deliveries`, wanted))}
        />
        <section aria-label="Deliveries" className="flex-1 scrolls p-4 flex flex-col gap-5">
          {played && (
            <Player
              key={played.id}
              item={played}
              before={
                source && played
                  ? {
                      url: `/api/footage/${source.hash}/proxy-540.webm`,
                      first: played.first,
                      perSecond: framesPerSecond(played.rate),
                    }
                  : null
              }
              onClose={() => setPlaying(null)}
            />
          )}
          {deliveries.length === 0 && (
            <p className="py-16 text-center quiet">
              Nothing rendered yet. Choose clips on the left and press Render.
            </p>
          )}
          {deliveries.map((d) => (
            <Delivery
              key={d.id}
              delivery={d}
              playing={playing}
              onPlay={setPlaying}
              attempt={attempt}
            />
          ))}
        </section>
      </div>
    </>
  );
}

const FORMATS = [
  ['mp4', 'MP4, H.264', '8 bit, for viewing'],
  ['mkv', 'Matroska, FFV1', '16 bit RGB, lossless'],
  ['webm', 'WebM, VP9', '8 bit, for pages'],
  ['png', 'PNG frames', '16 bit, as an archive'],
] as const;
/** Efforts for H.264, measured on graded 1080p footage relative to *usual*. */
const EFFORTS = [
  ['quick', 'quick', 'a quarter of the time, as large'],
  ['usual', 'usual', ''],
  ['small', 'small', 'twice the time, half as large'],
] as const;
/** Formats that can carry coverage. */
const COVERED: readonly string[] = ['mkv', 'webm', 'png'];

interface Last {
  readonly format: string;
  readonly coverage: boolean;
  readonly effort: string;
  readonly size: readonly [string, string];
}
/** The last choices in this project. */
function useLast(project: ProjectView): [Last, (l: Last) => void] {
  const name = `wabisabi-kiln:${project.id}`;
  const [last] = useState((): Last => {
    const plain: Last = {
      format: 'mp4',
      coverage: false,
      effort: 'usual',
      size: [String(project.width), String(project.height)],
    };
    try {
      return { ...plain, ...(JSON.parse(localStorage.getItem(name) ?? '{}') as Partial<Last>) };
    } catch {
      return plain;
    }
  });
  const keep = (l: Last) => {
    try {
      localStorage.setItem(name, JSON.stringify(l));
    } catch {
      /* without storage only the choices are lost */
    }
  };
  return [last, keep];
}

function Order({ project, onOrder }: { project: ProjectView; onOrder: (w: object) => void }) {
  const [off, setOff] = useState<ReadonlySet<string>>(new Set());
  const [last, keepLast] = useLast(project);
  const [format, setFormat] = useState<string>(last.format);
  const [coverage, setCoverage] = useState(last.coverage);
  const [effort, setEffort] = useState<string>(last.effort);
  const pictures = useAppliedLookPictures(project, project.clips);
  const anchor = useRef<string>(undefined);
  const sizes = [
    [project.width, project.height],
    [Math.round(project.width / 2), Math.round(project.height / 2)],
    [Math.round(project.width / 4) * 2, Math.round(project.height / 4) * 2],
  ].filter(([w], i, all) => all.findIndex(([v]) => v === w) === i);
  const [size, setSize] = useState<readonly [string, string]>(last.size);
  const chosen = project.clips.filter((c) => !off.has(c.id));
  /** Toggles a clip; with Shift, all clips from the previous one get its state. */
  const toggle = (id: string, run: boolean) => {
    const at = (clip: string | undefined) => project.clips.findIndex((c) => c.id === clip);
    const [from, to] =
      run && anchor.current !== undefined
        ? [at(anchor.current), at(id)].sort((a, b) => a - b)
        : [at(id), at(id)];
    const isOff = run && anchor.current !== undefined ? off.has(anchor.current) : !off.has(id);
    setOff((s) => {
      const n = new Set(s);
      for (const c of project.clips.slice(from, to! + 1)) {
        if (isOff) n.add(c.id);
        else n.delete(c.id);
      }
      return n;
    });
    if (!run) anchor.current = id;
  };
  return (
    <form
      aria-label="New delivery"
      className="w-[290px] flex-none border-r line bg-base-200 flex flex-col"
      onSubmit={(e) => {
        e.preventDefault();
        keepLast({ format, coverage, effort, size });
        onOrder({
          clips: chosen.map((c) => c.id),
          format,
          width: Number(size[0]),
          height: Number(size[1]),
          coverage: coverage && COVERED.includes(format),
          effort,
        });
      }}
    >
      <div className="px-4 pt-3 pb-2 flex items-baseline gap-2">
        <h2 className="font-semibold mr-auto">Clips</h2>
        <button type="button" className="word" onClick={() => setOff(new Set())}>
          all
        </button>
        <button
          type="button"
          className="word"
          onClick={() => setOff(new Set(project.clips.map((c) => c.id)))}
        >
          none
        </button>
      </div>
      <ul
        className="flex-1 scrolls px-4 pt-0.5 pb-3 min-h-0 grid grid-cols-2 gap-2 content-start"
        aria-label="Clips to render"
      >
        {project.clips.map((c) => (
          <li key={c.id}>
            <button
              type="button"
              role="checkbox"
              aria-checked={!off.has(c.id)}
              aria-label={c.name}
              title={`${c.name}: ${c.look ? `${c.look.name} v${c.look.number}` : 'no look'}; with the shift key all from the one before`}
              className="block w-full text-left"
              onClick={(e) => toggle(c.id, e.shiftKey)}
            >
              <span
                className={`relative block bg-base-300 ${off.has(c.id) ? 'opacity-40' : 'outline outline-1 outline-primary'}`}
                style={{ aspectRatio: `${project.width}/${project.height}` }}
              >
                {pictures.get(c.id) && (
                  <img src={pictures.get(c.id)} alt="" className="w-full h-full object-contain" />
                )}
                {!off.has(c.id) && (
                  <span className="absolute right-1 top-1 bg-base-100 rounded-sm p-0.5">
                    <Check size={11} aria-hidden="true" />
                  </span>
                )}
              </span>
              <span className={`block truncate ${off.has(c.id) ? 'quiet' : ''}`}>{c.name}</span>
            </button>
          </li>
        ))}
      </ul>
      <div className="p-4 border-t line flex flex-col gap-3">
        <fieldset className="flex flex-col gap-1">
          <legend className="quiet mb-1">File</legend>
          {FORMATS.map(([id, label, help]) => (
            <label key={id} className="flex items-center gap-2">
              <input
                type="radio"
                name="format"
                className="radio radio-xs"
                checked={format === id}
                onChange={() => setFormat(id)}
              />
              <span className="flex-1">{label}</span>
              <span className="quiet">{help}</span>
            </label>
          ))}
          {format === 'mp4' && (
            <label className="grid grid-cols-[5.5rem_1fr] items-center mt-1">
              <span className="quiet">encoded</span>
              <Choice value={effort} onChange={setEffort}>
                {EFFORTS.map(([id, words, help]) => (
                  <option key={id} value={id}>
                    {words}
                    {help && `: ${help}`}
                  </option>
                ))}
              </Choice>
            </label>
          )}
          <label
            className="flex items-center gap-2 mt-1"
            title="What nothing covers stays clear; without, it becomes black. MP4 cannot carry it."
          >
            <input
              type="checkbox"
              className="checkbox checkbox-xs"
              disabled={!COVERED.includes(format)}
              checked={coverage && COVERED.includes(format)}
              onChange={(e) => setCoverage(e.target.checked)}
            />
            <span className={COVERED.includes(format) ? '' : 'quiet'}>keep coverage</span>
          </label>
        </fieldset>
        <div>
          <span className="quiet block mb-1">Size</span>
          <span className="flex items-center gap-1.5">
            <input
              aria-label="Width"
              className="field num w-16"
              inputMode="numeric"
              value={size[0]}
              onChange={(e) => setSize([e.target.value, size[1]])}
            />
            ×
            <input
              aria-label="Height"
              className="field num w-16"
              inputMode="numeric"
              value={size[1]}
              onChange={(e) => setSize([size[0], e.target.value])}
            />
            {sizes.map(([w, h]) => (
              <button
                key={w}
                type="button"
                className="word num"
                onClick={() => setSize([String(w), String(h)])}
              >
                {h}
              </button>
            ))}
          </span>
        </div>
        <button className="word main justify-center py-1.5" disabled={chosen.length === 0}>
          Render {chosen.length} clip{chosen.length === 1 ? '' : 's'}
        </button>
      </div>
    </form>
  );
}

interface Acts {
  readonly playing: string | null;
  readonly onPlay: (item: string) => void;
  readonly attempt: (w: Promise<unknown>) => void;
}

function Delivery({ delivery, ...acts }: Acts & { readonly delivery: DeliveryView }) {
  const done = delivery.items.filter((i) => i.state === 'done').length;
  return (
    <article className="border line rounded-sm bg-base-100">
      <h2 className="px-3 py-2 border-b line flex gap-3 items-baseline">
        <span className="font-semibold">
          {FORMATS.find(([id]) => id === delivery.format)?.[1] ?? delivery.format}
        </span>
        <span className="num quiet">
          {delivery.width}×{delivery.height}
          {delivery.coverage && ' · with coverage'}
        </span>
        <span className="num quiet ml-auto">
          {done} of {delivery.items.length} done ·{' '}
          {new Date(delivery.created).toLocaleString('en-GB', {
            day: 'numeric',
            month: 'short',
            hour: '2-digit',
            minute: '2-digit',
          })}
        </span>
      </h2>
      <ul>
        {delivery.items.map((i) => (
          <Item key={i.id} item={i} {...acts} />
        ))}
      </ul>
    </article>
  );
}

const STATES: Record<ItemView['state'], string> = {
  waiting: 'waiting',
  running: 'rendering',
  done: 'done',
  failed: 'failed',
  cancelled: 'cancelled',
};

/** The estimated remaining time; null before a few frames are done. */
function toGo({ started, rendered, frames }: ItemView): string | null {
  if (!started || rendered < 3 || rendered >= frames) return null;
  const seconds =
    ((Date.now() - new Date(started).getTime()) / 1000 / rendered) * (frames - rendered);
  return seconds < 60
    ? `${Math.max(1, Math.round(seconds))} s to go`
    : `${Math.round(seconds / 60)} min to go`;
}

function Item({ item, playing, onPlay, attempt }: Acts & { readonly item: ItemView }) {
  const busy = item.state === 'waiting' || item.state === 'running';
  const said = item.joining ? 'encoding' : STATES[item.state];
  return (
    <li
      className="px-3 py-1.5 grid grid-cols-[120px_1fr_auto_auto] gap-3 items-center border-b line last:border-b-0"
      data-clip={item.clipName}
      data-state={item.state}
    >
      <span className="truncate" title={item.lookName ?? 'no look'}>
        {item.clipName}
      </span>
      {item.state === 'failed' ? (
        <span role="alert">{item.error}</span>
      ) : (
        <progress
          className="bar"
          value={item.rendered}
          max={item.frames}
          aria-label={`${item.clipName}: ${said}`}
        />
      )}
      <span className="num quiet">
        {said} · {item.rendered}/{item.frames}
        {item.state === 'running' && !item.joining && toGo(item) && ` · ${toGo(item)}`}
        {item.bytes ? ` · ${bytes(item.bytes)}` : ''}
        {item.silenced && ' · retimed: no sound'}
      </span>
      <span className="flex justify-end gap-1 min-w-24">
        {busy && (
          <button className="word" onClick={() => attempt(call('DELETE', `/api/items/${item.id}`))}>
            cancel
          </button>
        )}
        {item.state === 'done' && (
          <button
            className={`word ${playing === item.id ? 'framed' : ''}`}
            aria-pressed={playing === item.id}
            onClick={() => onPlay(item.id)}
          >
            play
          </button>
        )}
        {item.state === 'done' && (
          <a className="word framed" href={`/api/items/${item.id}/file`} download>
            download
          </a>
        )}
        {(item.state === 'failed' || item.state === 'cancelled') && (
          <button
            className="word framed"
            onClick={() => attempt(call('POST', `/api/items/${item.id}`))}
          >
            try again
          </button>
        )}
      </span>
    </li>
  );
}
