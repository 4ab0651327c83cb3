import { pow, select } from '../../kernel';
import { num, number, type PixelStep, type Values } from '../declare';
import { saturated } from './hues';

const RGB = [
  ['red', 'red'],
  ['green', 'green'],
  ['blue', 'blue'],
] as const;

const bends = (v: Values): boolean => RGB.some(([id]) => num(v, `power-${id}`) !== 1);

/**
 * ASC Color Decision List 1.2: (x · slope + offset) to the power, then saturation about BT.709 luma. Held to 0…1 before
 * the power and at the end as the list's own formula has it, or, unheld, with what is below 0 left straight.
 */
export const cdl: PixelStep = {
  id: 'cdl',
  family: 'colour',
  label: 'CDL',
  help: 'Slope, offset, power and saturation, as colour decision lists carry them.',
  domain: 'encoded',
  parameters: [
    ...RGB.map(([id, word]) => number(`slope-${id}`, `Slope ${word}`, '', 0, 8, 1, { soft: [0, 2] })),
    ...RGB.map(([id, word]) => number(`offset-${id}`, `Offset ${word}`, '', -2, 2, 0, { soft: [-0.5, 0.5] })),
    ...RGB.map(([id, word]) => number(`power-${id}`, `Power ${word}`, '', 0.05, 8, 1, { soft: [0.25, 4] })),
    number('saturation', 'Saturation', '', 0, 4, 1, { soft: [0, 2] }),
    { kind: 'switch', id: 'hold', label: 'Hold to 0–1', help: 'As the standard has it; off, light beyond white survives.', default: false },
  ],
  grid: {
    columns: ['Red', 'Green', 'Blue'],
    rows: ['slope', 'offset', 'power'].map((what) => ({
      label: `${what[0]!.toUpperCase()}${what.slice(1)}`,
      ids: RGB.map(([id]) => `${what}-${id}`),
    })),
  },
  exchange: 'cdl',
  numbers: (v) => [...['slope', 'offset', 'power'].flatMap((what) => RGB.map(([id]) => num(v, `${what}-${id}`))), num(v, 'saturation')],
  variant: (v) => `${v['hold'] ? 'held' : 'free'}-${bends(v) ? 'bent' : 'straight'}`,
  pixel: (c, t, v) => {
    const held = (x: (typeof c)[0]) => (v['hold'] ? x.clamp(0, 1) : x);
    const graded = c.map((x, i) => {
      const line = held(x.mul(t.n(i)).add(t.n(3 + i)));
      if (!bends(v)) return line;
      return select(
        t
          .n(6 + i)
          .eq(1)
          .or(line.le(0)),
        line,
        pow(line, t.n(6 + i)),
      );
    });
    return saturated(graded, t.n(9)).map(held);
  },
};
