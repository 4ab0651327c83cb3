import { NameField } from '../../components/NameField';
import type { ClipView, TraceView } from '../../data/views';

interface Props {
  readonly clip: Pick<ClipView, 'traces'>;
  readonly onName: (trace: string, name: string) => void;
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

/** What is traced in a clip's footage. */
export function Traces({ clip, onName }: Props) {
  if (clip.traces.length === 0) return null;
  return (
    <section aria-label="Traces">
      <h3 className="font-medium mb-1">Traces</h3>
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
          </li>
        ))}
      </ul>
    </section>
  );
}
