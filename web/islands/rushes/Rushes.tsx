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
  const [chosen, setChosen] = useState<string | null>(null);
  const [trouble, setTrouble] = useState<string | null>(null);
  const attempt = (work: Promise<unknown>) => void work.catch((e: Error) => setTrouble(e.message));
  if (!data) return <p className="p-6">{error ? error.message : 'Opening …'}</p>;
  const clip = data.clips.find((c) => c.id === chosen) ?? data.clips[0];
  return (
    <Bring project={project} imports={data.imports} onTrouble={setTrouble}>
      {(choose) => (
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
            {choose}
          </Head>
          <Notice text={trouble} onClose={() => setTrouble(null)} />
          <div className="flex-1 min-h-0 flex">
            <ul className="flex-1 scrolls p-4 grid gap-3 content-start grid-cols-[repeat(auto-fill,minmax(210px,1fr))]">
              {data.clips.map((c) => (
                <li key={c.id}>
                  <button
                    onClick={() => setChosen(c.id)}
                    aria-pressed={c.id === clip?.id}
                    className={`block w-full text-left rounded-sm bg-base-200 border ${c.id === clip?.id ? 'border-primary' : 'line'}`}
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
                onChange={(change) => attempt(call('PATCH', `/api/clips/${clip.id}`, change))}
                onRemove={() => attempt(call('DELETE', `/api/clips/${clip.id}`))}
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
  readonly onChange: (c: Partial<Pick<ClipView, 'name' | 'encoding' | 'fit'>>) => void;
  readonly onRemove: () => void;
}

function Facts({ clip, onChange, onRemove }: FactsProps) {
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
              Remove from project
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
