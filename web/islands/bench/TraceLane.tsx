import type { Stretch, Sureness } from '../../domain/traces';

/** Height and strength by how sure a place is: what is lost leaves a gap. */
const LOOKS: Readonly<Record<Sureness, { readonly height: number; readonly className: string }>> = {
  marked: { height: 16, className: 'fill-base-content' },
  sure: { height: 8, className: 'fill-base-content/70' },
  unsure: { height: 3, className: 'fill-base-content/45' },
  lost: { height: 0, className: '' },
};

/** A lane of a clip's frames: marked, sure, unsure, lost; a click goes to a frame. */
export function TraceLane({
  stretches,
  frames,
  frame,
  name,
  onFrame,
}: {
  readonly stretches: readonly Stretch[];
  readonly frames: number;
  readonly frame: number;
  readonly name: string;
  readonly onFrame: (frame: number) => void;
}) {
  const at = (clientX: number, box: DOMRect): number =>
    Math.max(
      0,
      Math.min(frames - 1, Math.floor(((clientX - box.left) / Math.max(1, box.width)) * frames)),
    );
  const here = stretches.find((s) => frame >= s.first && frame <= s.last);
  return (
    <svg
      className="w-full h-4 cursor-pointer bg-base-300 rounded-sm"
      viewBox={`0 0 ${frames} 16`}
      preserveAspectRatio="none"
      role="slider"
      tabIndex={0}
      aria-label={`Frames of ${name}`}
      aria-valuemin={0}
      aria-valuemax={frames - 1}
      aria-valuenow={frame}
      aria-valuetext={`frame ${frame}${here ? `, ${here.is}` : ''}`}
      onPointerDown={(e) => {
        e.currentTarget.setPointerCapture(e.pointerId);
        onFrame(at(e.clientX, e.currentTarget.getBoundingClientRect()));
      }}
      onPointerMove={(e) => {
        if (e.buttons === 1) onFrame(at(e.clientX, e.currentTarget.getBoundingClientRect()));
      }}
    >
      {stretches.map(({ first, last, is }) => (
        <rect
          key={first}
          x={first}
          width={last - first + 1}
          y={(16 - LOOKS[is].height) / 2}
          height={LOOKS[is].height}
          className={LOOKS[is].className}
        />
      ))}
      <rect
        x={frame}
        width={Math.max(0.5, frames / 200)}
        y={0}
        height={16}
        className="fill-primary"
      />
    </svg>
  );
}
