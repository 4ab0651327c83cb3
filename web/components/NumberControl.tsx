import { NumberField, type NumberProps, numberRange } from './NumberField';

/** A slider with a number field; a double click resets it. */
export function NumberControl(props: NumberProps) {
  const { label, value, help, reset, onEnd } = props;
  const { lo, hi, span, fine, send } = numberRange(props);
  const share = Math.max(0, Math.min(100, ((value - lo) / span) * 100));
  return (
    <div
      className="flex items-center gap-2 min-w-0 isolate"
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
      <NumberField {...props} />
    </div>
  );
}
