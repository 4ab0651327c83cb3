import { useMutation, useQuery } from '@tanstack/react-query';
import { useEffect, useMemo, useRef } from 'react';
import type { LookDocument } from '../../../core';
import { type LookPicture, useLookPictures } from '../../components/useLookPictures';
import { call } from '../../data/http';
import { versionQuery } from '../../data/queries';
import type { ClipView, LookView, ProjectView } from '../../data/views';
import { useBench, useStoreItself } from './context';

interface Props {
  /** The look as the server has it; undefined if somebody removed it. */
  readonly look: LookView | undefined;
  readonly project: ProjectView;
  readonly hero: ClipView;
  /** Saves the look on the Bench on top of the newest version. */
  readonly onSave: () => void;
  readonly onClose: () => void;
}

/**
 * Somebody else saved a version of the look, or removed the look, while it was open here: both are
 * shown on the hero, and nothing that was done here is lost.
 */
export function TheirVersion({ look, project, hero, onSave, onClose }: Props) {
  const dialog = useRef<HTMLDialogElement>(null);
  useEffect(() => dialog.current?.showModal(), []);
  const store = useStoreItself(),
    mine = useBench((s) => s.look);
  const newest = look?.versions[0];
  const theirs = useQuery({ ...versionQuery(newest?.id ?? ''), enabled: newest !== undefined });
  const wanted = useMemo(
    (): LookPicture[] => [
      ...(theirs.data ? [{ id: 'theirs', clip: hero, look: theirs.data.document }] : []),
      { id: 'mine', clip: hero, look: mine },
    ],
    [theirs.data, hero, mine],
  );
  const pictures = useLookPictures(project, wanted);
  const keep = useMutation({
    mutationFn: (document: LookDocument) =>
      call<{ lookId: string }>('POST', '/api/looks', {
        document: { ...document, name: `${document.name} (mine)`.slice(0, 60) },
      }),
    onSuccess: ({ lookId }) => {
      // It is kept elsewhere now: the draft of this look goes.
      const { opened, savedAs, look: now } = store.getState();
      savedAs(opened.number, now);
      location.href = `/p/${project.id}/bench?look=${lookId}&clip=${hero.id}`;
    },
  });
  const takeTheirs = () => {
    const { change, savedAs } = store.getState();
    change(`take v${newest!.number}`, theirs.data!.document);
    savedAs(newest!.number, theirs.data!.document);
    onClose();
  };
  const saveOnTop = () => {
    store.getState().savedAs(newest!.number, theirs.data!.document);
    onClose();
    onSave();
  };
  const ready = theirs.data !== undefined;
  return (
    <dialog
      ref={dialog}
      aria-label="Somebody else’s version"
      onClose={onClose}
      className="m-auto bg-base-100 text-base-content border line rounded w-[760px]
        backdrop:bg-black/50 flex-col open:flex"
    >
      <header className="px-5 py-3 border-b line flex items-baseline gap-3">
        <h2 className="font-semibold">
          {newest ? `Version ${newest.number} was saved by somebody else` : 'This look was removed'}
        </h2>
        <span className="quiet mr-auto">What you did here is kept until you choose.</span>
      </header>
      <div className="p-4 grid grid-cols-2 gap-4">
        {newest && (
          <Side name={`theirs, v${newest.number}`} url={pictures.get('theirs')} project={project}>
            <button className="word framed" disabled={!ready} onClick={takeTheirs}>
              take theirs
            </button>
          </Side>
        )}
        <Side name="mine" url={pictures.get('mine')} project={project}>
          {newest && (
            <button className="word framed" disabled={!ready} onClick={saveOnTop}>
              save mine on top
            </button>
          )}
          <button
            className="word framed"
            disabled={keep.isPending}
            onClick={() => keep.mutate(store.getState().look)}
          >
            keep mine as a look of its own
          </button>
        </Side>
      </div>
      {keep.error && (
        <p role="alert" className="px-5 pb-2">
          {keep.error.message}
        </p>
      )}
      <footer className="px-5 py-3 border-t line flex">
        <button className="word ml-auto" onClick={onClose}>
          later
        </button>
      </footer>
    </dialog>
  );
}

interface SideProps {
  readonly name: string;
  readonly url: string | undefined;
  readonly project: ProjectView;
  readonly children: React.ReactNode;
}
const Side = ({ name, url, project, children }: SideProps) => (
  <section aria-label={name} className="flex flex-col gap-2">
    <span
      className="block bg-base-300"
      style={{ aspectRatio: `${project.width}/${project.height}` }}
    >
      {url && <img src={url} alt={name} className="w-full h-full object-contain" />}
    </span>
    <span className="font-medium">{name}</span>
    <span className="flex flex-wrap gap-2">{children}</span>
  </section>
);
