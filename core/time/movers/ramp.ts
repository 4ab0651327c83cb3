import { choice, num, number } from '../../parameters';
import { inFrames, TIME_UNIT_WORDS, type TimeUnit } from '../clip-time';
import { EASE_KINDS, EASE_WORDS, eased, type EaseKind } from '../ease';
import type { MoverKind } from './declare';

/** Eases that need no handles. */
export const EASE_CHOICE = Object.fromEntries(EASE_KINDS.filter((k) => k !== 'cubic').map((k) => [k, EASE_WORDS[k]]));

export const ramp: MoverKind = {
  id: 'ramp',
  label: 'Ramp',
  help: 'From nothing to all, once, from an instant on.',
  parameters: [
    number('over', 'Takes', '', 0, 10_000, 1, { soft: [0, 5], help: 'With 0 it is there at once, on the frame.' }),
    choice('unit', 'Counted in', TIME_UNIT_WORDS, 'seconds'),
    choice('ease', 'How', EASE_CHOICE, 'soft'),
    number('by', 'How strongly', '%', 0, 100, 50),
  ],
  instants: [{ id: 'from', label: 'Begins at' }],
  signed: false,
  at(v, at) {
    const since = at.frame - at.events['from']![0]!,
      over = inFrames(num(v, 'over'), v['unit'] as TimeUnit, at);
    if (since < 0) return 0;
    return over <= 0 ? 1 : eased({ kind: v['ease'] as EaseKind, by: num(v, 'by') }, since / over);
  },
};
