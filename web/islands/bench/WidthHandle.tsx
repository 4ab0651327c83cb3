import { useRef } from 'react';

interface EdgeProps {
  readonly label: string;
  /** Size in pixels, its limits, and the initial one. */
  readonly size: number;
  readonly min: number;
  readonly max: number;
  readonly first: number;
  readonly onSize: (s: number) => void;
  /** Along which axis it is dragged, and how much larger a pixel of that makes it. */
  readonly axis: 'x' | 'y';
  readonly by: 1 | -1;
  readonly className: string;
}
/** An edge, dragged or stepped by arrow keys; a double click restores the initial size. */
function Edge({ label, size, min, max, first, onSize, axis, by, className }: EdgeProps) {
  const drag = useRef<{ readonly at: number; readonly from: number } | null>(null);
  const to = (s: number) => onSize(Math.round(Math.max(min, Math.min(max, s))));
  const [less, more] = axis === 'x' ? ['ArrowLeft', 'ArrowRight'] : ['ArrowUp', 'ArrowDown'];
  const place = (e: { clientX: number; clientY: number }) => (axis === 'x' ? e.clientX : e.clientY);
  return (
    <div
      role="separator"
      aria-orientation={axis === 'x' ? 'vertical' : 'horizontal'}
      aria-label={label}
      aria-valuemin={min}
      aria-valuemax={max}
      aria-valuenow={size}
      tabIndex={0}
      title={`${label}: drag, or the arrow keys`}
      className={`absolute z-10 touch-none hover:bg-primary/40 focus:bg-primary/40 outline-none ${className}`}
      onPointerDown={(e) => {
        drag.current = { at: place(e), from: size };
        e.currentTarget.setPointerCapture(e.pointerId);
      }}
      onPointerMove={(e) => {
        const d = drag.current;
        if (d) to(d.from + by * (place(e) - d.at));
      }}
      onPointerUp={() => (drag.current = null)}
      onDoubleClick={() => onSize(first)}
      onKeyDown={(e) => {
        const step = { [less!]: -16, [more!]: 16 }[e.key];
        if (step === undefined) return;
        e.preventDefault();
        e.stopPropagation();
        to(size + by * step);
      }}
    />
  );
}

interface WidthProps extends Pick<EdgeProps, 'label' | 'min' | 'max' | 'first'> {
  readonly width: number;
  readonly onWidth: (w: number) => void;
}
/** The right edge of a column. */
export const WidthHandle = ({ width, onWidth, ...rest }: WidthProps) => (
  <Edge
    {...rest}
    size={width}
    onSize={onWidth}
    axis="x"
    by={1}
    className="right-0 top-0 bottom-0 w-[5px] cursor-col-resize"
  />
);

interface HeightProps extends Pick<EdgeProps, 'label' | 'min' | 'max' | 'first'> {
  readonly height: number;
  readonly onHeight: (h: number) => void;
}
/** The upper edge of a row: up makes it higher. */
export const HeightHandle = ({ height, onHeight, ...rest }: HeightProps) => (
  <Edge
    {...rest}
    size={height}
    onSize={onHeight}
    axis="y"
    by={-1}
    className="left-0 right-0 top-0 h-[5px] cursor-row-resize"
  />
);
