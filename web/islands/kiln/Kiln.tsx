import { useState } from 'react';
import { call } from '../../api/client';
import type { DeliveryView, ItemView, ProjectView } from '../../api/views';
import { Choice } from '../shared/Choice';
import { Away, Island, useKiln, useNews, useProject } from '../shared/data';
import { Head, Notice } from '../shared/Head';
import { bytes } from '../shared/words';

export const Kiln = ({ project }: { project: string }) => (
  <Island>
    <Place project={project} />
  </Island>
);

function Place({ project }: { project: string }) {
  const { data } = useProject(project);
  const kiln = useKiln(project);
  const away = useNews(project);
  const [trouble, setTrouble] = useState<string | null>(null);
  const attempt = (work: Promise<unknown>) =>
    void work.then(
      () => kiln.refetch(),
      (e: Error) => setTrouble(e.message),
    );
  if (!data || !kiln.data) return <p className="p-6">{kiln.error?.message ?? 'Opening …'}</p>;
  const { workers, deliveries } = kiln.data;
  return (
    <>
      <Head
        title={
          <>
            {data.name} <span className="quiet font-normal">· Kiln</span>
          </>
        }
      >
        <Away away={away} />
        <span className="num quiet">
          {workers === 0 ? 'no worker is running: start one with npm run worker' : `${workers} worker${workers > 1 ? 's' : ''}`}
        </span>
      </Head>
      <Notice text={trouble} onClose={() => setTrouble(null)} />
      <div className="flex-1 min-h-0 flex">
        <Order project={data} onOrder={(wanted) => attempt(call('POST', `/api/projects/${project}/deliveries`, wanted))} />
        <section aria-label="Deliveries" className="flex-1 scrolls p-4 flex flex-col gap-5">
          {deliveries.length === 0 && <p className="py-16 text-center quiet">Nothing rendered yet. Choose clips on the left and press Render.</p>}
          {deliveries.map((d) => (
            <Delivery key={d.id} delivery={d} attempt={attempt} />
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
/** Of H.264, by measurement on graded 1080p footage: time and size against the usual. */
const EFFORTS = [
  ['quick', 'quick', 'a quarter of the time, as large'],
  ['usual', 'usual', ''],
  ['small', 'small', 'twice the time, half as large'],
] as const;
/** Files that can carry coverage. */
const COVERED: readonly string[] = ['mkv', 'webm', 'png'];

function Order({ project, onOrder }: { project: ProjectView; onOrder: (w: object) => void }) {
  const [off, setOff] = useState<ReadonlySet<string>>(new Set());
  const [format, setFormat] = useState<string>('mp4');
  const [coverage, setCoverage] = useState(false);
  const [effort, setEffort] = useState<string>('usual');
  const sizes = [
    [project.width, project.height],
    [Math.round(project.width / 2), Math.round(project.height / 2)],
    [Math.round(project.width / 4) * 2, Math.round(project.height / 4) * 2],
  ].filter(([w], i, all) => all.findIndex(([v]) => v === w) === i);
  const [size, setSize] = useState<[string, string]>([String(project.width), String(project.height)]);
  const chosen = project.clips.filter((c) => !off.has(c.id));
  const toggle = (id: string) =>
    setOff((s) => {
      const n = new Set(s);
      if (!n.delete(id)) n.add(id);
      return n;
    });
  return (
    <form
      aria-label="New delivery"
      className="w-[290px] flex-none border-r line bg-base-200 flex flex-col"
      onSubmit={(e) => {
        e.preventDefault();
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
        <button type="button" className="word" onClick={() => setOff(new Set(project.clips.map((c) => c.id)))}>
          none
        </button>
      </div>
      <ul className="flex-1 scrolls px-4 min-h-0">
        {project.clips.map((c) => (
          <li key={c.id}>
            <label className="flex items-center gap-2 py-[3px]">
              <input type="checkbox" className="checkbox checkbox-xs" checked={!off.has(c.id)} onChange={() => toggle(c.id)} />
              <span className="flex-1 truncate">{c.name}</span>
              <span className="quiet truncate max-w-28">{c.look ? `${c.look.name} v${c.look.number}` : 'no look'}</span>
            </label>
          </li>
        ))}
      </ul>
      <div className="p-4 border-t line flex flex-col gap-3">
        <fieldset className="flex flex-col gap-1">
          <legend className="quiet mb-1">File</legend>
          {FORMATS.map(([id, label, help]) => (
            <label key={id} className="flex items-center gap-2">
              <input type="radio" name="format" className="radio radio-xs" checked={format === id} onChange={() => setFormat(id)} />
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
          <label className="flex items-center gap-2 mt-1" title="What nothing covers stays clear; without, it becomes black. MP4 cannot carry it.">
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
              <button key={w} type="button" className="word num" onClick={() => setSize([String(w), String(h)])}>
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

function Delivery({ delivery, attempt }: { delivery: DeliveryView; attempt: (w: Promise<unknown>) => void }) {
  const done = delivery.items.filter((i) => i.state === 'done').length;
  return (
    <article className="border line rounded-sm bg-base-100">
      <h2 className="px-3 py-2 border-b line flex gap-3 items-baseline">
        <span className="font-semibold">{FORMATS.find(([id]) => id === delivery.format)?.[1] ?? delivery.format}</span>
        <span className="num quiet">
          {delivery.width}×{delivery.height}
          {delivery.coverage && ' · with coverage'}
        </span>
        <span className="num quiet ml-auto">
          {done} of {delivery.items.length} done ·{' '}
          {new Date(delivery.created).toLocaleString('en-GB', { day: 'numeric', month: 'short', hour: '2-digit', minute: '2-digit' })}
        </span>
      </h2>
      <ul>
        {delivery.items.map((i) => (
          <Item key={i.id} item={i} attempt={attempt} />
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

function Item({ item, attempt }: { item: ItemView; attempt: (w: Promise<unknown>) => void }) {
  const busy = item.state === 'waiting' || item.state === 'running';
  const said = item.joining ? 'encoding' : STATES[item.state];
  return (
    <li
      className="px-3 py-1.5 grid grid-cols-[150px_1fr_190px_auto] gap-3 items-center border-b line last:border-b-0"
      data-clip={item.clipName}
      data-state={item.state}
    >
      <span className="truncate" title={item.lookName ?? 'no look'}>
        {item.clipName}
      </span>
      {item.state === 'failed' ? (
        <span role="alert">{item.error}</span>
      ) : (
        <progress className="bar" value={item.rendered} max={item.frames} aria-label={`${item.clipName}: ${said}`} />
      )}
      <span className="num quiet">
        {said} · {item.rendered}/{item.frames}
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
          <a className="word framed" href={`/api/items/${item.id}/file`} download>
            download
          </a>
        )}
        {(item.state === 'failed' || item.state === 'cancelled') && (
          <button className="word framed" onClick={() => attempt(call('POST', `/api/items/${item.id}`))}>
            try again
          </button>
        )}
      </span>
    </li>
  );
}
