import { call } from '../../data/http';
import type { DeliveryView, ItemView } from '../../data/views';
import { bytes } from '../../domain/words';
import { deliveryFormat, loudnessInShort, loudnessInWords } from '../../../core';

interface Acts {
  readonly playing: string | null;
  readonly onPlay: (item: string) => void;
  readonly attempt: (w: Promise<unknown>) => void;
}

/** A delivery with its items. */
export function Delivery({ delivery, ...acts }: Acts & { readonly delivery: DeliveryView }) {
  const done = delivery.items.filter((i) => i.state === 'done').length;
  return (
    <article className="border line rounded-sm bg-base-100">
      <h2 className="px-3 py-2 border-b line flex gap-3 items-baseline">
        <span className="font-semibold">{deliveryFormat(delivery.format).label}</span>
        <span className="num quiet">
          {delivery.width}×{delivery.height}
          {delivery.coverage && ' · with coverage'}
        </span>
        <span className="num quiet ml-auto">
          {done} of {delivery.items.length} done ·{' '}
          {new Date(delivery.created).toLocaleString('en-GB', {
            day: 'numeric',
            month: 'short',
            hour: '2-digit',
            minute: '2-digit',
          })}
        </span>
      </h2>
      <ul>
        {delivery.items.map((i) => (
          <Item key={i.id} item={i} {...acts} />
        ))}
      </ul>
    </article>
  );
}

const STATES: Record<ItemView['state'], string> = {
  waiting: 'waiting',
  running: 'rendering',
  done: 'done',
  failed: 'failed',
  cancelled: 'cancelled',
};

/** The estimated remaining time; null before a few frames are done. */
function toGo({ started, rendered, frames }: ItemView): string | null {
  if (!started || rendered < 3 || rendered >= frames) return null;
  const seconds =
    ((Date.now() - new Date(started).getTime()) / 1000 / rendered) * (frames - rendered);
  return seconds < 60
    ? `${Math.max(1, Math.round(seconds))} s to go`
    : `${Math.round(seconds / 60)} min to go`;
}

function Item({ item, playing, onPlay, attempt }: Acts & { readonly item: ItemView }) {
  const busy = item.state === 'waiting' || item.state === 'running';
  const said = item.joining ? 'encoding' : STATES[item.state];
  return (
    <li
      className="px-3 py-1.5 grid grid-cols-[120px_1fr_auto_auto] gap-3 items-center border-b line last:border-b-0"
      data-clip={item.clipName}
      data-state={item.state}
    >
      <span className="truncate" title={item.lookName ?? 'no look'}>
        {item.clipName}
      </span>
      {item.state === 'failed' ? (
        <span role="alert">{item.error}</span>
      ) : (
        <progress
          className="bar"
          value={item.rendered}
          max={item.frames}
          aria-label={`${item.clipName}: ${said}`}
        />
      )}
      <span className="num quiet">
        {said} · {item.rendered}/{item.frames}
        {item.state === 'running' && !item.joining && toGo(item) && ` · ${toGo(item)}`}
        {item.bytes ? ` · ${bytes(item.bytes)}` : ''}
        {item.loudness && (
          <>
            {' · '}
            <span tabIndex={0} title={loudnessInWords(item.loudness)}>
              {loudnessInShort(item.loudness)}
            </span>
          </>
        )}
        {item.leftOut && ` · ${item.leftOut}`}
      </span>
      <span className="flex justify-end gap-1 min-w-24">
        {busy && (
          <button className="word" onClick={() => attempt(call('DELETE', `/api/items/${item.id}`))}>
            cancel
          </button>
        )}
        {item.state === 'done' && (
          <button
            className={`word ${playing === item.id ? 'framed' : ''}`}
            aria-pressed={playing === item.id}
            onClick={() => onPlay(item.id)}
          >
            play
          </button>
        )}
        {item.state === 'done' && (
          <a className="word framed" href={`/api/items/${item.id}/file`} download>
            download
          </a>
        )}
        {(item.state === 'failed' || item.state === 'cancelled') && (
          <button
            className="word framed"
            onClick={() => attempt(call('POST', `/api/items/${item.id}`))}
          >
            try again
          </button>
        )}
      </span>
    </li>
  );
}
