import { useState } from 'react';
import { Choice } from '../../components/Choice';
import { Head } from '../../components/Head';
import type { Kept } from '../../data/cut-store';
import { Away, type AwayFrom } from '../../data/queries';
import type { CutView, ProjectView } from '../../data/views';

interface Props {
  readonly project: ProjectView;
  readonly away: AwayFrom | null;
  readonly kept: Kept;
  readonly undo: string | undefined;
  readonly redo: string | undefined;
  readonly onUndo: () => void;
  readonly onRedo: () => void;
  readonly versions: CutView['versions'];
  readonly onKeep: (name: string) => void;
  readonly onOpen: (number: number) => void;
}
const WORDS: Record<Kept, string> = {
  saved: 'saved',
  saving: 'saving …',
  'kept here': 'kept here, not saved yet',
  refused: 'not saved',
};

/** The header of the Assembly: history, versions, and the way to a file. */
export function AssemblyHead(props: Props) {
  const { project, away, kept, undo, redo, versions } = props;
  const [name, setName] = useState<string | null>(null);
  const keep = (): void => {
    if (name?.trim()) props.onKeep(name.trim());
    setName(null);
  };
  return (
    <Head
      help="assembly"
      title={
        <>
          {project.name} <span className="quiet font-normal">· Assembly</span>
        </>
      }
    >
      <Away away={away} project={project.id} />
      <span className="num quiet" role="status" data-kept={kept}>
        {WORDS[kept]}
      </span>
      <button
        className="word"
        disabled={undo === undefined}
        title={undo && `Undo: ${undo}`}
        onClick={props.onUndo}
      >
        undo
      </button>
      <button
        className="word"
        disabled={redo === undefined}
        title={redo && `Redo: ${redo}`}
        onClick={props.onRedo}
      >
        redo
      </button>
      {versions.length > 0 && (
        <Choice
          className="word"
          face="versions"
          aria-label="Versions of the cut"
          value=""
          onChange={(n) => props.onOpen(Number(n))}
        >
          {versions.map((v) => (
            <option key={v.number} value={String(v.number)}>
              {`${v.number} · ${v.name}`}
            </option>
          ))}
        </Choice>
      )}
      {name === null ? (
        <button className="word framed" onClick={() => setName('')}>
          keep a version
        </button>
      ) : (
        <input
          autoFocus
          className="field w-40"
          aria-label="Name of the version"
          placeholder="name, then Enter"
          maxLength={80}
          value={name}
          onChange={(e) => setName(e.target.value)}
          onBlur={() => setName(null)}
          onKeyDown={(e) => {
            if (e.key === 'Enter') keep();
            if (e.key === 'Escape') setName(null);
          }}
        />
      )}
      <a className="word main" href={`/p/${project.id}/kiln?cut`}>
        render …
      </a>
    </Head>
  );
}
