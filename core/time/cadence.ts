/** Layer time: which frame its source shows at each frame. */
import { chance } from '../graph';
import { frameBeyond } from './beyond';
import { choice, flag, number, type ValuesOf } from '../parameters';
import {
  type ClipTime,
  type FrameIndex,
  inFrames,
  MOMENTS,
  snapped,
  TIME_UNIT_WORDS,
} from './clip-time';
import { BETWEEN_WORDS } from './retime';

/** Parameters of layer time. At the defaults a layer shows the frame itself. */
export const LAYER_TIME = [
  number('offset', 'Offset', '', -10_000, 10_000, 0, {
    soft: [-50, 50],
    help: 'How much earlier (below 0) or later it is.',
  }),
  choice('unit', 'Counted in', TIME_UNIT_WORDS, 'clip-frames'),
  number('speed', 'Speed', '%', 0, 1600, 100, { soft: [0, 400], help: 'At 0 it stands still.' }),
  flag('reverse', 'Backwards', false),
  choice(
    'beyond',
    'Beyond the clip',
    {
      nothing: 'nothing',
      hold: 'its first or last frame',
      again: 'begins again',
      'to-and-fro': 'to and fro',
    },
    'nothing',
  ),
  choice('between', 'Between frames', BETWEEN_WORDS, 'nearest', {
    help: 'What stands where the clip has no frame of its own: slowed, or held at a rate that its own is no multiple of.',
  }),
  choice(
    'cadence',
    'Cadence',
    { none: 'every frame', rate: 'so many a second', every: 'every n-th frame' },
    'none',
  ),
  number('held', 'How many', '', 0.1, 240, 12, {
    soft: [2, 25],
    help: 'Pictures a second, or how many frames each is held.',
  }),
  number('jitter', 'Unevenness', '%', 0, 100, 0, {
    help: 'How far each held picture comes early or late, of half its time.',
  }),
] as const;
/** How a layer or a step's own time runs. */
export type LayerTime = ValuesOf<typeof LAYER_TIME>;

/** Start of hold `k` (before rounding up), with a random offset of less than half a hold. */
const holdBegin = (k: number, period: number, jitter: number, seed: number): number =>
  // The first hold starts at the origin.
  (k + (jitter === 0 || k === 0 ? 0 : (chance(seed, k) - 0.5) * 0.98 * jitter)) * period;

/**
 * The source frame at `offset` frames from the origin of the holds: the first frame of the hold, or
 * (`exactly`) the moment at which the hold begins.
 */
function held(
  offset: number,
  period: number,
  jitter: number,
  seed: number,
  exactly: boolean,
): number {
  if (period <= 1) return offset;
  // Rounding errors of fractional rates must not delay a hold by a frame.
  const first = (k: number): number => Math.ceil(holdBegin(k, period, jitter, seed) - 1e-7);
  let k = Math.floor(offset / period) + 1;
  while (first(k) > offset) k--;
  return exactly ? holdBegin(k, period, jitter, seed) : first(k);
}

/**
 * The source's moment at a frame of the clip, in frames, not rounded. `from`: origin of cadence and
 * speed. `travelled`: frames of the source passed over in a number of frames from there, if the
 * speed changes.
 */
export function sourceMoment(
  v: LayerTime,
  frame: FrameIndex,
  clip: ClipTime,
  from: FrameIndex,
  seed: number,
  travelled: (since: number) => number = (since) => (since * v.speed) / 100,
): number {
  const [cadence, amount] = [v.cadence, v.held];
  const period =
    cadence === 'rate' ? inFrames(1 / amount, 'seconds', clip) : cadence === 'every' ? amount : 1;
  const since =
    travelled(held(frame - from, period, v.jitter / 100, seed, v.between !== 'nearest')) +
    inFrames(v.offset, v.unit, clip);
  return v.reverse ? clip.frames - 1 - (from + since) : from + since;
}
/** The source's frame nearest to its moment; outside the clip only where nothing is shown. */
export const sourceFrame = (...of: Parameters<typeof sourceMoment>): FrameIndex =>
  frameBeyond(snapped(sourceMoment(...of)), of[2].frames, of[0].beyond);

/** The two frames around a moment, and the share of the second one; the share is 0 on a frame. */
export function framesAround(
  moment: number,
  v: LayerTime,
  clip: ClipTime,
): { readonly first: FrameIndex; readonly second: FrameIndex; readonly share: number } {
  const whole = Math.round(moment * MOMENTS),
    first = Math.floor(whole / MOMENTS);
  const at = (frame: FrameIndex): FrameIndex => frameBeyond(frame, clip.frames, v.beyond);
  return { first: at(first), second: at(first + 1), share: whole / MOMENTS - first };
}

/** Whether these values leave time unchanged. */
export const isTimeless = (v: LayerTime): boolean =>
  v.offset === 0 && v.speed === 100 && !v.reverse && v.cadence === 'none';
