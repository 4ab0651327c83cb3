/** How far a layer's own time has run, and how long ago something moving was a distance back. */
import { type Layer, resolveLayer, TIMED } from '../look';
import { type FrameIndex, inFrames } from '../time';
import { type ClipFrame, evaluationAfter, type Scene } from './scene';

/**
 * Frames of the source passed over in a number of frames from an instant on, where a layer's speed
 * is moved; integrated by the trapezium rule.
 */
export function travelled(
  scene: Scene,
  layer: Layer,
  from: FrameIndex,
): ((since: number) => number) | undefined {
  const path = `${layer.key}/${TIMED}/speed`;
  if (!(scene.look.movers ?? []).some((m) => m.on && m.targets.some((t) => t.path === path)))
    return undefined;
  const speedAt = (frame: FrameIndex): number => {
    const at = evaluationAfter(scene, frame - scene.clip.frame);
    return resolveLayer(scene.look, layer, at).time!.speed / 100;
  };
  return (since) => {
    const step = since < 0 ? -1 : 1;
    let sum = 0,
      last = speedAt(from);
    for (let k = 0; k < Math.abs(since); k++) {
      const next = speedAt(from + step * (k + 1));
      sum += (step * (last + next)) / 2;
      last = next;
    }
    return sum;
  };
}

/**
 * Copies by distance are searched this many seconds back; something that stands still leaves none
 * further away.
 */
export const LONGEST_WAY_BACK = 3;
/**
 * The smallest number of frames ago at which what moves was that many lines back on its way;
 * undefined beyond the limit.
 */
export function framesSince(
  { frame, time: { way, rate } }: ClipFrame,
  lines: number,
  from: number,
): number | undefined {
  const most = Math.min(frame, Math.floor(inFrames(LONGEST_WAY_BACK, 'seconds', { rate })));
  const here = way!(frame);
  for (let ago = from; ago <= most; ago++)
    if (Math.abs(here - way!(frame - ago)) >= 100 * lines) return ago;
  return undefined;
}
