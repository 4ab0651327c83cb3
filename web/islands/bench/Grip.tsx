import { type KeyboardEvent, memo, type PointerEvent, useRef } from 'react';
import type { Place } from '../../domain/outlines';

interface GripProps {
  readonly label: string;
  readonly at: Place;
  readonly onMove: (x: number, y: number, gesture: string, e: PointerEvent | KeyboardEvent) => void;
  readonly end: () => void;
  readonly kind?: 'node' | 'corner' | 'arm';
  /** Handles keys besides the arrows; returns whether it did. */
  readonly onKey?: (e: KeyboardEvent) => boolean;
  readonly onDoubleClick?: () => void;
}
const SHAPES = {
  node: 'w-[11px] h-[11px] rounded-full',
  corner: 'w-[10px] h-[10px]',
  arm: 'w-[7px] h-[7px] rounded-full',
};

/** A point that is dragged, or moved by the arrow keys (0.1 %; with Shift 1 %). */
export function Grip({ label, at, onMove, end, kind = 'node', onKey, onDoubleClick }: GripProps) {
  const from = useRef<{ x: number; y: number; at: Place; width: number; height: number } | null>(
    null,
  );
  const down = (e: PointerEvent<HTMLElement>) => {
    e.stopPropagation();
    e.currentTarget.setPointerCapture(e.pointerId);
    const r = e.currentTarget.closest('[data-testid=handles]')!.getBoundingClientRect();
    from.current = { x: e.clientX, y: e.clientY, at, width: r.width, height: r.height };
  };
  const move = (e: PointerEvent) => {
    const f = from.current;
    if (f)
      onMove(
        f.at[0] + (e.clientX - f.x) / f.width,
        f.at[1] + (e.clientY - f.y) / f.height,
        `handle ${label}`,
        e,
      );
  };
  const up = () => {
    if (from.current) end();
    from.current = null;
  };
  const key = (e: KeyboardEvent) => {
    const by = e.shiftKey ? 0.01 : 0.001;
    const step: Place | undefined = {
      ArrowLeft: [-by, 0],
      ArrowRight: [by, 0],
      ArrowUp: [0, -by],
      ArrowDown: [0, by],
    }[e.key] as Place | undefined;
    if (step) onMove(at[0] + step[0], at[1] + step[1], `handle ${label}`, e);
    else if (!onKey?.(e)) return;
    e.preventDefault();
    e.stopPropagation();
  };
  return (
    <button
      className={`absolute -translate-x-1/2 -translate-y-1/2 ${SHAPES[kind]} border-2 border-primary bg-black/40 outline-1 outline-black/60 focus-visible:bg-primary pointer-events-auto cursor-move touch-none`}
      style={{ left: `${at[0] * 100}%`, top: `${at[1] * 100}%` }}
      aria-label={label}
      title={label}
      onPointerDown={down}
      onPointerMove={move}
      onPointerUp={up}
      onKeyDown={key}
      onBlur={end}
      onDoubleClick={onDoubleClick}
    />
  );
}

/** A grip that re-renders only when its appearance changes. */
export const StillGrip = memo(
  Grip,
  (a, b) => a.label === b.label && a.kind === b.kind && a.at[0] === b.at[0] && a.at[1] === b.at[1],
);
