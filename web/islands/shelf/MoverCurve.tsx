import {
  edit,
  emptyLook,
  evaluationAt,
  type LookDocument,
  type Mover,
  OPACITY,
} from '../../../core';

const FRAMES = 75;

/** A kept mover over three seconds, as a curve. */
export function MoverCurve({ mover }: { mover: Mover }) {
  const base: LookDocument = edit.addLayer(
    { ...emptyLook('Curve'), pins: [] },
    edit.newLayer('x', 'clip', []),
  );
  const target = edit.firstTarget(base, mover.kind, 'x/opacity');
  const numbers = !mover.keys || mover.keys.every((k) => typeof k.value === 'number');
  if (!target || !numbers) return null;
  const look = { ...base, movers: [{ ...mover, targets: [target] }] };
  const clip = {
    frames: FRAMES,
    rate: [25, 1] as const,
    cues: {},
    content: 'curve',
    aspect: 16 / 9,
  };
  const values = Array.from(
    { length: FRAMES },
    (_, frame) =>
      evaluationAt(look, {}, { ...clip, frame }).moved(
        'x/opacity',
        { ...OPACITY, min: -1e4, max: 1e4 } as typeof OPACITY,
        50,
      ) as number,
  );
  const [low, high] = [Math.min(...values), Math.max(...values)];
  const y = (v: number) => 90 - ((v - low) / (high - low || 1)) * 80;
  return (
    <svg
      viewBox={`0 0 ${FRAMES - 1} 100`}
      preserveAspectRatio="none"
      className="absolute inset-0 w-full h-full p-4"
      role="img"
      aria-label={`${mover.name} over three seconds`}
    >
      <polyline
        points={values.map((v, f) => `${f},${y(v)}`).join(' ')}
        fill="none"
        stroke="currentColor"
        strokeWidth={1.5}
        vectorEffect="non-scaling-stroke"
        opacity={0.8}
      />
    </svg>
  );
}
