import { choice, number } from '../../parameters';
import { inFrames, TIME_UNIT_WORDS } from '../clip-time';
import { moverKind } from './declare';

/** Time lit from 0 to x, by flashes of `lit` every `period`. */
const litUntil = (x: number, period: number, lit: number): number => {
  const rounds = Math.floor(x / period);
  return rounds * lit + Math.min(x - rounds * period, lit);
};

/** Regular flashes. */
export const strobe = moverKind({
  id: 'strobe',
  label: 'Strobe',
  help: 'Short flashes at an even pace.',
  parameters: [
    number('period', 'Every', '', 0.01, 1000, 4, { soft: [0.5, 25] }),
    number('lit', 'Lit for', '', 0, 1000, 1, { soft: [0, 12] }),
    choice('unit', 'Counted in', TIME_UNIT_WORDS, 'clip-frames'),
  ],
  instants: [{ id: 'from', label: 'Counts from' }],
  signed: false,
  at(v, at) {
    const unit = v.unit;
    const period = inFrames(v.period, unit, at),
      lit = Math.min(period, inFrames(v.lit, unit, at));
    const since = at.frame - at.events['from']![0]!;
    // Faster than every other frame it would alias; each frame gets the share of its time that is
    // lit.
    if (period < 2)
      return Math.max(
        0,
        Math.min(1, litUntil(since + 1, period, lit) - litUntil(since, period, lit)),
      );
    const within = since - Math.floor((since + 1e-9) / period) * period;
    return within < lit - 1e-9 ? 1 : 0;
  },
});
