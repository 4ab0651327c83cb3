/** What moves while a shutter is open: its values moment by moment, copies and mattes that smear. */
import { blend, clear, copyPlaced, exposed, place, wayBetween } from '../compositing';
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
import { num, type Values } from '../parameters';
import { evaluationAfter, type Scene } from './scene';

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

/**
 * A layer's picture where it lies, as often as it does: the last copy at the back. `measured`: the
 * place that only the picture tells, where it lies by one.
 */
export function copies(
  scene: Scene,
  written: Layer,
  placement: Values,
  shown: ImageNode,
  measured: ImageNode | undefined,
): ImageNode {
  const count = Math.round(num(placement, 'copies'));
  let all = copyLying(scene, written, placement, shown, measured, count - 1);
  for (let k = count - 2; k >= 0; k--)
    all = blend('normal', all, copyLying(scene, written, placement, shown, measured, k), 1);
  return all;
}
/** One copy of it; with an open shutter, all along where it lies meanwhile. */
function copyLying(
  scene: Scene,
  written: Layer,
  placement: Values,
  shown: ImageNode,
  measured: ImageNode | undefined,
  k: number,
): ImageNode {
  const { width, height } = scene.clip.bedrock;
  const delay = k * num(placement, 'copy-delay'),
    left = Array.from({ length: k }).reduce(
      (share: number) => share * Math.max(0, 1 - num(placement, 'copy-fade') / 100),
      1,
    );
  const at = (after: number): Values => {
    const own =
      after === 0
        ? placement
        : resolveLayer(scene.look, written, evaluationAfter(scene, after)).placement!;
    return k === 0 ? own : copyPlaced(own, k, width, height);
  };
  const faded = (p: ImageNode): ImageNode =>
    left === 1 ? p : blend('normal', clear(width, height), p, left);
  const shutter = num(placement, 'shutter') / 360;
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
 * A drawn matte's values all along its way while its shutter is open; undefined where it has
 * none, or stands still.
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
