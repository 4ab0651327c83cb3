import { useQuery } from '@tanstack/react-query';
import { useEffect, useRef, useState } from 'react';
import { call } from '../../data/http';
import type { ItemView } from '../../data/views';

/** Rate of all proxies, whatever the footage's. */
const PROXY_RATE = 25;

interface Props {
  readonly item: ItemView;
  /** The proxy of the footage: its first frame, and the file's rate. */
  readonly before: {
    readonly url: string;
    readonly first: number;
    readonly perSecond: number;
  } | null;
  readonly onClose: () => void;
}

/** Interval between questions about a copy's progress, ms. */
const ASK_AGAIN = 300;
/**
 * Progress of the playable copy of a rendered file, 0…1. A copy that nobody waits for is cancelled.
 */
function usePlayback(item: string): { readonly share: number; readonly trouble: string | null } {
  const url = `/api/items/${item}/playback`;
  const { data, error } = useQuery({
    queryKey: ['playback', item],
    queryFn: () => call<{ share: number }>('POST', url),
    refetchInterval: (q) =>
      q.state.status === 'error' || (q.state.data?.share ?? 0) >= 1 ? false : ASK_AGAIN,
    retry: false,
    gcTime: 0,
  });
  const share = data?.share ?? 0,
    latest = useRef(share);
  latest.current = share;
  useEffect(() => () => void (latest.current < 1 && call('DELETE', url).catch(() => {})), [url]);
  return { share, trouble: error?.message ?? null };
}

/** Plays a rendered file; B or its button shows the footage instead, in step. */
export function Player({ item, before, onClose }: Props) {
  const after = useRef<HTMLVideoElement>(null),
    own = useRef<HTMLVideoElement>(null),
    whole = useRef<HTMLElement>(null);
  const [isBefore, setBefore] = useState(false);
  const [unread, setUnread] = useState<string | null>(null);
  const { share, trouble: unmade } = usePlayback(item.id);
  const trouble = unread ?? unmade;
  useEffect(() => whole.current?.focus(), [item.id]);
  // The file leads; the footage behind follows it.
  const follow = () => {
    const [a, b] = [after.current, own.current];
    if (!a || !b || !before) return;
    const there = (before.first + a.currentTime * before.perSecond) / PROXY_RATE;
    b.playbackRate = before.perSecond / PROXY_RATE;
    if (Math.abs(b.currentTime - there) > 0.06) b.currentTime = there;
    if (a.paused !== b.paused)
      void (a.paused ? Promise.resolve(b.pause()) : b.play().catch(() => {}));
  };
  return (
    <section
      ref={whole}
      tabIndex={-1}
      aria-label={`${item.clipName}, rendered`}
      className="border line bg-base-300 flex flex-col outline-none"
      onKeyDown={(e) => {
        if (e.key === 'Escape') onClose();
        else if (e.key.toLowerCase() === 'b' && before && !e.ctrlKey && !e.metaKey)
          setBefore((on) => !on);
        else return;
        e.preventDefault();
      }}
    >
      <div className="relative">
        {share < 1 && !trouble && (
          <p className="h-40 flex items-center justify-center gap-3 whitespace-nowrap">
            a copy that browsers can play is being made
            <span className="w-40">
              <progress className="bar" value={share} max={1} aria-label="Copy to play" />
            </span>
            <span className="num w-12">{Math.round(share * 100)} %</span>
          </p>
        )}
        {share >= 1 && (
          <video
            ref={after}
            className="w-full max-h-[52vh] block"
            src={`/api/items/${item.id}/playback`}
            controls
            loop
            autoPlay={!matchMedia('(prefers-reduced-motion: reduce)').matches}
            aria-label={`${item.clipName} as it was rendered`}
            onTimeUpdate={follow}
            onPlay={follow}
            onPause={follow}
            onSeeked={follow}
            onError={() =>
              setUnread('This browser cannot play the file: download it to look at it.')
            }
          />
        )}
        {before && (
          <video
            ref={own}
            className={`absolute inset-0 w-full h-full object-contain bg-base-300 pointer-events-none ${isBefore ? '' : 'invisible'}`}
            src={before.url}
            muted
            playsInline
            aria-label={`${item.clipName} as it was shot`}
          />
        )}
      </div>
      <div className="flex items-center gap-2 px-3 py-1.5 bg-base-100">
        <span className="font-semibold">{item.clipName}</span>
        <span className="quiet mr-auto truncate">{item.lookName ?? 'no look'}</span>
        {trouble && <span role="alert">{trouble}</span>}
        {before && (
          <button
            className={`word ${isBefore ? 'framed' : ''}`}
            aria-pressed={isBefore}
            onClick={() => setBefore(!isBefore)}
          >
            before <span className="num quiet">B</span>
          </button>
        )}
        <a className="word" href={`/api/items/${item.id}/file`} download>
          download
        </a>
        <button className="word" onClick={onClose}>
          close <span className="num quiet">Esc</span>
        </button>
      </div>
    </section>
  );
}
