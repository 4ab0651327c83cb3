import type { ClipView } from '../../data/views';

/** What is traced in a clip's footage. */
export function Traces({ clip }: { readonly clip: Pick<ClipView, 'traces'> }) {
  if (clip.traces.length === 0) return null;
  return (
    <section aria-label="Traces">
      <h3 className="font-medium">Traces</h3>
      <ul>
        {clip.traces.map((t) => (
          <li key={t.id} className="flex gap-2">
            <span className="truncate">{t.name}</span>
            <span className="quiet num ml-auto whitespace-nowrap">
              {t.marks.length === 1 ? '1 mark' : `${t.marks.length} marks`}
              {', '}
              {!t.follow
                ? 'by hand'
                : t.state === 'done'
                  ? 'followed'
                  : t.state === 'failed'
                    ? 'could not be followed'
                    : t.state === 'cancelled'
                      ? 'stopped'
                      : `following ${Math.floor(t.progress * 100)} %`}
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}
