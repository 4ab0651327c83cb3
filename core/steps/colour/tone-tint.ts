import { luma, smoothstep } from '../../kernel';
import { type Colour, colour, number, type Values } from '../../parameters';
import { pixelStep } from '../declare';

/** A colour minus the grey of the same luma. */
const cast = (v: Values, id: string): number[] => {
  const c = v[id] as Colour;
  const y = 0.2126 * c[0] + 0.7152 * c[1] + 0.0722 * c[2];
  return c.map((x) => x - y);
};

/** Tints of dark and bright tones. */
export const toneTint = pixelStep({
  id: 'tone-tint',
  family: 'colour',
  label: 'Tone tint',
  help: 'Tints shadows, middle tones and highlights each by a colour; lightness, black and white stay.',
  domain: 'encoded',
  start: { amount: 45 },
  parameters: [
    number('amount', 'Amount', '%', 0, 100, 0),
    colour('shadows', 'Shadows', [0.18, 0.32, 0.42]),
    colour('middle', 'Middle', [0.5, 0.5, 0.5]),
    colour('highlights', 'Highlights', [0.86, 0.7, 0.5]),
    number('pivot', 'Pivot', 'encoded', 0.1, 0.9, 0.45, { picked: 'luma' }),
  ],
  numbers: (v) => [
    v.amount / 100,
    v.pivot,
    ...cast(v, 'shadows'),
    ...cast(v, 'middle'),
    ...cast(v, 'highlights'),
  ],
  pixel: (c, t) => {
    const y = luma(c);
    const low = smoothstep(0, t.n(1), y).neg().add(1),
      high = smoothstep(t.n(1), 1, y);
    const middle = low.add(high).neg().add(1);
    const there = smoothstep(0, 0.12, y)
      .mul(smoothstep(0.9, 1.02, y).neg().add(1))
      .mul(t.n(0));
    return c.map((x, i) =>
      x.add(
        t
          .n(2 + i)
          .mul(low)
          .add(t.n(5 + i).mul(middle))
          .add(t.n(8 + i).mul(high))
          .mul(there),
      ),
    );
  },
});
