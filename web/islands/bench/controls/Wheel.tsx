import { useRef } from 'react';

/**
 * Red, green and blue are at the corners of a triangle; an offset towards one subtracts from the
 * others.
 */
const DIRECTIONS = [90, 210, 330].map(
  (d) => [Math.cos((d * Math.PI) / 180), -Math.sin((d * Math.PI) / 180)] as const,
);
const SIZE = 76,
  RIM = 33;

/** An offset of red, green and blue. */
export type Push = readonly [number, number, number];

const placeOf = (c: Push, reach: number): [number, number] => {
  const at = DIRECTIONS.reduce<[number, number]>(
    ([x, y], d, i) => [x + (c[i]! * d[0] * 2) / 3, y + (c[i]! * d[1] * 2) / 3],
    [0, 0],
  );
  const length = Math.hypot(...at);
  const k = RIM / reach / Math.max(1, length / reach);
  return [at[0] * k, at[1] * k];
};

interface Props {
  readonly label: string;
  /** Offset of each channel in per cent; `reach` is the value at the rim. */
  readonly value: Push;
  readonly reach: number;
  readonly onChange: (v: Push, gesture: string) => void;
  readonly onEnd: () => void;
}

/**
 * A dish with notches for red, green and blue at its rim. Dragging pulls colour towards a notch;
 * arrow keys step, with Shift finely; a double click resets. What the channels have in common is
 * left to the number for all.
 */
export function Wheel({ label, value, reach, onChange, onEnd }: Props) {
  const svg = useRef<SVGSVGElement>(null);
  const drag = useRef<{ x: number; y: number; from: readonly [number, number] } | null>(null);
  const mean = (value[0] + value[1] + value[2]) / 3;
  const place = placeOf(value, reach);
  const put = ([x, y]: readonly [number, number]) => {
    const length = Math.hypot(x, y),
      k = (reach / RIM) * Math.min(1, RIM / Math.max(length, 1e-9));
    onChange(
      DIRECTIONS.map(
        (d) => Math.round((mean + (x * d[0] + y * d[1]) * k) * 100) / 100,
      ) as unknown as Push,
      `wheel ${label}`,
    );
  };
  const keys: Record<string, readonly [number, number]> = {
    ArrowLeft: [-1, 0],
    ArrowRight: [1, 0],
    ArrowUp: [0, -1],
    ArrowDown: [0, 1],
  };
  return (
    <svg
      ref={svg}
      role="slider"
      tabIndex={0}
      aria-label={`${label} wheel`}
      aria-valuenow={Math.round(Math.hypot(...place) * (reach / RIM))}
      aria-valuetext={`red ${value[0].toFixed(1)}, green ${value[1].toFixed(1)}, blue ${value[2].toFixed(1)}`}
      viewBox={`${-SIZE / 2} ${-SIZE / 2} ${SIZE} ${SIZE}`}
      className="w-full max-w-[76px] aspect-square touch-none cursor-crosshair rounded-full"
      onDoubleClick={() => {
        onChange([mean, mean, mean], `wheel ${label}`);
        onEnd();
      }}
      onPointerDown={(e) => {
        drag.current = { x: e.clientX, y: e.clientY, from: place };
        e.currentTarget.setPointerCapture(e.pointerId);
      }}
      onPointerMove={(e) => {
        const d = drag.current;
        if (!d) return;
        const scale =
          (SIZE / svg.current!.getBoundingClientRect().width) * (e.shiftKey ? 0.15 : 0.6);
        put([d.from[0] + (e.clientX - d.x) * scale, d.from[1] + (e.clientY - d.y) * scale]);
      }}
      onPointerUp={() => {
        drag.current = null;
        onEnd();
      }}
      onKeyDown={(e) => {
        const k = keys[e.key];
        if (!k) return;
        e.preventDefault();
        e.stopPropagation();
        const step = e.shiftKey ? 0.2 : 1;
        put([place[0] + k[0] * step, place[1] + k[1] * step]);
      }}
      onKeyUp={onEnd}
    >
      <circle r={RIM} fill="var(--color-base-300)" stroke="currentColor" strokeOpacity=".25" />
      {DIRECTIONS.map(([x, y], i) => (
        <g key={i}>
          <path
            d={`M${x * (RIM - 4)} ${y * (RIM - 4)}L${x * RIM} ${y * RIM}`}
            stroke="currentColor"
            strokeOpacity=".6"
          />
          <text
            x={x * (RIM - 9)}
            y={y * (RIM - 9) + 2.6}
            textAnchor="middle"
            fontSize="7.5"
            fill="currentColor"
            opacity=".7"
          >
            {'rgb'[i]}
          </text>
        </g>
      ))}
      <path d={`M0 0L${place[0]} ${place[1]}`} stroke="currentColor" strokeOpacity=".5" />
      <circle cx={place[0]} cy={place[1]} r="3" fill="currentColor" />
    </svg>
  );
}
