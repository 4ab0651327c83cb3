import { chance, sway } from '../../graph';
import { flag, number } from '../../parameters';
import { framesPerSecond } from '../rate';
import { chanceFrame } from '../clip-time';
import { moverKind } from './declare';

/** Random changes from frame to frame. */
export const flicker = moverKind({
  id: 'flicker',
  label: 'Flicker',
  help: 'Falls back again and again by chance, as an old lamp does.',
  parameters: [
    number('rate', 'Rate', 'Hz', 0, 60, 0, {
      soft: [0, 25],
      help: 'How often a second; 0 is every frame.',
    }),
    number('depth', 'Depth', '%', 0, 100, 60),
    number('smoothness', 'Smoothness', '%', 0, 100, 20),
    flag('own', 'Each its own', false, { help: 'Everything that it moves flickers by itself.' }),
  ],
  instants: [],
  signed: false,
  at(v, { rate, seed, ...at }) {
    const frame = chanceFrame(at.frame, at);
    const often = v.rate;
    const cell = often === 0 ? frame : (frame / framesPerSecond(rate)) * often;
    const hard = chance(seed, Math.floor(cell + 1e-9));
    const soft = (sway(seed, cell * (often === 0 ? 0.35 : 1)) + 1) / 2;
    const fall = hard + (soft - hard) * (v.smoothness / 100);
    return 1 - (v.depth / 100) * fall;
  },
});
