import { mix, select, smoothstep } from '../../kernel';
import { number } from '../../parameters';
import { pixelStep } from '../declare';
import { coloured, hueOf, saturated } from './hues';

/** Keeps the colour of one range of hues and drains the others. */
export const keepHue = pixelStep({
  id: 'keep-hue',
  family: 'colour',
  label: 'Keep hue',
  help: 'Drains every colour but one.',
  domain: 'encoded',
  parameters: [
    number('hue', 'Hue', '°', 0, 360, 0, { picked: 'hue' }),
    number('width', 'Width', '°', 0, 180, 40),
    number('softness', 'Softness', '°', 0, 180, 25),
    number('amount', 'Amount', '%', 0, 100, 100, { neutral: 0 }),
  ],
  numbers: (v) => {
    const half = v.width / 2;
    return [v.hue / 60, half / 60, (half + Math.max(0.5, v.softness)) / 60, v.amount / 100];
  },
  pixel: (c, t) => {
    const { at, chroma } = hueOf(c);
    const off = at.sub(t.n(0)).abs();
    const apart = select(off.lt(3), off, off.neg().add(6));
    const others = smoothstep(t.n(1), t.n(2), apart);
    // Near-greys count as other hues, so that their random colour is drained and no edge shows.
    const drained = mix(1, others, coloured(chroma));
    return saturated(c, drained.mul(t.n(3)).neg().add(1));
  },
});
