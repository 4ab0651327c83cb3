import { number } from '../../parameters';
import { either, swing } from '../../graph';
import { builtStep } from '../declare';
import { displaced } from './registration';

/** Slow movement of the film in the gate. */
export const gateWeave = builtStep({
  id: 'gate-weave',
  family: 'film',
  label: 'Gate weave',
  help: 'The picture sways slowly in the gate and jitters with every frame, a little closer so that no edge shows.',
  domain: 'light',
  start: { across: 2.4, along: 1.6 },
  parameters: [
    number('across', 'Across', 'lines', 0, 40, 0, { soft: [0, 8] }),
    number('along', 'Along', 'lines', 0, 40, 0, { soft: [0, 8] }),
    number('rate', 'Sway', 'Hz', 0.05, 12, 0.7, { soft: [0.1, 4] }),
    number('jitter', 'Jitter', '%', 0, 100, 30, {
      help: 'Of the movement: what is new with every frame.',
    }),
  ],
  build: (input, v, at) => {
    const [across, along] = [v.across, v.along];
    if (across === 0 && along === 0) return input;
    const jitter = v.jitter / 100,
      t = at.seconds * v.rate;
    const moved = (size: number, axis: number): number => {
      // Two slow movements with unrelated periods.
      const slow = swing(at.seed + axis, t) * 0.7 + swing(at.seed + axis + 2, t * 0.37 + 9) * 0.3;
      return size * (slow * (1 - jitter) + either(at.seed, axis + 7, at.frame) * jitter);
    };
    return displaced(input, at, [moved(across, 0), moved(along, 1)], Math.max(across, along));
  },
});
