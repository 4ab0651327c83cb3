import type { RetimeMap } from '../../../core/time';

const WIDE = 300,
  HIGH = 46,
  MOST_POINTS = 150;
/**
 * The moment of the clip at each new frame, as a curve whose slope is the speed. Without a map it
 * is a straight line.
 */
export function TimeMap({
  map,
  frames,
  label,
}: {
  readonly map: RetimeMap | undefined;
  readonly frames: number;
  readonly label: string;
}) {
  const length = map?.frames ?? frames,
    last = Math.max(1, frames - 1);
  const count = Math.min(MOST_POINTS, length);
  const points = Array.from({ length: count }, (_, i) => {
    const t = count === 1 ? 0 : (i / (count - 1)) * (length - 1);
    const moment = map ? map.at(Math.round(t)) : t;
    return `${((i / Math.max(1, count - 1)) * WIDE).toFixed(1)},${(HIGH - 1 - (moment / last) * (HIGH - 2)).toFixed(1)}`;
  });
  return (
    <svg
      viewBox={`0 0 ${WIDE} ${HIGH}`}
      className="w-full h-[46px] bg-base-300"
      role="img"
      aria-label={label}
      preserveAspectRatio="none"
    >
      <polyline
        points={points.join(' ')}
        fill="none"
        stroke="currentColor"
        strokeWidth="1.5"
        vectorEffect="non-scaling-stroke"
      />
    </svg>
  );
}
