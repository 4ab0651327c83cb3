/** Where a frame stands in the gate: what gate weave and jump registration share. */
import type { ImageNode } from '../../graph';
import type { FrameContext } from '../declare';
import { warped } from '../warp/warped';

/**
 * The picture moved by so many lines and brought closer by a margin (lines, at each edge), which
 * the moves never exceed: so no edge is ever seen.
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
