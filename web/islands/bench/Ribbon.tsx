import { Pause, Play } from 'lucide-react';
import { timecode } from '../../../core/time';
import type { ClipView } from '../../api/views';

/** The time ribbon: the hero's frames, the playhead, play and stop. */
export function Ribbon({
  clip,
  cues,
  frame,
  playing,
  onFrame,
  onPlay,
}: {
  clip: ClipView;
  cues: readonly number[];
  frame: number;
  playing: boolean;
  onFrame: (f: number) => void;
  onPlay: () => void;
}) {
  const last = Math.max(1, clip.frames - 1);
  const every = Math.max(1, Math.round(clip.rate[0] / clip.rate[1]));
  const seek = (e: React.PointerEvent) => {
    const r = e.currentTarget.getBoundingClientRect();
    onFrame(Math.round(Math.max(0, Math.min(1, (e.clientX - r.left) / r.width)) * (clip.frames - 1)));
  };
  return (
    <div className="flex-none h-9 px-3 flex items-center gap-3 border-t line bg-base-100">
      <button className="word" aria-label={playing ? 'Stop' : 'Play'} onClick={onPlay}>
        {playing ? <Pause size={14} aria-hidden="true" /> : <Play size={14} aria-hidden="true" />}
      </button>
      <span className="num w-[4.6rem]">{timecode(frame, clip.rate)}</span>
      <div
        role="slider"
        tabIndex={0}
        aria-label="Frame"
        aria-valuemin={0}
        aria-valuemax={clip.frames - 1}
        aria-valuenow={frame}
        className="relative flex-1 h-6 touch-none cursor-pointer"
        onPointerDown={(e) => {
          e.currentTarget.setPointerCapture(e.pointerId);
          seek(e);
        }}
        onPointerMove={(e) => {
          if (e.currentTarget.hasPointerCapture(e.pointerId)) seek(e);
        }}
      >
        <span className="absolute left-0 right-0 top-1/2 h-px bg-current opacity-25" aria-hidden="true" />
        {Array.from({ length: Math.floor((clip.frames - 1) / every) + 1 }, (_, i) => (
          <span
            key={i}
            aria-hidden="true"
            className="absolute top-[8px] h-[8px] w-px bg-current opacity-35"
            style={{ left: `${((i * every) / last) * 100}%` }}
          />
        ))}
        {cues.map((f) => (
          <span
            key={`cue ${f}`}
            role="img"
            aria-label={`cue at ${f}`}
            title={`cue at ${f}`}
            className="absolute bottom-0 w-[7px] h-[7px] -translate-x-1/2 rotate-45 border border-primary"
            style={{ left: `${(f / last) * 100}%` }}
          />
        ))}
        <span aria-hidden="true" className="absolute top-0 bottom-0 w-[1.5px] bg-primary" style={{ left: `${(frame / last) * 100}%` }} />
      </div>
      <span className="num quiet w-[5.6rem] text-right">
        {frame} / {clip.frames - 1}
      </span>
    </div>
  );
}
