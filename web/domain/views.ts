/** How small pictures are asked for: their size, and the frame they show. */
import { lengthOf, type LookDocument, underLook } from '../../core';
import type { ClipView, ProjectView } from '../data/views';

/** A size of the project's frame by its lines. */
export const sized = (
  p: Pick<ProjectView, 'width' | 'height'>,
  lines: number,
): [number, number] => {
  const h = Math.min(lines, p.height);
  return [Math.round((p.width * h) / p.height), h];
};
/** The frame in a clip's middle, as it runs under a look. */
export const restingFrame = (
  c: Pick<ClipView, 'frames' | 'rate' | 'retime' | 'pins'>,
  look: LookDocument | null = null,
): number => Math.floor(lengthOf(underLook(c, look)) / 2);
