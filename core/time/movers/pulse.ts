import { choice, num, number } from '../../parameters';
import { inFrames, TIME_UNIT_WORDS } from '../clip-time';
import { eased } from '../ease';
import { moverKind } from './declare';
import { EASE_CHOICE } from './ramp';

/** A rise and fall at each of its instants. */
export const pulse = moverKind({
  id: 'pulse',
  label: 'Pulse',
  help: 'Strikes at each of its instants, stays and dies away.',
  parameters: [
    number('attack', 'Comes in', '', 0, 1000, 0, {
      soft: [0, 2],
      help: 'With 0 it is full on the frame itself.',
    }),
    number('hold', 'Stays', '', 0, 1000, 0, { soft: [0, 2] }),
    number('release', 'Goes in', '', 0, 1000, 0.6, { soft: [0, 4] }),
    choice('unit', 'Counted in', TIME_UNIT_WORDS, 'seconds'),
    choice('ease', 'How it goes', EASE_CHOICE, 'fast-first'),
    number('by', 'How strongly', '%', 0, 100, 50),
  ],
  instants: [{ id: 'at', label: 'Strikes at', many: true }],
  signed: false,
  lasts: ['attack', 'hold', 'release'],
  at(v, at) {
    const length = (id: string): number => inFrames(num(v, id), v.unit, at);
    // Visible for one frame at least.
    const [attack, hold, release] = [
      length('attack'),
      Math.max(1, length('hold')),
      length('release'),
    ];
    const ease = { kind: v.ease, by: v.by };
    const one = (since: number): number => {
      if (since < 0) return 0;
      if (since < attack) return since / attack;
      const left = since - attack - hold;
      if (left < 0) return 1;
      return release <= 0 ? 0 : 1 - eased(ease, (left + 1) / (release + 1));
    };
    return at.events['at']!.reduce((most, e) => Math.max(most, one(at.frame - e)), 0);
  },
});
