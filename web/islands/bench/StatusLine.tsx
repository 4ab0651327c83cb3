import { useSyncExternalStore } from 'react';
import type { ClipView } from '../../api/views';
import type { EngineClient } from '../../engine/client';

/** What computes, how long the latest picture took, and what of it was at hand. */
export function StatusLine({
  engine,
  clip,
  clips,
  onHero,
}: {
  engine: EngineClient;
  clip: ClipView;
  clips: readonly ClipView[];
  onHero: (id: string) => void;
}) {
  const s = useSyncExternalStore(
    (f) => engine.onStatus(f),
    () => engine.status,
  );
  return (
    <footer className="flex-none h-7 px-3 flex items-center gap-4 border-t line num quiet">
      <label className="flex items-center gap-2">
        hero{' '}
        <select className="field !py-0 num" value={clip.id} onChange={(e) => onHero(e.target.value)}>
          {clips.map((c) => (
            <option key={c.id} value={c.id}>
              {c.name}
            </option>
          ))}
        </select>
      </label>
      <span className="ml-auto" role="status">
        {s.trouble ??
          (s.threads === 0
            ? 'starting'
            : `simd · ${s.threads} thread${s.threads > 1 ? 's' : ''} · ${s.milliseconds.toFixed(0)} ms · ${s.computed} computed, ${s.found} at hand`)}
      </span>
    </footer>
  );
}
