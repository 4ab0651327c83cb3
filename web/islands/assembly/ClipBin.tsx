import { useState } from 'react';
import type { ClipView, ProjectView, SoundView } from '../../data/views';
import { clock, secondsOf } from '../../domain/sounds';

interface Props {
  readonly project: ProjectView;
  readonly pictures: ReadonlyMap<string, string>;
  /** How often each clip stands in the cut. */
  readonly used: ReadonlyMap<string, number>;
  readonly onPlace: (clips: readonly string[], where: 'end' | 'playhead') => void;
  readonly onSound: (sound: SoundView) => void;
}

/** Clips, plates and sounds of the project, to be placed in the cut. */
export function ClipBin({ project, pictures, used, onPlace, onSound }: Props) {
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const all = [...project.clips, ...project.plates];
  const some = all.filter((c) => chosen.has(c.id)).map((c) => c.id);
  const toggle = (clip: ClipView, only: boolean): void => {
    const next = new Set(only ? [] : chosen);
    if (!next.delete(clip.id)) next.add(clip.id);
    setChosen(next);
  };
  return (
    <section aria-label="Clips and sounds" className="flex-1 min-h-0 flex flex-col border-t line">
      <div className="flex items-center gap-1 px-3 py-1.5 flex-none">
        <span className="quiet mr-auto">
          {some.length > 0 ? `${some.length} chosen` : 'drag or choose'}
        </span>
        <button
          className="word"
          onClick={() =>
            setChosen(
              some.length === project.clips.length
                ? new Set()
                : new Set(project.clips.map((c) => c.id)),
            )
          }
        >
          {some.length === project.clips.length && some.length > 0 ? 'none' : 'all'}
        </button>
        <button
          className="word framed"
          disabled={some.length === 0}
          onClick={() => onPlace(some, 'playhead')}
        >
          at the playhead
        </button>
        <button
          className="word framed"
          disabled={some.length === 0}
          onClick={() => onPlace(some, 'end')}
        >
          at the end
        </button>
      </div>
      <div className="flex-1 scrolls px-3 pb-3">
        <ul className="grid grid-cols-4 gap-1.5" aria-label="Clips">
          {all.map((c) => {
            const count = used.get(c.id) ?? 0;
            return (
              <li key={c.id}>
                <button
                  className="block w-full text-left"
                  aria-pressed={chosen.has(c.id)}
                  aria-label={c.name}
                  title={`${c.name}: ${c.look ? `${c.look.name} v${c.look.number}` : 'no look'}${count > 0 ? `; ${count} in the cut` : ''}`}
                  draggable
                  onDragStart={(e) => {
                    const ids = chosen.has(c.id) ? some : [c.id];
                    e.dataTransfer.setData('text/clips', ids.join(' '));
                    e.dataTransfer.effectAllowed = 'copy';
                  }}
                  onClick={(e) =>
                    toggle(c, !(e.ctrlKey || e.metaKey || e.shiftKey || chosen.has(c.id)))
                  }
                  onDoubleClick={() => onPlace([c.id], 'end')}
                >
                  <span
                    className={`relative block bg-base-300 ${chosen.has(c.id) ? 'outline outline-2 outline-primary' : ''}`}
                    style={{ aspectRatio: `${project.width}/${project.height}` }}
                  >
                    {pictures.get(c.id) && (
                      <img
                        src={pictures.get(c.id)}
                        alt=""
                        draggable={false}
                        className="w-full h-full object-contain"
                      />
                    )}
                    {count > 0 && (
                      <span className="absolute right-0.5 bottom-0.5 num px-1 rounded-sm bg-base-300">
                        {count}
                      </span>
                    )}
                  </span>
                  <span className="block truncate">{c.name}</span>
                </button>
              </li>
            );
          })}
        </ul>
        {project.sounds.length > 0 && (
          <ul className="mt-2 flex flex-col" aria-label="Sounds">
            {project.sounds.map((s) => (
              <li key={s.id} className="flex items-center gap-2">
                <span className="truncate flex-1">{s.name}</span>
                <span className="num quiet">{clock(secondsOf(s))}</span>
                <button className="word" onClick={() => onSound(s)}>
                  lay in at the playhead
                </button>
              </li>
            ))}
          </ul>
        )}
      </div>
    </section>
  );
}
