/** Position of a frame in the gate, for gate weave and jump registration. */
import type { ImageNode } from '../../graph';
import type { FrameContext } from '../declare';
import { warped } from '../warp/warped';

/**
 * The picture displaced by lines and enlarged by a margin (lines at each edge) that displacements
 * never exceed, so no edge shows.
 */
export function displaced(
  input: ImageNode,
  at: FrameContext,
  move: readonly [number, number],
  margin: number,
): ImageNode {
  const halfHeight = 540,
    halfWidth = (540 * at.width) / at.height;
  const closer = 1 - margin / Math.min(halfWidth, halfHeight);
  return warped(input, { edge: 'clamp' }, at, {
    name: 'displaced',
    params: [closer, ...move],
    where: (x, y, b) => [x.mul(b.param(0)).sub(b.param(1)), y.mul(b.param(0)).sub(b.param(2))],
  });
}
