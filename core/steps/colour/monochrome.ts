import { mix } from '../../kernel';
import { number } from '../../parameters';
import { pixelStep } from '../declare';

/** Monochrome by weights of the channels. */
export const monochrome = pixelStep({
  id: 'monochrome',
  family: 'colour',
  label: 'Monochrome',
  help: 'Turns the picture to grey by weights of its channels, as a filter before the lens would.',
  domain: 'encoded',
  parameters: [
    number('amount', 'Amount', '%', 0, 100, 100, { neutral: 0 }),
    number('red', 'Red', '%', -100, 200, 35),
    number('green', 'Green', '%', -100, 200, 55),
    number('blue', 'Blue', '%', -100, 200, 10),
  ],
  numbers: (v) => {
    const w = [v.red, v.green, v.blue];
    const sum = w.reduce((a, b) => a + b, 0);
    // If the weights cancel out there is no grey to normalise to, so they are used as they are.
    return [v.amount / 100, ...w.map((x) => x / (Math.abs(sum) < 1 ? 100 : sum))];
  },
  pixel: (c, t) => {
    const grey = c[0]!
      .mul(t.n(1))
      .add(c[1]!.mul(t.n(2)))
      .add(c[2]!.mul(t.n(3)));
    return c.map((x) => mix(x, grey, t.n(0)));
  },
});
