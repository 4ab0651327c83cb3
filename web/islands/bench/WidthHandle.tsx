import { useRef } from 'react';

interface Props {
  readonly label: string;
  /** Width in pixels. */
  readonly width: number;
  readonly min: number;
  readonly max: number;
  readonly onWidth: (w: number) => void;
}
/**
 * The edge of a column, dragged or stepped by arrow keys; a double click restores the initial
 * width.
 */
export function WidthHandle({
  label,
  width,
  min,
  max,
  onWidth,
  first,
}: Props & { readonly first: number }) {
  const drag = useRef<{ readonly x: number; readonly from: number } | null>(null);
  const to = (w: number) => onWidth(Math.round(Math.max(min, Math.min(max, w))));
  return (
    <div
      role="separator"
      aria-orientation="vertical"
      aria-label={label}
      aria-valuemin={min}
      aria-valuemax={max}
      aria-valuenow={width}
      tabIndex={0}
      title={`${label}: drag, or the arrow keys`}
      className="absolute right-0 top-0 bottom-0 w-[5px] z-10 cursor-col-resize touch-none hover:bg-primary/40 focus:bg-primary/40 outline-none"
      onPointerDown={(e) => {
        drag.current = { x: e.clientX, from: width };
        e.currentTarget.setPointerCapture(e.pointerId);
      }}
      onPointerMove={(e) => drag.current && to(drag.current.from + e.clientX - drag.current.x)}
      onPointerUp={() => (drag.current = null)}
      onDoubleClick={() => onWidth(first)}
      onKeyDown={(e) => {
        const by = { ArrowLeft: -16, ArrowRight: 16 }[e.key];
        if (by === undefined) return;
        e.preventDefault();
        e.stopPropagation();
        to(width + by);
      }}
    />
  );
}
