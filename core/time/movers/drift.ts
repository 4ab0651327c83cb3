import { sway } from '../../graph';
import { number } from '../../parameters';
import { framesPerSecond } from '../rate';
import { chanceFrame } from '../clip-time';
import { moverKind } from './declare';

/** Slow random movement. */
export const drift = moverKind({
  id: 'drift',
  label: 'Drift',
  help: 'Wanders slowly.',
  parameters: [
    number('rate', 'Pace', 'Hz', 0, 10, 0.25, { soft: [0, 2], help: 'How many turns a second.' }),
  ],
  instants: [],
  signed: true,
  at: (v, { frame, chance, rate, seed, axis }) =>
    sway(seed + axis * 7919, (chanceFrame(frame, { chance }) / framesPerSecond(rate)) * v.rate * 2),
});
