/** In which order tiles stand, and which frame they show. */
import type { ClipView } from '../../api/views';
import { restingFrame } from '../bench/useViews';

export const STATUSES = ['open', 'in work', 'agreed'] as const;
export type Status = (typeof STATUSES)[number];

export const ORDERS = ['as shot in', 'name', 'look', 'status', 'lightness', 'warmth'] as const;
export type Order = (typeof ORDERS)[number];

/** Clips in an order; equals stay as they were, and what is not measured yet comes last. */
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
      return by((c) => (c.look ? `${c.look.name} ${String(c.look.number).padStart(6, '0')}` : '\uffff'));
    case 'status':
      return by((c) => STATUSES.indexOf(c.status));
    case 'lightness':
      return by((c) => c.statistics?.lightness.p50 ?? 9);
    case 'warmth':
      return by((c) => c.statistics?.warmth ?? 9);
  }
}

export const PLAYHEADS = ['start', 'middle', 'end'] as const;
export type Playhead = (typeof PLAYHEADS)[number];
export const frameAt = (c: Pick<ClipView, 'frames'>, at: Playhead): number => (at === 'start' ? 0 : at === 'end' ? c.frames - 1 : restingFrame(c));
