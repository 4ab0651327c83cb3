/** What moves while a shutter is open: its values moment by moment. */
import { exposuresFor } from '../image';
import { DIALS, type LookDocument } from '../look';

/**
 * Whether something in the look moves what a path leads to, or what lies below it; a moved dial may
 * move anything.
 */
export const isMoved = (look: LookDocument, path: string): boolean =>
  (look.movers ?? []).some(
    (m) => m.on && m.targets.some((t) => t.path.startsWith(path) || t.path.startsWith(`${DIALS}/`)),
  );

/**
 * Values spread evenly over a shutter's time (in frames, its middle at the frame itself), as many
 * as keep what moves no more than a pixel apart; undefined where it stands still. `at` gives them
 * so many frames after the frame, `way` how far apart two lie, in pixels.
 */
export function whileOpen<V>(
  shutter: number,
  at: (after: number) => V,
  way: (a: V, b: V) => number,
): readonly V[] | undefined {
  const [first, middle, last] = [-shutter / 2, 0, shutter / 2].map(at) as [V, V, V];
  const count = exposuresFor(way(first, middle) + way(middle, last));
  return count === 1
    ? undefined
    : Array.from({ length: count }, (_, i) => at(((i + 0.5) / count - 0.5) * shutter));
}
