import { useSyncExternalStore } from 'react';
import type { EngineClient } from '../../engine/client/client';
import type { ClipEdits } from '../../data/clip-edits';
import { Away, type AwayFrom } from '../../data/queries';
import { Head } from '../../components/Head';
import { type Stage, STAGES } from './stages';

/** Why the engine cannot show a tile. */
function EngineTrouble({ engine }: { engine: EngineClient }) {
  const { trouble } = useSyncExternalStore(
    (f) => engine.onStatus(f),
    () => engine.status,
  );
  return trouble ? <span role="alert">{trouble}</span> : null;
}

interface Props {
  /** Id of the project. */
  readonly project: string;
  readonly name: string;
  readonly engine: EngineClient;
  readonly away: AwayFrom | null;
  readonly edits: ClipEdits;
  readonly stage: Stage;
  readonly onStage: (s: Stage) => void;
  /** Shows the balanced clip beside each tile. */
  readonly twofold: boolean;
  readonly onTwofold: (on: boolean) => void;
  /** Drawers: name, whether open, and the action of a click. */
  readonly drawers: readonly (readonly [string, boolean, () => void])[];
}

const DONE: Readonly<Record<string, string>> = {
  look: 'a look for',
  follow: 'following the newest, for',
  stay: 'staying at a version, for',
  status: 'the status of',
  note: 'the note of',
  scene: 'the scene of',
  balance: 'the balance of',
  trims: 'trims of',
  goals: 'trims for goals of',
  accept: 'accepted flags of',
  'take back': 'flags taken back of',
};
/** The last change as text: its name and clips. */
const doneInWords = ({ name, edits }: ClipEdits['past'][number]): string =>
  name in DONE ? `${DONE[name]} ${edits.length} clip${edits.length === 1 ? '' : 's'}` : name;

/** The Wall's header: undo, what tiles show, drawers. */
export function WallHead({
  project,
  name,
  engine,
  away,
  edits,
  stage,
  onStage,
  twofold,
  onTwofold,
  drawers,
}: Props) {
  const last = edits.past.at(-1),
    next = edits.future.at(-1);

  return (
    <Head
      help="wall"
      title={
        <>
          {name} <span className="quiet font-normal">· Wall</span>
        </>
      }
    >
      <Away away={away} project={project} />
      <EngineTrouble engine={engine} />
      <button
        className="word"
        disabled={!last}
        title={last ? `Undo ${doneInWords(last)} (Ctrl Z)` : 'Nothing to undo'}
        onClick={edits.undo}
      >
        undo
        {last && <span className="quiet truncate max-w-52">{doneInWords(last)}</span>}
      </button>
      <button
        className="word"
        disabled={!next}
        title={next ? `Redo ${doneInWords(next)}` : 'Nothing to redo'}
        onClick={edits.redo}
      >
        redo
      </button>
      <span className="flex" role="group" aria-label="Tiles show">
        {STAGES.map(([id, label]) => (
          <button
            key={id}
            aria-pressed={stage === id}
            className={`word ${stage === id ? 'framed' : ''}`}
            onClick={() => onStage(id)}
          >
            {label}
          </button>
        ))}
        <button
          aria-pressed={twofold}
          className={`word ${twofold ? 'framed' : ''}`}
          title="The clip as balanced beside each tile"
          onClick={() => onTwofold(!twofold)}
        >
          side by side
        </button>
      </span>
      <span className="w-px h-5 bg-current opacity-15" />
      {drawers.map(([label, on, press]) => (
        <button
          key={label}
          className={`word ${on ? 'framed' : ''}`}
          aria-pressed={on}
          onClick={press}
        >
          {label}
        </button>
      ))}
    </Head>
  );
}
