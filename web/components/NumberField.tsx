import { useRef, useState } from 'react';

/** Properties of number controls. */
export interface NumberProps {
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
const shown = (v: number, span: number): string =>
  String(Number(v.toFixed(digits(span) + (Math.abs(v) < 1 && v !== 0 ? 1 : 0))));

/** The slider's range, the finest step, and a setter that clamps to the allowed range. */
export function numberRange({
  label,
  min,
  max,
  soft,
  onChange,
}: Pick<NumberProps, 'label' | 'min' | 'max' | 'soft' | 'onChange'>) {
  const [lo, hi] = soft ?? [min, max];
  const hold = (v: number) => Math.max(min, Math.min(max, v));
  return {
    lo,
    hi,
    span: hi - lo,
    fine: (hi - lo) / 200,
    hold,
    send: (v: number) => onChange(Number(hold(v).toFixed(6)), `number ${label}`),
  };
}

/** A number field with a unit: typed, dragged, stepped by arrow keys, reset by a double click. */
export function NumberField(props: NumberProps & { readonly className?: string }) {
  const { label, value, unit = '', help, reset, onEnd, className = 'w-[7.4em] flex-none' } = props;
  const { span, fine, hold, send } = numberRange(props);
  const [typed, setTyped] = useState<string | null>(null);
  const drag = useRef<{ x: number; from: number; moved: boolean } | null>(null);
  const take = () => {
    if (typed === null) return;
    const v = Number(typed.replace(',', '.'));
    if (typed.trim() !== '' && Number.isFinite(v)) {
      send(v);
      onEnd();
    }
    setTyped(null);
  };
  return (
    <input
      className={`num bg-transparent text-right rounded-sm hover:bg-base-300 focus:bg-base-300 px-1 cursor-ew-resize focus:cursor-text min-w-0 ${className}`}
      aria-label={`${label}, typed`}
      title={help}
      inputMode="decimal"
      value={typed ?? `${shown(value, span)}${unit && unit !== 'encoded' ? ` ${unit}` : ''}`}
      onDoubleClick={() => {
        if (reset === undefined) return;
        send(reset);
        setTyped(null);
        onEnd();
      }}
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
  );
}
