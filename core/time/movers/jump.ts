import { chance, either } from '../../graph';
import { number } from '../../parameters';
import { framesPerSecond } from '../rate';
import { chanceFrame } from '../clip-time';
import { moverKind } from './declare';

/** Random jumps that settle. */
export const jump = moverKind({
  id: 'jump',
  label: 'Jump',
  help: 'Rarely and suddenly elsewhere, and back.',
  parameters: [
    number('often', 'How often', '', 0, 600, 30, { soft: [1, 120], help: 'Jumps a minute.' }),
    number('stay', 'Stays for', 'frames', 1, 250, 2, { soft: [1, 12] }),
  ],
  instants: [],
  signed: true,
  rare: true,
  at(v, { rate, seed, axis, ...at }) {
    const often = v.often,
      frame = chanceFrame(at.frame, at);
    if (often === 0) return 0;
    // One jump in each period, at a random place within it.
    const stretch = (framesPerSecond(rate) * 60) / often,
      stay = Math.min(v.stay, stretch);
    const k = Math.floor(frame / stretch);
    const begins = Math.floor(k * stretch + chance(seed, k) * (stretch - stay));
    return frame >= begins && frame < begins + stay ? either(seed, k, 1 + axis) : 0;
  },
});
