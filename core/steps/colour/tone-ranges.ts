import { luma, select, smoothstep } from '../../kernel';
import { num, number, type PixelStep } from '../declare';

/**
 * Four overlapping ranges of lightness, each moved by up to a quarter of the scale. The weights' slopes stay below 2, so
 * one range at its end never turns the scale around (checked by a test).
 */
export const toneRanges: PixelStep = {
  id: 'tone-ranges',
  family: 'colour',
  label: 'Tone ranges',
  help: 'Moves highlights, shadows, whites and blacks each on their own.',
  domain: 'encoded',
  parameters: [
    number('highlights', 'Highlights', '%', -100, 100, 0),
    number('shadows', 'Shadows', '%', -100, 100, 0),
    number('whites', 'Whites', '%', -100, 100, 0),
    number('blacks', 'Blacks', '%', -100, 100, 0),
  ],
  numbers: (v) => [num(v, 'highlights') * 0.0016, num(v, 'shadows') * 0.0016, num(v, 'whites') * 0.002, num(v, 'blacks') * 0.001],
  pixel: (c, t) => {
    const y = luma(c);
    const rise = (lo: number, hi: number) => smoothstep(lo, hi, y);
    const fall = (lo: number, hi: number) => rise(lo, hi).neg().add(1);
    const move = t
      .n(0)
      .mul(rise(0.3, 0.7).mul(fall(0.7, 1.15)))
      .add(t.n(1).mul(rise(0, 0.25).mul(fall(0.3, 0.7))))
      .add(t.n(2).mul(rise(0.55, 1)))
      .add(t.n(3).mul(fall(0, 0.4)));
    // Lifting keeps colour by adding; lowering keeps it by scaling, so that nothing falls below black.
    const scale = y.add(move).max(0).div(y.max(1e-4));
    return c.map((x) => select(move.lt(0).and(y.lt(1e-4).not()), x.mul(scale), x.add(move)));
  },
};
