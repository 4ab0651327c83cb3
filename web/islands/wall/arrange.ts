/** Order and frames of tiles. */
import {
  cueFrame,
  firstStrike,
  type LookDocument,
  lengthOf,
  reachedAt,
  timeOf,
  underLook,
} from '../../../core';
import { spreadOf } from '../../../core/measure';
import type { ClipView } from '../../data/views';
import { flaggedWords, openFlags } from './flags';
import { restingFrame } from '../../domain/views';

/** Statuses of clips. */
export const STATUSES = ['open', 'in work', 'agreed'] as const;
/** One of `STATUSES`. */
export type Status = (typeof STATUSES)[number];

/** Orders of tiles. */
export const ORDERS = [
  'as shot in',
  'name',
  'look',
  'scene',
  'status',
  'flags',
  'lightness',
  'warmth',
  'spread',
] as const;
/** One of `ORDERS`. */
export type Order = (typeof ORDERS)[number];

/** Clips in an order. Equal ones keep their order; unmeasured ones come last. */
export function arranged(clips: readonly ClipView[], order: Order): readonly ClipView[] {
  const by = (f: (c: ClipView) => number | string) =>
    [...clips].sort((a, b) => {
      const [x, y] = [f(a), f(b)];
      return typeof x === 'string' ? x.localeCompare(y as string) : x - (y as number);
    });
  switch (order) {
    case 'as shot in':
      return clips;
    case 'name':
      return by((c) => c.name);
    case 'look':
      return by((c) =>
        c.look ? `${c.look.name} ${String(c.look.number).padStart(6, '0')}` : '\uffff',
      );
    case 'status':
      return by((c) => STATUSES.indexOf(c.status));
    case 'lightness':
      return by((c) => c.statistics?.lightness.p50 ?? 9);
    case 'warmth':
      return by((c) => c.statistics?.warmth ?? 9);
    case 'flags':
      return by((c) => -openFlags(c).length);
    case 'scene':
      return by((c) => c.scene || '\uffff');
    case 'spread': {
      const far = farOut(clips);
      return by((c) => -(far.get(c.id) ?? -1));
    }
  }
}

/**
 * Distance of each measured clip from the median of all: the largest over its traits, in spreads.
 */
export function farOut(clips: readonly ClipView[]): ReadonlyMap<string, number> {
  const measured = clips.flatMap((c) =>
    c.statistics
      ? [{ id: c.id, is: [c.statistics.lightness.p50, c.statistics.warmth, c.statistics.chroma] }]
      : [],
  );
  const far = new Map<string, number>();
  if (measured.length === 0) return far;
  for (let i = 0; i < 3; i++) {
    const { median, spread } = spreadOf(measured.map((m) => m.is[i]!));
    for (const m of measured)
      far.set(
        m.id,
        Math.max(far.get(m.id) ?? 0, Math.abs(m.is[i]! - median) / Math.max(1e-6, spread)),
      );
  }
  return far;
}

/** Groupings of tiles. */
export const GROUPINGS = ['nothing', 'look', 'scene', 'status', 'flags'] as const;
/** One of `GROUPINGS`. */
export type Grouping = (typeof GROUPINGS)[number];
/** A group of tiles. */
export interface Group {
  /** Null without grouping. */
  readonly name: string | null;
  readonly clips: readonly ClipView[];
}
const NAMES: Record<Exclude<Grouping, 'nothing'>, (c: ClipView) => string> = {
  look: (c) => (c.look ? `${c.look.name} v${c.look.number}` : 'no look'),
  scene: (c) => c.scene || 'no scene',
  status: (c) => c.status,
  flags: (c) => flaggedWords(c) ?? 'no flags',
};

/** Clips in groups, ordered by name (statuses in their own order); clips keep their order. */
export function grouped(clips: readonly ClipView[], by: Grouping): readonly Group[] {
  if (by === 'nothing') return [{ name: null, clips }];
  const groups = new Map<string, ClipView[]>();
  for (const c of clips) {
    const name = NAMES[by](c);
    groups.set(name, [...(groups.get(name) ?? []), c]);
  }
  const last = (name: string) => (name.startsWith('no ') ? 1 : 0);
  const place = (name: string) => (by === 'status' ? STATUSES.indexOf(name as Status) : 0);
  return [...groups.entries()]
    .sort(([a], [b]) => place(a) - place(b) || last(a) - last(b) || a.localeCompare(b))
    .map(([name, own]) => ({ name, clips: own }));
}

/** Playheads of all tiles. */
export const PLAYHEADS = ['start', 'middle', 'cue', 'end'] as const;
/** One of `PLAYHEADS`. */
export type Playhead = (typeof PLAYHEADS)[number];
/**
 * A clip's frame at a playhead under its look; at the cue, the frame where its look first acts, or
 * the middle.
 */
export function frameAt(
  clip: Pick<ClipView, 'frames' | 'rate' | 'inOut' | 'retime' | 'pins' | 'hash'>,
  at: Playhead,
  look: LookDocument | null = null,
): number {
  const c = underLook(clip, look);
  if (at === 'cue') {
    const strike = look && firstStrike(look, { ...timeOf(c), content: clip.hash, aspect: 16 / 9 });
    return strike ?? reachedAt(c, cueFrame(look, c));
  }
  return at === 'start' ? 0 : at === 'end' ? lengthOf(c) - 1 : restingFrame(c, look);
}

/** Arrangement of the Wall; `size` is an index into the sizes. */
export interface Arranging {
  readonly size: number;
  readonly playhead: Playhead;
  readonly order: Order;
  readonly grouping: Grouping;
}
/** The initial arrangement. */
export const FIRST_ARRANGING: Arranging = {
  size: 2,
  playhead: 'middle',
  order: 'as shot in',
  grouping: 'nothing',
};
