import { type PointerEvent, type ReactNode, useState } from 'react';

/** The line between before (left of it, or above) and after, dragged or moved by the arrow keys. */
export function Seam({
  upright,
  children,
}: {
  upright: boolean;
  children: (clipPath: string) => ReactNode;
}) {
  const [at, setAt] = useState(50);
  const to = (v: number) => setAt(Math.max(0, Math.min(100, v)));
  const drag = (e: PointerEvent) => {
    if (!e.currentTarget.hasPointerCapture(e.pointerId)) return;
    const r = e.currentTarget.parentElement!.getBoundingClientRect();
    to((upright ? (e.clientX - r.left) / r.width : (e.clientY - r.top) / r.height) * 100);
  };
  const [back, on] = upright ? ['ArrowLeft', 'ArrowRight'] : ['ArrowUp', 'ArrowDown'];
  return (
    <>
      {children(upright ? `inset(0 ${100 - at}% 0 0)` : `inset(0 0 ${100 - at}% 0)`)}
      <div
        role="slider"
        tabIndex={0}
        aria-label="Seam"
        aria-orientation={upright ? 'horizontal' : 'vertical'}
        aria-valuenow={Math.round(at)}
        aria-valuemin={0}
        aria-valuemax={100}
        className={`absolute grid touch-none ${upright ? 'top-0 bottom-0 w-4 -ml-2 cursor-ew-resize justify-center' : 'left-0 right-0 h-4 -mt-2 cursor-ns-resize items-center'}`}
        style={upright ? { left: `${at}%` } : { top: `${at}%` }}
        onPointerDown={(e) => {
          e.stopPropagation();
          e.currentTarget.setPointerCapture(e.pointerId);
        }}
        onPointerMove={drag}
        onKeyDown={(e) => {
          if (e.key !== back && e.key !== on) return;
          e.stopPropagation();
          e.preventDefault();
          to(at + (e.key === back ? -2 : 2));
        }}
      >
        <span className={upright ? 'w-[1.5px] bg-primary' : 'h-[1.5px] bg-primary'} />
      </div>
    </>
  );
}
