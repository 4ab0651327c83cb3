import { useSyncExternalStore } from 'react';
import type { ClipView } from '../../data/views';
import type { EngineClient, Status } from '../../engine/client/client';
import type { BackEndChoice } from '../../engine/protocol';
import { Choice } from '../../components/Choice';
import { ROW_WORDS, ROWS, type Rows } from './Companions';
import { AssetStates } from './AssetStates';
import { ReachState } from './ReachState';

function said({ ready, milliseconds, computed, found }: Status): string {
  if (!ready) return 'starting';
  const by =
    ready.backEnd === 'glsl'
      ? 'glsl'
      : `simd · ${ready.threads} thread${ready.threads > 1 ? 's' : ''}`;
  return `${by}${ready.why ? ` (${ready.why})` : ''} · ${milliseconds.toFixed(0)} ms · ${computed} computed, ${found} at hand`;
}

/** Shows the back end, the time of the latest picture, and how much of it was cached. */
export function StatusLine({
  engine,
  clip,
  clips,
  rows,
  onRows,
  onHero,
  onTrouble,
}: {
  engine: EngineClient;
  clip: ClipView;
  clips: readonly ClipView[];
  rows: Rows;
  onRows: (r: Rows) => void;
  onHero: (id: string) => void;
  onTrouble: (text: string) => void;
}) {
  const s = useSyncExternalStore(
    (f) => engine.onStatus(f),
    () => engine.status,
  );
  return (
    <footer className="flex-none h-7 px-3 flex items-center gap-4 border-t line num quiet whitespace-nowrap min-w-0">
      <label className="flex items-center gap-2">
        hero{' '}
        <Choice className="field !py-0 num max-w-40" value={clip.id} onChange={(v) => onHero(v)}>
          {clips.map((c) => (
            <option key={c.id} value={c.id}>
              {c.name}
            </option>
          ))}
        </Choice>
      </label>
      <Choice
        className="word quiet !py-0"
        face="companions"
        aria-label="Rows of companions"
        title={`Other clips under the look: ${ROW_WORDS[rows]}`}
        value={String(rows)}
        onChange={(v) => onRows(Number(v) as Rows)}
      >
        {ROWS.map((r) => (
          <option key={r} value={r}>
            {ROW_WORDS[r]}
          </option>
        ))}
      </Choice>
      <AssetStates clip={clip} onTrouble={onTrouble} />
      <ReachState clip={clip} />
      <label
        className="flex items-center gap-2 ml-auto"
        title="What computes the preview. Renders are always simd."
      >
        computed by{' '}
        <Choice
          className="field !py-0 num max-w-40"
          value={engine.backEnd}
          onChange={(v) => (engine.backEnd = v as BackEndChoice)}
        >
          <option value="automatic">automatic</option>
          <option value="simd">simd (processor)</option>
          <option value="glsl">glsl (graphics)</option>
        </Choice>
      </label>
      <span role="status" className="truncate min-w-0" title={s.trouble ?? said(s)}>
        {s.trouble ?? said(s)}
      </span>
    </footer>
  );
}
