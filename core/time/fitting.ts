/** Fitting of movers that last longer than the clip: cut, compressed, or started earlier. */
import { num, type Parameter, type Values } from '../parameters';
import { type ClipTime, type FrameIndex, inFrames, type TimeUnit } from './clip-time';
import type { MoverKind } from './movers/declare';
import type { Stretch } from './instant';

/** Ways to fit. */
export const FITTINGS = ['cut', 'compressed', 'earlier'] as const;
/** One of `FITTINGS`. */
export type Fitting = (typeof FITTINGS)[number];
/** The ways as text. */
export const FITTING_WORDS: Record<Fitting, string> = {
  cut: 'is cut short',
  compressed: 'is compressed',
  earlier: 'begins earlier',
};

/**
 * Frames that a mover lasts from each of its instants, with the values `v`; undefined for kinds
 * without a length.
 */
export function lengthOfMover(
  { lasts }: Pick<MoverKind, 'lasts'>,
  v: Values,
  clip: Pick<ClipTime, 'rate' | 'projectRate'>,
): number | undefined {
  return lasts?.reduce((sum, id) => sum + inFrames(num(v, id), v['unit'] as TimeUnit, clip), 0);
}
/**
 * Frames by which it is too long, from its latest instant within the stretch to the end of the
 * stretch; 0 if it fits.
 */
export function excess(
  length: number,
  events: readonly FrameIndex[],
  { first, last }: Stretch,
): number {
  const within = events.filter((e) => e >= first && e <= last);
  return within.length === 0 ? 0 : Math.max(0, length - (last - Math.max(...within)));
}

/** A mover's values and instants after fitting. */
export interface Fitted {
  readonly values: Values;
  readonly events: Readonly<Record<string, readonly FrameIndex[]>>;
}
/**
 * A mover's values and instants fitted to a stretch of the clip. Compressed: all lengths are scaled
 * by one factor, so that what starts last ends on the last frame. Earlier: an instant with too few
 * frames left moves forward, to the first frame at most. Cut: unchanged.
 */
export function fitted(
  kind: Pick<MoverKind, 'lasts'> & { readonly parameters: readonly Parameter[] },
  how: Fitting,
  { values, events }: Fitted,
  stretch: Stretch,
  clip: Pick<ClipTime, 'rate' | 'projectRate'>,
): Fitted {
  const length = lengthOfMover(kind, values, clip);
  const all = Object.values(events).flat(),
    over = length === undefined ? 0 : excess(length, all, stretch);
  if (length === undefined || over === 0 || how === 'cut') return { values, events };
  if (how === 'compressed') {
    const share = Math.max(0, length - over) / length;
    return {
      values: {
        ...values,
        ...Object.fromEntries(kind.lasts!.map((id) => [id, num(values, id) * share])),
      },
      events,
    };
  }
  const latest = Math.max(stretch.first, Math.floor(stretch.last - length));
  return {
    values,
    events: Object.fromEntries(
      Object.entries(events).map(([id, frames]) => [
        id,
        frames.map((e) => (e <= stretch.last ? Math.min(e, Math.max(latest, 0)) : e)),
      ]),
    ),
  };
}

/** Frames by which keys extend beyond the end of the stretch they begin in; 0 if they fit. */
export const keysExcess = (frames: readonly number[], { first, last }: Stretch): number =>
  frames.length < 2 || Math.min(...frames) > last
    ? 0
    : Math.max(0, Math.max(...frames) - Math.max(last, first));
/**
 * Frames at which keys act after fitting (fractions are possible when compressed). Compressed: the
 * first key stays and the last acts on the last frame. Earlier: all move forward by the same
 * amount, the first one to the stretch's first frame at most.
 */
export function fittedKeys(
  how: Fitting,
  frames: readonly number[],
  stretch: Stretch,
): readonly number[] {
  const over = keysExcess(frames, stretch);
  if (over === 0 || how === 'cut') return frames;
  const begin = Math.min(...frames);
  if (how === 'earlier') {
    const by = Math.min(over, Math.max(0, begin - stretch.first));
    return frames.map((f) => f - by);
  }
  const length = Math.max(...frames) - begin;
  return frames.map((f) => begin + ((f - begin) * (length - over)) / length);
}
