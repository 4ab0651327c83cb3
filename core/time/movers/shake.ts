import { sway } from '../../graph';
import { expd } from '../../kernel';
import { number } from '../../parameters';
import { framesPerSecond } from '../rate';
import { chanceFrame } from '../clip-time';
import { moverKind } from './declare';

const PARTS = [
  { id: 'place', label: 'place' },
  { id: 'turn', label: 'turn' },
  { id: 'size', label: 'size' },
] as const;

/** A shaking that dies away. */
export const shake = moverKind({
  id: 'shake',
  label: 'Shake',
  help: 'A hand that trembles, or a blow that dies away.',
  parameters: [
    number('rate', 'Rate', 'Hz', 0.1, 30, 6, { soft: [1, 15] }),
    number('roughness', 'Roughness', '%', 0, 100, 40, { help: 'How much of it is quick.' }),
    number('decay', 'Dies away in', 'seconds', 0, 60, 0, {
      soft: [0, 4],
      help: 'After each of its instants; with 0 it goes on and on.',
    }),
  ],
  instants: [{ id: 'from', label: 'Begins at', many: true }],
  signed: true,
  parts: PARTS,
  at(v, { frame, chance, rate, seed, axis, part, events }) {
    const fps = framesPerSecond(rate),
      t = (chanceFrame(frame, { chance }) / fps) * v.rate * 2;
    const lane = seed + axis * 7919 + PARTS.findIndex((p) => p.id === part) * 104729;
    const rough = v.roughness / 100;
    const u = (sway(lane, t) + rough * sway(lane + 1, t * 2.7)) / (1 + rough);
    const decay = v.decay;
    if (decay === 0) return u;
    const last = events['from']!.filter((e) => e <= frame).at(-1);
    return last === undefined ? 0 : u * expd((-3 * (frame - last)) / (fps * decay));
  },
});
