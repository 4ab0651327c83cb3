import { cosTurnsd, sinTurnsd } from '../../kernel';
import { choice, number } from '../../parameters';
import { inFrames, TIME_UNIT_WORDS } from '../clip-time';
import { moverKind } from './declare';

const SHAPES: Readonly<Record<string, (turn: number) => number>> = {
  sine: sinTurnsd,
  triangle: (t) => (t < 0.25 ? 4 * t : t < 0.75 ? 2 - 4 * t : 4 * t - 4),
  saw: (t) => 2 * t - 1,
};

/** A periodic wave. */
export const wave = moverKind({
  id: 'wave',
  label: 'Wave',
  help: 'Up and down at an even pace.',
  parameters: [
    choice('shape', 'Shape', { sine: 'sine', triangle: 'triangle', saw: 'saw' }, 'sine'),
    number('period', 'Period', '', 0.01, 10_000, 2, { soft: [0.1, 10] }),
    choice('unit', 'Counted in', TIME_UNIT_WORDS, 'seconds'),
    number('phase', 'Begins at', '%', 0, 100, 0, { help: 'Of a turn.' }),
    number('direction', 'Direction', '°', -360, 360, 0, { help: 'Of a place that is moved.' }),
  ],
  instants: [{ id: 'from', label: 'Counts from' }],
  signed: true,
  at(v, at) {
    const turns =
      (at.frame - at.events['from']![0]!) / inFrames(v.period, v.unit, at) + v.phase / 100;
    const u = SHAPES[v.shape]!(turns - Math.floor(turns));
    if (!at.isPlace) return u;
    const turn = v.direction / 360;
    return u * (at.axis === 0 ? cosTurnsd(turn) : sinTurnsd(turn));
  },
});
