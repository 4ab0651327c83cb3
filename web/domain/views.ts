/** Size and frame of small pictures. */
import { lengthOf, type LookDocument, underLook } from '../../core';
import type { ClipView, ProjectView } from '../data/views';

/** A size with the project's aspect ratio and a number of lines. */
export const sized = (
  p: Pick<ProjectView, 'width' | 'height'>,
  lines: number,
): [number, number] => {
  const h = Math.min(lines, p.height);
  return [Math.round((p.width * h) / p.height), h];
};
/** The middle frame of a clip, as it runs under a look. */
export const restingFrame = (
  c: Pick<ClipView, 'frames' | 'rate' | 'retime' | 'pins'>,
  look: LookDocument | null = null,
): number => Math.floor(lengthOf(underLook(c, look)) / 2);
