import type { ReactNode } from 'react';
import type { Place } from '../domain/outlines';

/** A drawing over a picture, in pixels of its frame. */
export const Drawing = ({ shape, children }: { shape: Place; children: ReactNode }) => (
  <svg
    aria-hidden="true"
    className="absolute inset-0 w-full h-full overflow-visible"
    viewBox={`0 0 ${shape[0]} ${shape[1]}`}
    preserveAspectRatio="none"
  >
    {children}
  </svg>
);
/** A thin gold line with a dark outline, visible on any picture. */
export const Stroke = ({ d }: { d: string }) => (
  <>
    <path
      d={d}
      fill="none"
      stroke="#000"
      strokeOpacity=".55"
      strokeWidth="3"
      vectorEffect="non-scaling-stroke"
    />
    <path
      d={d}
      fill="none"
      className="stroke-primary"
      strokeWidth="1.25"
      vectorEffect="non-scaling-stroke"
    />
  </>
);
