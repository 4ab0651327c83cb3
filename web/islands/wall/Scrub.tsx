import type { PointerEvent } from 'react';
import type { ClipView } from '../../data/views';

/** The clip being scrubbed, and its frame. */
export interface Scrubbed {
  readonly clip: string;
  readonly frame: number;
}
interface Props {
  readonly clip: ClipView;
  readonly frame: number;
  readonly last: number;
  /** Height of the picture in pixels; the strip is at its bottom. */
  readonly below: number;
  readonly onScrub: (s: Scrubbed | null) => void;
}
const HIGH = 18;

/**
 * A strip at the bottom of a tile that scrubs the clip: by pointer, or frame by frame with keys.
 * Afterwards the tile shows the playhead again.
 */
export function Scrub({ clip, frame, last, below, onScrub }: Props) {
  const to = (f: number) => onScrub({ clip: clip.id, frame: Math.max(0, Math.min(last, f)) });
  const under = (e: PointerEvent) => {
    const r = e.currentTarget.getBoundingClientRect();
    to(Math.round(((e.clientX - r.left) / r.width) * last));
  };
  return (
    <div
      role="slider"
      tabIndex={-1}
      aria-label={`Through ${clip.name}`}
      aria-valuemin={0}
      aria-valuemax={last}
      aria-valuenow={frame}
      title={`frame ${frame}: move along here to go through the clip`}
      className="absolute left-0 right-0 cursor-ew-resize touch-none opacity-0 group-hover:opacity-100 focus:opacity-100"
      style={{ top: below - HIGH, height: HIGH }}
      onPointerMove={under}
      onPointerLeave={() => onScrub(null)}
      onBlur={() => onScrub(null)}
      // A click here neither chooses the tile nor draws a box.
      onPointerDown={(e) => e.stopPropagation()}
      onClick={(e) => e.stopPropagation()}
      onKeyDown={(e) => {
        const by = { ArrowLeft: -1, ArrowRight: 1 }[e.key];
        if (by === undefined) return;
        e.preventDefault();
        e.stopPropagation();
        to(frame + by * (e.shiftKey ? 10 : 1));
      }}
    >
      <span
        aria-hidden="true"
        className="absolute left-1 right-1 bottom-[3px] h-[3px] bg-base-100 opacity-80"
      />
      <span
        aria-hidden="true"
        className="absolute bottom-0 w-[3px] h-[9px] bg-primary -translate-x-1/2"
        style={{ left: `calc(4px + (100% - 8px) * ${last > 0 ? frame / last : 0})` }}
      />
    </div>
  );
}
