import { TRACK_FILES } from '../../../core';
import { FileButton } from '../../components/FileButton';
import { NameField } from '../../components/NameField';
import type { ClipView, TraceView } from '../../data/views';

interface Props {
  readonly clip: Pick<ClipView, 'name' | 'traces'>;
  readonly onName: (trace: string, name: string) => void;
  /** Its track is wanted as a file. */
  readonly onSave: (trace: TraceView) => void;
  readonly onBring: (file: File) => void;
}

/** How a trace goes from mark to mark, and how far that is. */
const wayOf = (t: TraceView): string =>
  !t.follow
    ? 'by hand'
    : t.state === 'done'
      ? 'followed'
      : t.state === 'failed'
        ? 'could not be followed'
        : t.state === 'cancelled'
          ? 'stopped'
          : `following ${Math.floor(t.progress * 100)} %`;

/** What is traced in a clip's footage, as files too. */
export function Traces({ clip, onName, onSave, onBring }: Props) {
  return (
    <section aria-label="Traces">
      <div className="flex items-center mb-1">
        <h3 className="font-medium mr-auto">Traces</h3>
        <FileButton label={`A track for ${clip.name}`} accept={TRACK_FILES.join()} onFile={onBring}>
          bring one in
        </FileButton>
      </div>
      <ul className="flex flex-col gap-1">
        {clip.traces.map((t) => (
          <li key={t.id} className="flex gap-2 items-center">
            <NameField
              className="flex-1 min-w-0"
              label={`Name of the trace ${t.name}`}
              name={t.name}
              most={60}
              onName={(name) => onName(t.id, name)}
            />
            <span className="quiet num ml-auto whitespace-nowrap">
              {t.marks.length === 1 ? '1 mark' : `${t.marks.length} marks`}, {wayOf(t)}
            </span>
            <button
              className="word quiet"
              aria-label={`The track of ${t.name} as a file`}
              title="Its places, frame by frame, as JSON"
              disabled={t.state !== 'done'}
              onClick={() => onSave(t)}
            >
              file
            </button>
          </li>
        ))}
      </ul>
    </section>
  );
}
