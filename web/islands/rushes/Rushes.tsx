import { useState } from 'react';
import { call } from '../../api/client';
import type { ClipView } from '../../api/views';
import { Away, Island, useNews, useProject } from '../shared/data';
import { Head, Notice } from '../shared/Head';
import { bytes, clipFacts, ENCODING_CHOICES, encodingLabel } from '../shared/words';
import { Bring } from './Bring';
import { Scrub } from './Scrub';

export const Rushes = ({ project }: { project: string }) => (
  <Island>
    <Place project={project} />
  </Island>
);

function Place({ project }: { project: string }) {
  const { data, error } = useProject(project);
  const away = useNews(project);
  const [chosen, setChosen] = useState<readonly string[]>([]);
  const [trouble, setTrouble] = useState<string | null>(null);
  const attempt = (work: Promise<unknown>) => void work.catch((e: Error) => setTrouble(e.message));
  if (!data) return <p className="p-6">{error ? error.message : 'Opening …'}</p>;
  const some = data.clips.filter((c) => chosen.includes(c.id));
  const all = some.length > 0 ? some : data.clips.slice(0, 1);
  const clip = all.find((c) => c.id === chosen.at(-1)) ?? all[0];
  /** Ctrl adds a clip or leaves it out, Shift takes all up to it. */
  const choose = (id: string, e: React.MouseEvent) => {
    if (e.ctrlKey || e.metaKey) return setChosen(chosen.includes(id) ? chosen.filter((c) => c !== id) : [...all.map((c) => c.id), id]);
    const ids = data.clips.map((c) => c.id);
    const [from, to] = [ids.indexOf(clip?.id ?? id), ids.indexOf(id)];
    setChosen(e.shiftKey ? [...ids.slice(Math.min(from, to), Math.max(from, to) + 1).filter((c) => c !== id), id] : [id]);
  };
  return (
    <Bring project={project} imports={data.imports} onTrouble={setTrouble}>
      {(chooser) => (
        <>
          <Head
            title={
              <>
                {data.name} <span className="quiet font-normal">· Rushes</span>
              </>
            }
          >
            <Away away={away} />
            <span className="num quiet">
              {data.clips.length} clips · frame {data.width}×{data.height}
            </span>
            {chooser}
          </Head>
          <Notice text={trouble} onClose={() => setTrouble(null)} />
          <div className="flex-1 min-h-0 flex">
            <ul className="flex-1 scrolls p-4 grid gap-3 content-start grid-cols-[repeat(auto-fill,minmax(210px,1fr))]">
              {data.clips.map((c) => (
                <li key={c.id}>
                  <button
                    onClick={(e) => choose(c.id, e)}
                    aria-pressed={all.includes(c)}
                    className={`block w-full text-left rounded-sm bg-base-200 border ${all.includes(c) ? 'border-primary' : 'line'}`}
                  >
                    <Scrub clip={c} />
                    <span className="block px-2 py-1.5">
                      <span className="flex gap-2">
                        <span className="flex-1 truncate font-medium">{c.name}</span>
                        <span className="quiet">{encodingLabel(c.encoding)}</span>
                      </span>
                      <span className="num quiet block">{clipFacts(c)}</span>
                    </span>
                  </button>
                </li>
              ))}
              {data.clips.length === 0 && (
                <li className="col-span-full py-16 text-center quiet">
                  No footage yet. Drop videos, pictures or a folder of pictures anywhere here.
                </li>
              )}
            </ul>
            {clip && (
              <Facts
                key={clip.id}
                clip={clip}
                count={all.length}
                onChange={(change) =>
                  attempt(Promise.all((change.name === undefined ? all : [clip]).map((c) => call('PATCH', `/api/clips/${c.id}`, change))))
                }
                onRemove={() => attempt(Promise.all(all.map((c) => call('DELETE', `/api/clips/${c.id}`))))}
              />
            )}
          </div>
        </>
      )}
    </Bring>
  );
}

interface FactsProps {
  readonly clip: ClipView;
  /** How many clips are chosen: encoding, framing and removal are for all of them. */
  readonly count: number;
  readonly onChange: (c: Partial<Pick<ClipView, 'name' | 'encoding' | 'fit'>>) => void;
  readonly onRemove: () => void;
}

function Facts({ clip, count, onChange, onRemove }: FactsProps) {
  const [name, setName] = useState(clip.name);
  const [sure, setSure] = useState(false);
  const rows: [string, string][] = [
    ['Size', `${clip.format.width}×${clip.format.height}`],
    ['Rate', `${clip.rate[0]}${clip.rate[1] === 1 ? '' : `/${clip.rate[1]}`}${clip.slots ? ' (was uneven)' : ''}`],
    ['Length', `${clip.frames} frames`],
    [
      'Samples',
      `${clip.format.depth} bit ${clip.format.layout === 'yuv' ? `4:${clip.format.chroma[0] === 1 ? '4:4' : clip.format.chroma[1] === 2 ? '2:0' : '2:2'}` : clip.format.layout}`,
    ],
    ['Codec', clip.codec],
    ['Sound', clip.sound ? 'yes' : 'none'],
    ['File', bytes(clip.bytes)],
  ];
  return (
    <aside aria-label="Clip" className="w-[264px] flex-none border-l line bg-base-200 p-4 flex flex-col gap-4 scrolls">
      <label className="flex flex-col gap-1">
        <span className="quiet">Name</span>
        <input
          className="field"
          value={name}
          onChange={(e) => setName(e.target.value)}
          onBlur={() => {
            if (name.trim() && name !== clip.name) onChange({ name: name.trim() });
          }}
          onKeyDown={(e) => {
            if (e.key === 'Enter') e.currentTarget.blur();
          }}
        />
      </label>
      <dl className="grid grid-cols-[5rem_1fr] gap-y-1">
        {rows.map(([k, v]) => (
          <div key={k} className="contents">
            <dt className="quiet">{k}</dt>
            <dd className="num self-center">{v}</dd>
          </div>
        ))}
      </dl>
      {count > 1 && (
        <p role="status" className="font-medium">
          {count} clips are chosen: what follows is for all of them.
        </p>
      )}
      <label className="flex flex-col gap-1">
        <span className="quiet">Colour encoding</span>
        <select className="field" value={clip.encoding} onChange={(e) => onChange({ encoding: e.target.value as ClipView['encoding'] })}>
          {ENCODING_CHOICES.map((e) => (
            <option key={e.id} value={e.id}>
              {e.label}
              {e.id === clip.guess ? ' (guessed)' : ''}
            </option>
          ))}
        </select>
      </label>
      <fieldset className="flex gap-4">
        <legend className="quiet mb-1">In the project’s frame</legend>
        {(['fit', 'fill'] as const).map((f) => (
          <label key={f} className="flex gap-1.5 items-center">
            <input type="radio" name="fit" className="radio radio-xs" checked={clip.fit === f} onChange={() => onChange({ fit: f })} />
            {f === 'fit' ? 'fit whole' : 'fill'}
          </label>
        ))}
      </fieldset>
      <div className="mt-auto">
        {sure ? (
          <span className="flex gap-2">
            <button className="word framed" onClick={onRemove}>
              Remove {count > 1 ? `${count} clips` : 'from project'}
            </button>
            <button className="word" onClick={() => setSure(false)}>
              keep
            </button>
          </span>
        ) : (
          <button className="word quiet" onClick={() => setSure(true)}>
            Remove …
          </button>
        )}
      </div>
    </aside>
  );
}
