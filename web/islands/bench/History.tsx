import { useBench } from './context';

/** Undo and redo, by the change's name. */
export function History() {
  const last = useBench((s) => s.past.at(-1)?.name),
    next = useBench((s) => s.future.at(-1)?.name);
  const undo = useBench((s) => s.undo),
    redo = useBench((s) => s.redo);
  return (
    <>
      <button
        className="word"
        disabled={last === undefined}
        title={last === undefined ? 'Nothing to undo' : `Undo ${last} (Ctrl Z)`}
        onClick={undo}
      >
        undo{last !== undefined && <span className="quiet max-w-32 truncate">{last}</span>}
      </button>
      <button
        className="word"
        disabled={next === undefined}
        title={next === undefined ? 'Nothing to redo' : `Redo ${next}`}
        onClick={redo}
      >
        redo
      </button>
    </>
  );
}
