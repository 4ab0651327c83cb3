/** Shutter blur of what movers move: values at several moments, for copies and mattes. */
import {
  blend,
  clear,
  copyPlaced,
  exposed,
  place,
  type PlacementValues,
  wayBetween,
} from '../compositing';
import type { ImageNode } from '../graph';
import { exposuresFor } from '../image';
import {
  DIALS,
  type Layer,
  type LookDocument,
  PLACED,
  resolveLayer,
  type ResolvedMatte,
  resolveMattes,
  unrepeated,
} from '../look';
import { matteOf, type PlacedMatte, wayOfEdge } from '../mattes';
import { num } from '../parameters';
import { evaluationAfter, type Scene } from './scene';

/**
 * Whether something in the look moves a path, or what lies below it; a moved dial may move
 * anything.
 */
export const isMoved = (look: LookDocument, path: string): boolean =>
  (look.movers ?? []).some(
    (m) => m.on && m.targets.some((t) => t.path.startsWith(path) || t.path.startsWith(`${DIALS}/`)),
  );

/**
 * Values spread evenly over a shutter's time (in frames, centred on the frame), so many that
 * nothing moves more than a pixel between two; undefined if nothing moves. `at` gives the values a
 * number of frames after the frame; `way` the distance between two, in pixels.
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

/**
 * A layer's picture at its place, with all of its copies; the last copy is at the back. `measured`:
 * the centre that only the picture tells, if the place depends on one.
 */
export function copies(
  scene: Scene,
  written: Layer,
  placement: PlacementValues,
  shown: ImageNode,
  measured: ImageNode | undefined,
): ImageNode {
  const count = Math.round(placement.copies);
  let all = copyLying(scene, written, placement, shown, measured, count - 1);
  for (let k = count - 2; k >= 0; k--)
    all = blend('normal', all, copyLying(scene, written, placement, shown, measured, k), 1);
  return all;
}
/** One copy of it; with an open shutter, the mean over its positions. */
function copyLying(
  scene: Scene,
  written: Layer,
  placement: PlacementValues,
  shown: ImageNode,
  measured: ImageNode | undefined,
  k: number,
): ImageNode {
  const { width, height } = scene.clip.bedrock;
  const delay = k * placement['copy-delay'],
    left = Array.from({ length: k }).reduce(
      (share: number) => share * Math.max(0, 1 - placement['copy-fade'] / 100),
      1,
    );
  const at = (after: number): PlacementValues => {
    const own =
      after === 0
        ? placement
        : resolveLayer(scene.look, written, evaluationAfter(scene, after)).placement!;
    return k === 0 ? own : copyPlaced(own, k, width, height);
  };
  const faded = (p: ImageNode): ImageNode =>
    left === 1 ? p : blend('normal', clear(width, height), p, left);
  const shutter = placement.shutter / 360;
  const moves = shutter > 0 && isMoved(scene.look, `${written.key}/${PLACED}/`);
  const all =
    moves &&
    whileOpen(
      shutter,
      (after) => at(after - delay),
      (a, b) => wayBetween(a, b, width, height),
    );
  return faded(
    all ? exposed(all.map((v) => place(shown, v, measured))) : place(shown, at(-delay), measured),
  );
}

/**
 * A drawn matte's values at the moments of its shutter; undefined if it has no shutter or does not
 * move.
 */
export function matteExposures(
  scene: Scene,
  layerKeyed: (key: string) => Layer,
  { matte, values }: ResolvedMatte,
  index: number,
  owner: string,
): PlacedMatte['exposures'] {
  const kind = matteOf(matte)!,
    shutter = kind.outline ? num(values[0]!, 'shutter') / 360 : 0;
  if (shutter === 0) return undefined;
  const [layer, step] = owner.split('/');
  const written = layerKeyed(layer!);
  const mattes = (
    step === undefined ? written.mattes : written.steps.find((s) => s.key === step)?.mattes
  )!.filter((m) => m.on);
  if (!isMoved(scene.look, unrepeated(`${owner}/@${mattes[index]!.key}/`))) return undefined;
  return whileOpen(
    shutter,
    (after) =>
      resolveMattes(scene.look, mattes, owner, evaluationAfter(scene, after))[index]!.values,
    (a, b) => Math.max(...a.map((v, i) => wayOfEdge(kind, v, b[i]!, scene.clip.bedrock))),
  );
}
