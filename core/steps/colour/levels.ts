import { number } from '../../parameters';
import { pixelStep } from '../declare';
import { bent } from './bend';

/** Black and white points, input and output. */
export const levels = pixelStep({
  id: 'levels',
  family: 'colour',
  label: 'Levels',
  help: 'Says which tones become black and white, how the middle lies between them, and how far black and white reach.',
  domain: 'encoded',
  example: { black: 0.12, white: 0.8 },
  parameters: [
    number('black', 'Black', 'encoded', -0.5, 0.95, 0, { picked: 'luma' }),
    number('white', 'White', 'encoded', 0.05, 4, 1, { soft: [0.05, 1.5], picked: 'luma' }),
    number('gamma', 'Gamma', '', 0.1, 8, 1, { soft: [0.25, 4] }),
    number('out-black', 'Black becomes', 'encoded', -0.5, 1, 0, { soft: [0, 1] }),
    number('out-white', 'White becomes', 'encoded', 0, 2, 1, { soft: [0, 1] }),
  ],
  // White stays above black by a thousandth, so that levels never invert.
  numbers: (v) => {
    const black = v.black,
      low = v['out-black'];
    return [
      black,
      1 / Math.max(1e-3, v.white - black),
      1 / v.gamma,
      low,
      Math.max(0, v['out-white'] - low),
    ];
  },
  channelwise: (v) => (v.gamma === 1 ? 4 : 50),
  variant: (v) => (v.gamma === 1 ? 'straight' : 'bent'),
  pixel: (c, t, v) =>
    c.map((x) => {
      const placed = x.sub(t.n(0)).mul(t.n(1));
      return (v.gamma === 1 ? placed : bent(placed, t.n(2))).mul(t.n(4)).add(t.n(3));
    }),
});
