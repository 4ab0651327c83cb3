import { memo, useSyncExternalStore } from 'react';
import type { ClipView } from '../../data/views';
import type { EngineClient } from '../../engine/client/client';
import { Picture } from '../../engine/client/Picture';
import { rateLabel } from '../../domain/words';

interface Props {
  readonly engine: EngineClient;
  readonly clip: ClipView;
  /** Width ÷ height of the project's frame. */
  readonly aspect: number;
  readonly chosen: boolean;
  /** Whether it has the keyboard focus. */
  readonly at: boolean;
  /** Number of trims of its look. */
  readonly trims: number;
  /** Whether the view without the look is shown beside. */
  readonly beside: boolean;
  readonly flags: string | null;
}

/** A mark on a view while its picture is outdated. */
function Old({ engine, view }: { engine: EngineClient; view: string }) {
  const old = useSyncExternalStore(
    (f) => engine.onAges(f),
    () => engine.isOld(view),
  );
  return old ? (
    <span role="status" className="absolute right-1 top-1 px-1 rounded-sm bg-base-300 quiet">
      being drawn anew
    </span>
  ) : null;
}

/** A clip on the Wall: its picture and decisions. */
export const Tile = memo(function Tile({
  engine,
  clip: c,
  aspect,
  chosen,
  at,
  trims,
  beside,
  flags,
}: Props) {
  const style = { aspectRatio: beside ? `${aspect * 2}` : `${aspect}` };
  return (
    <button
      aria-pressed={chosen}
      data-clip={c.name}
      data-id={c.id}
      tabIndex={at ? 0 : -1}
      title={c.note || undefined}
      className={`block w-full text-left rounded-sm bg-base-200 border ${chosen ? 'border-primary' : 'line'}`}
    >
      <span className={`relative block bg-base-300 ${beside ? 'flex' : ''}`} style={style}>
        {beside && (
          <Picture
            engine={engine}
            view={`beside:${c.id}`}
            label={`${c.name} before its look`}
            className="w-1/2 h-full object-contain"
          />
        )}
        <Picture
          engine={engine}
          view={`tile:${c.id}`}
          label={`${c.name} under ${c.look?.name ?? 'no look'}`}
          className={`${beside ? 'w-1/2' : 'w-full'} h-full object-contain`}
        />
        <Old engine={engine} view={`tile:${c.id}`} />
      </span>
      <span className="flex gap-2 px-2 py-1.5 whitespace-nowrap">
        <span className="truncate font-medium flex-1">
          {chosen && (
            <span aria-hidden="true" className="text-primary">
              ●{' '}
            </span>
          )}
          {c.name}
        </span>
        {flags && <span title={flags}>flagged</span>}
        {trims > 0 && (
          <span className="quiet" title={`${trims} dial${trims === 1 ? '' : 's'} of its own`}>
            <span className="text-primary">◆</span>
            <span className="num">{trims}</span>
          </span>
        )}
        {c.status !== 'open' && <span className="quiet">{c.status}</span>}
        {c.balance && <span className="quiet">balanced</span>}
        <span
          className="quiet truncate"
          title={
            c.look
              ? c.follows
                ? 'follows the newest version'
                : 'stays at this version'
              : undefined
          }
        >
          {c.look ? `${c.look.name} v${c.look.number}${c.follows ? '' : ' stays'}` : 'no look'}
        </span>
        <span className="num quiet self-center">{rateLabel(c.rate)}</span>
      </span>
    </button>
  );
});
