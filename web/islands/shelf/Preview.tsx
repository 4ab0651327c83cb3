import { useEffect, useMemo, useRef } from 'react';
import { stepOf } from '../../../core';
import type { LookPackage } from '../../../core/formats';
import type { ProjectView } from '../../data/views';
import { EngineClient } from '../../engine/client/client';
import { Picture } from '../../engine/client/Picture';
import { restingFrame, sized } from '../../domain/views';

interface Props {
  readonly brought: LookPackage;
  readonly project: ProjectView;
  readonly onTake: () => void;
  readonly onClose: () => void;
}

const MOST_CLIPS = 9,
  MEMORY = 128 * 2 ** 20;

/** A look from a file, shown on this project's clips before it is added to the Shelf. */
export function Preview({ brought, project, onTake, onClose }: Props) {
  const { look, thumbnails, plates = [] } = brought;
  const dialog = useRef<HTMLDialogElement>(null);
  useEffect(() => dialog.current?.showModal(), []);
  const engine = useMemo(() => new EngineClient('bt709', MEMORY), []);
  useEffect(() => () => engine.close(), [engine]);
  const clips = useMemo(() => project.clips.slice(0, MOST_CLIPS), [project]);
  useEffect(() => {
    const [width, height] = sized(project, 180);
    engine.clips([...project.clips, ...project.plates]);
    engine.request(
      clips.map((c) => ({
        id: `preview:${c.id}`,
        clip: c.id,
        frame: restingFrame(c, look),
        look,
        from: 270,
        width,
        height,
      })),
    );
  }, [engine, project, look, clips]);
  const thumbs = useMemo(
    () =>
      thumbnails.map((t) => ({
        name: t.name,
        url: URL.createObjectURL(new Blob([t.png as BlobPart], { type: 'image/png' })),
      })),
    [thumbnails],
  );
  useEffect(() => () => thumbs.forEach((t) => URL.revokeObjectURL(t.url)), [thumbs]);
  const steps = new Set(
    look.layers.flatMap((l) => l.steps.map((s) => stepOf(s.step)!.label.toLowerCase())),
  );
  return (
    <dialog
      ref={dialog}
      aria-label={`Import ${look.name}`}
      onClose={onClose}
      className="m-auto bg-base-100 text-base-content border line rounded w-[860px] max-h-[88vh] backdrop:bg-black/50 flex-col open:flex"
    >
      <header className="px-5 py-3 border-b line">
        <h2 className="font-semibold">{look.name}</h2>
        <p className="quiet">
          {look.layers.length} layer{look.layers.length === 1 ? '' : 's'}:{' '}
          {[...steps].join(', ') || 'no steps'}
        </p>
        <p className="quiet">dials: {look.dials.map((d) => d.label).join(', ')}</p>
        {plates.length > 0 && (
          <p className="quiet">brings along: {plates.map((p) => p.name).join(', ')}</p>
        )}
      </header>
      <div className="flex-1 min-h-0 scrolls p-4 flex flex-col gap-3">
        {thumbs.length > 0 && (
          <section aria-label="Pictures in the package">
            <h3 className="quiet pb-1">where it was made</h3>
            <ul className="grid grid-cols-4 gap-2">
              {thumbs.map((t) => (
                <li key={t.url}>
                  <img src={t.url} alt={`${t.name}, where the look was made`} className="w-full" />
                </li>
              ))}
            </ul>
          </section>
        )}
        <section aria-label="On your clips">
          <h3 className="quiet pb-1">on your clips</h3>
          {clips.length === 0 && (
            <p>This project has no clips yet: bring some in on Rushes to see the look on them.</p>
          )}
          <ul className="grid grid-cols-3 gap-2">
            {clips.map((c) => (
              <li key={c.id}>
                <span
                  className="block bg-base-300"
                  style={{ aspectRatio: `${project.width}/${project.height}` }}
                >
                  <Picture
                    engine={engine}
                    view={`preview:${c.id}`}
                    label={`${c.name} under ${look.name}`}
                    className="w-full h-full object-contain"
                  />
                </span>
                <span className="quiet">{c.name}</span>
              </li>
            ))}
          </ul>
        </section>
      </div>
      <footer className="px-5 py-3 border-t line flex gap-2 justify-end">
        <button className="word" onClick={onClose}>
          leave it
        </button>
        <button className="word main" onClick={onTake}>
          put on the Shelf
        </button>
      </footer>
    </dialog>
  );
}
