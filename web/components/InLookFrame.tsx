import type { ReactNode } from 'react';
import type { InTarget } from '../../core';

interface Props {
  /** Where the look's frame lies in the visible frame; undefined where the two are the same. */
  readonly framed: InTarget | undefined;
  /** Size of the visible frame. */
  readonly shape: readonly [number, number];
  /** What is drawn over the look's frame, by its size. */
  readonly children: (shape: readonly [number, number]) => ReactNode;
}

const share = (part: number, whole: number): string => `${(part / whole) * 100}%`;
/** A drawing over the look's frame inside a picture; presses go through it. */
export function InLookFrame({ framed, shape, children }: Props) {
  if (!framed) return children(shape);
  const { x, y, width, height, target } = framed;
  return (
    <div
      className="absolute pointer-events-none"
      style={{
        left: share(x, target.width),
        top: share(y, target.height),
        width: share(width, target.width),
        height: share(height, target.height),
      }}
    >
      {children([width, height])}
    </div>
  );
}
