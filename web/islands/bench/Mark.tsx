import { type KeyboardEvent, useRef } from 'react';

/** Columns shared by time strip and lanes: label, track, value. */
export const COLUMNS = 'grid grid-cols-[148px_minmax(0,1fr)_132px] items-center gap-x-3 px-3';

/** The frame under the pointer, on a track of a number of frames. */
export function frameUnder(
  e: { readonly clientX: number; readonly currentTarget: Element },
  frames: number,
  track: Element = e.currentTarget,
): number {
  const r = track.getBoundingClientRect();
  return Math.round(Math.max(0, Math.min(1, (e.clientX - r.left) / r.width)) * (frames - 1));
}

interface MarkProps {
  readonly label: string;
  readonly frame: number;
  readonly frames: number;
  readonly className: string;
  readonly chosen?: boolean;
  readonly style?: React.CSSProperties;
  readonly onMove: (to: number, gesture: string) => void;
  readonly onEnd: () => void;
  /** Called when chosen; `more`: with Shift, in addition to those chosen. */
  readonly onChoose?: (more: boolean) => void;
  readonly onRemove?: () => void;
}
/** A mark on a lane, dragged or stepped with the arrow keys; it snaps to frames. */
export function Mark({
  label,
  frame,
  frames,
  className,
  chosen = false,
  style,
  onMove,
  onEnd,
  onChoose,
  onRemove,
}: MarkProps) {
  const dragging = useRef(false);
  const track = (e: { currentTarget: Element }): Element =>
    e.currentTarget.closest('[data-track]')!;
  const key = (e: KeyboardEvent): void => {
    const by = e.key === 'ArrowLeft' ? -1 : e.key === 'ArrowRight' ? 1 : 0;
    if (by !== 0)
      onMove(Math.max(0, Math.min(frames - 1, frame + by * (e.shiftKey ? 10 : 1))), 'step');
    else if ((e.key === 'Delete' || e.key === 'Backspace') && onRemove) onRemove();
    else return;
    e.preventDefault();
    e.stopPropagation();
  };
  return (
    <button
      aria-label={`${label} at ${frame}`}
      title={`${label}: frame ${frame}`}
      aria-pressed={chosen}
      className={`absolute touch-none cursor-ew-resize -translate-x-1/2 ${className}`}
      style={{
        left: `${Math.max(0, Math.min(1, frame / Math.max(1, frames - 1))) * 100}%`,
        ...style,
      }}
      onClick={(e) => {
        // Keyboard only; the pointer has chosen it on press.
        if (e.detail === 0) onChoose?.(e.shiftKey);
      }}
      onKeyDown={key}
      onKeyUp={onEnd}
      onPointerDown={(e) => {
        dragging.current = true;
        e.currentTarget.setPointerCapture(e.pointerId);
        onChoose?.(e.shiftKey);
      }}
      onPointerMove={(e) => {
        if (!dragging.current) return;
        const to = frameUnder(e, frames, track(e));
        if (to !== frame) onMove(to, 'drag');
      }}
      onPointerUp={() => {
        dragging.current = false;
        onEnd();
      }}
    />
  );
}
