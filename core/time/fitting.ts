/** A mover that lasts longer than the clip goes on: cut short, compressed, or begun earlier. */
import { num, type Parameter, type Values } from '../parameters';
import { type ClipTime, type FrameIndex, inFrames, type TimeUnit } from './clip-time';
import type { MoverKind } from './movers/declare';
import type { Stretch } from './instant';

export const FITTINGS = ['cut', 'compressed', 'earlier'] as const;
export type Fitting = (typeof FITTINGS)[number];
export const FITTING_WORDS: Record<Fitting, string> = {
  cut: 'is cut short',
  compressed: 'is compressed',
  earlier: 'begins earlier',
};

/**
 * How many frames a mover lasts from each of its instants on, with the parameters at `v`; undefined
 * of kinds without a length.
 */
export function lengthOfMover(
  { lasts }: Pick<MoverKind, 'lasts'>,
  v: Values,
  clip: Pick<ClipTime, 'rate' | 'projectRate'>,
): number | undefined {
  return lasts?.reduce((sum, id) => sum + inFrames(num(v, id), v['unit'] as TimeUnit, clip), 0);
}
/**
 * How many frames too long it is, from its latest instant within the stretch to the stretch's end;
 * 0 where it fits.
 */
export function excess(
  length: number,
  events: readonly FrameIndex[],
  { first, last }: Stretch,
): number {
  const within = events.filter((e) => e >= first && e <= last);
  return within.length === 0 ? 0 : Math.max(0, length - (last - Math.max(...within)));
}

export interface Fitted {
  readonly values: Values;
  readonly events: Readonly<Record<string, readonly FrameIndex[]>>;
}
/**
 * Parameters and instants of a mover as they fit into a stretch of the clip. Compressed: all its
 * lengths by one share, so that what begins last ends on the last frame. Earlier: an instant that
 * leaves too few frames comes forward, to the first frame at most. Cut short: as they are.
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

/**
 * How many frames of keys lie beyond the end of a stretch in which they begin; 0 where they fit.
 */
export const keysExcess = (frames: readonly number[], { first, last }: Stretch): number =>
  frames.length < 2 || Math.min(...frames) > last
    ? 0
    : Math.max(0, Math.max(...frames) - Math.max(last, first));
/**
 * Where keys act that were set on these frames (frames of the clip; compressed ones may lie between
 * two). Compressed: the first stays and the last acts on the last frame. Earlier: all come forward
 * by as much, the first to the stretch's first frame at most.
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
