import { useRef, useState } from 'react';

interface Props {
  readonly label: string;
  readonly value: number;
  readonly min: number;
  readonly max: number;
  readonly soft?: readonly [number, number] | undefined;
  readonly unit?: string | undefined;
  readonly help?: string | undefined;
  readonly reset?: number;
  readonly onChange: (v: number, gesture: string) => void;
  readonly onEnd: () => void;
}

const digits = (span: number): number => (span > 50 ? 0 : span > 5 ? 1 : 2);
const shown = (v: number, span: number): string => String(Number(v.toFixed(digits(span) + (Math.abs(v) < 1 && v !== 0 ? 1 : 0))));

/** A number with its unit: dragged on its line or its figure, typed, stepped with the arrow keys, reset by a double click. */
export function NumberControl({ label, value, min, max, soft, unit = '', help, reset, onChange, onEnd }: Props) {
  const [lo, hi] = soft ?? [min, max];
  const span = hi - lo,
    fine = span / 200;
  const [typed, setTyped] = useState<string | null>(null);
  const drag = useRef<{ x: number; from: number; moved: boolean } | null>(null);
  const hold = (v: number) => Math.max(min, Math.min(max, v));
  const send = (v: number) => onChange(Number(hold(v).toFixed(6)), `number ${label}`);
  const take = () => {
    if (typed === null) return;
    const v = Number(typed.replace(',', '.'));
    if (typed.trim() !== '' && Number.isFinite(v)) {
      send(v);
      onEnd();
    }
    setTyped(null);
  };
  const share = Math.max(0, Math.min(100, ((value - lo) / span) * 100));
  return (
    <div
      className="flex items-center gap-2 min-w-0"
      onDoubleClick={() => {
        if (reset !== undefined) {
          send(reset);
          onEnd();
        }
      }}
    >
      <input
        type="range"
        className="slide"
        aria-label={label}
        title={help}
        min={Math.min(lo, value)}
        max={Math.max(hi, value)}
        step={fine}
        value={value}
        style={{ ['--share' as string]: `${share}%` }}
        onChange={(e) => send(Number(e.target.value))}
        onPointerUp={onEnd}
        onKeyUp={onEnd}
      />
      <input
        className="num bg-transparent w-[7.4em] text-right rounded-sm hover:bg-base-300 focus:bg-base-300 px-1 cursor-ew-resize focus:cursor-text"
        aria-label={`${label}, typed`}
        inputMode="decimal"
        value={typed ?? `${shown(value, span)}${unit && unit !== 'encoded' ? ` ${unit}` : ''}`}
        onFocus={(e) => {
          setTyped(shown(value, span));
          const field = e.target;
          requestAnimationFrame(() => field.select());
        }}
        onBlur={take}
        onChange={(e) => setTyped(e.target.value)}
        onKeyDown={(e) => {
          if (e.key === 'Enter') e.currentTarget.blur();
          else if (e.key === 'Escape') {
            setTyped(null);
            e.currentTarget.blur();
          } else if (e.key === 'ArrowUp' || e.key === 'ArrowDown') {
            e.preventDefault();
            const next = hold(value + (e.key === 'ArrowUp' ? 1 : -1) * fine * (e.shiftKey ? 10 : 1));
            send(next);
            setTyped(shown(next, span));
          }
        }}
        onPointerDown={(e) => {
          if (document.activeElement !== e.currentTarget) {
            e.preventDefault();
            drag.current = { x: e.clientX, from: value, moved: false };
            e.currentTarget.setPointerCapture(e.pointerId);
          }
        }}
        onPointerMove={(e) => {
          const d = drag.current;
          if (!d) return;
          const dx = e.clientX - d.x;
          if (Math.abs(dx) > 2) d.moved = true;
          if (d.moved) send(d.from + dx * fine * (e.shiftKey ? 0.1 : 1));
        }}
        onPointerUp={(e) => {
          const d = drag.current;
          drag.current = null;
          if (d && !d.moved) e.currentTarget.focus();
          else onEnd();
        }}
      />
    </div>
  );
}
