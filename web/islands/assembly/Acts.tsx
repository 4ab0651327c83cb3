import { LINE_LENGTHS, type LineLength } from '../../../core';
import { Choice } from '../../components/Choice';

/** An act on the page, with the key that does the same. */
export interface Act {
  readonly name: string;
  readonly key: string;
  readonly help: string;
  /** Undefined where it cannot be done now. */
  readonly run: (() => void) | undefined;
}
interface Props {
  readonly acts: readonly Act[];
  readonly snaps: boolean;
  readonly onSnaps: () => void;
  readonly line: LineLength;
  readonly hasBars: boolean;
  readonly onLine: (l: LineLength) => void;
}
const nameOf = ({ of, count }: LineLength): string =>
  `${count} ${of === 'seconds' ? 's' : count === 1 ? 'bar' : 'bars'}`;

/** What can be done with what is chosen, and how much stands on a line. */
export const Acts = ({ acts, snaps, onSnaps, line, hasBars, onLine }: Props) => (
  <div
    role="toolbar"
    aria-label="Acts"
    className="flex-none flex items-center gap-0.5 px-3 h-9 border-b line min-w-0"
  >
    {acts.map(({ name, key, help, run }) => (
      <button
        key={name}
        className="word !px-1.5 whitespace-nowrap"
        disabled={!run}
        title={`${help} (${key})`}
        onClick={run}
      >
        {name}
      </button>
    ))}
    <button
      className={`word ml-auto whitespace-nowrap ${snaps ? 'framed' : 'quiet'}`}
      aria-pressed={snaps}
      title="What is dragged snaps to beats, cuts, markers and the playhead; not while Alt is held"
      onClick={onSnaps}
    >
      snap
    </button>
    <Choice
      className="field !py-0"
      aria-label="How much stands on a line"
      value={`${line.of} ${line.count}`}
      onChange={(v) => onLine(LINE_LENGTHS.find((l) => `${l.of} ${l.count}` === v)!)}
    >
      {LINE_LENGTHS.filter((l) => hasBars || l.of === 'seconds').map((l) => (
        <option key={nameOf(l)} value={`${l.of} ${l.count}`}>
          {nameOf(l)} a line
        </option>
      ))}
    </Choice>
  </div>
);
