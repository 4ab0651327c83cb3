import { useRef, useState } from 'react';
import { curveThrough, type CurvePoints } from '../../../../core';

const SIZE = 132;
const toX = (x: number): number => x * SIZE,
  toY = (y: number): number => (1 - y) * SIZE;

/**
 * A curve through points: click to add one, drag or use arrow keys to move, double click or Delete
 * to remove.
 */
export function CurveControl({
  label,
  points,
  onChange,
  onEnd,
}: {
  label: string;
  points: CurvePoints;
  onChange: (p: CurvePoints, gesture: string) => void;
  onEnd: () => void;
}) {
  const svg = useRef<SVGSVGElement>(null);
  const [held, setHeld] = useState<number | null>(null);
  const f = curveThrough(points);
  const path = Array.from(
    { length: 67 },
    (_, i) => `${i ? 'L' : 'M'}${toX(i / 66).toFixed(1)} ${toY(f(i / 66)).toFixed(1)}`,
  ).join('');
  const at = (e: { clientX: number; clientY: number }): [number, number] => {
    const r = svg.current!.getBoundingClientRect();
    return [(e.clientX - r.left) / r.width, 1 - (e.clientY - r.top) / r.height];
  };
  const move = (i: number, [x, y]: readonly [number, number]) => {
    const lo = i > 0 ? points[i - 1]![0] + 0.01 : 0,
      hi = i < points.length - 1 ? points[i + 1]![0] - 0.01 : 1;
    onChange(
      points.map((p, k) =>
        k === i ? [Math.max(lo, Math.min(hi, x)), Math.max(-0.2, Math.min(1.2, y))] : p,
      ),
      `curve ${label}`,
    );
  };
  const remove = (i: number) => {
    if (points.length > 2) {
      onChange(
        points.filter((_, k) => k !== i),
        'curve remove',
      );
      onEnd();
    }
  };
  const add = (e: React.PointerEvent) => {
    const [x] = at(e);
    if (points.some((p) => Math.abs(p[0] - x) < 0.03)) return;
    const next = [...points, [x, f(x)] as const].sort((a, b) => a[0] - b[0]);
    onChange(next, `curve ${label}`);
    setHeld(next.findIndex((p) => p[0] === x));
    svg.current!.setPointerCapture(e.pointerId);
  };
  const keys: Record<string, [number, number]> = {
    ArrowLeft: [-0.01, 0],
    ArrowRight: [0.01, 0],
    ArrowUp: [0, 0.01],
    ArrowDown: [0, -0.01],
  };
  return (
    <svg
      ref={svg}
      role="group"
      aria-label={`${label} curve`}
      viewBox={`-4 -4 ${SIZE + 8} ${SIZE + 8}`}
      className="w-[132px] h-[132px] bg-base-300 rounded-sm touch-none"
      onPointerDown={add}
      onPointerMove={(e) => {
        if (held !== null) move(held, at(e));
      }}
      onPointerUp={() => {
        setHeld(null);
        onEnd();
      }}
    >
      <path
        d={`M0 ${SIZE}L${SIZE} 0M${SIZE / 2} 0V${SIZE}M0 ${SIZE / 2}H${SIZE}`}
        stroke="currentColor"
        strokeOpacity=".16"
        fill="none"
      />
      <path d={path} stroke="currentColor" strokeWidth="1.4" fill="none" />
      {points.map(([x, y], i) => (
        <circle
          key={i}
          cx={toX(x)}
          cy={toY(y)}
          r="3.6"
          fill="currentColor"
          tabIndex={0}
          role="slider"
          aria-label={`${label} point ${i + 1}`}
          aria-valuenow={Math.round(y * 100)}
          className="cursor-move"
          onDoubleClick={() => remove(i)}
          onPointerDown={(e) => {
            e.stopPropagation();
            setHeld(i);
            svg.current!.setPointerCapture(e.pointerId);
          }}
          onKeyDown={(e) => {
            const k = keys[e.key];
            if (k) {
              e.preventDefault();
              e.stopPropagation();
              move(i, [x + k[0], y + k[1]]);
            } else if (e.key === 'Delete') {
              e.stopPropagation();
              remove(i);
            }
          }}
        />
      ))}
    </svg>
  );
}
