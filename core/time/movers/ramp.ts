import { choice, number } from '../../parameters';
import { inFrames, TIME_UNIT_WORDS } from '../clip-time';
import { EASE_WORDS, eased } from '../ease';
import { moverKind } from './declare';

const { cubic: _, ...withoutHandles } = EASE_WORDS;
/** Eases without handles, as options. */
export const EASE_CHOICE = withoutHandles;

/** A change from one value to another at an instant. */
export const ramp = moverKind({
  id: 'ramp',
  label: 'Ramp',
  help: 'From nothing to all, from an instant on; from several, a stage at each.',
  parameters: [
    number('over', 'Takes', '', 0, 10_000, 1, {
      soft: [0, 5],
      help: 'With 0 it is there at once, on the frame.',
    }),
    choice('unit', 'Counted in', TIME_UNIT_WORDS, 'seconds'),
    choice('ease', 'How', EASE_CHOICE, 'soft'),
    number('by', 'How strongly', '%', 0, 100, 50),
  ],
  instants: [{ id: 'from', label: 'Begins at', many: true }],
  signed: false,
  lasts: ['over'],
  at(v, at) {
    const over = inFrames(v.over, v.unit, at),
      ease = { kind: v.ease, by: v.by };
    const one = (since: number): number =>
      since < 0 ? 0 : over <= 0 ? 1 : eased(ease, since / over);
    const stages = at.events['from']!;
    return Math.min(1, stages.reduce((sum, e) => sum + one(at.frame - e), 0) / stages.length);
  },
});
