import { choice, line, number } from '../../parameters';
import { builtStep, inLines } from '../declare';
import { EDGE, warped } from './warped';

/** Beyond a line the picture is reflected: p − 2·max(0, d)·n. */
export const fold = builtStep({
  id: 'fold',
  family: 'warp',
  label: 'Fold',
  help: 'Reflects the picture across a line placed on it; what is beyond the edge is mirrored too, so that no corner is empty.',
  domain: 'light',
  jumps: true,
  start: { amount: 100 },
  parameters: [
    number('amount', 'Amount', '%', 0, 100, 0, { help: 'How much of the reflection is seen.' }),
    line('along', 'Along', [0.5, 0, 0.5, 1]),
    choice('keep', 'Keep', { one: 'one side', other: 'the other' }, 'one'),
    number('shift', 'Shift', 'lines', -1080, 1080, 0, {
      soft: [-300, 300],
      help: 'Slides what is reflected towards the line or away from it.',
    }),
    EDGE,
  ],
  build: (input, v, at) => {
    if (v.amount === 0) return input;
    const [x0, y0, x1, y1] = v.along;
    const [ax, ay] = inLines([x0, y0], at),
      [bx, by] = inLines([x1, y1], at);
    const far = Math.sqrt((bx - ax) * (bx - ax) + (by - ay) * (by - ay));
    if (far < 1e-3) return input;
    // Seen along the line going down, the kept side is on the left.
    const side = v.keep === 'one' ? -1 : 1;
    const [nx, ny] = [(side * -(by - ay)) / far, (side * (bx - ax)) / far];
    return warped(input, v, at, {
      name: 'fold',
      params: [nx, ny, nx * ax + ny * ay, (v.amount / 100) * 2, v.shift],
      where: (x, y, b) => {
        const beyond = x
          .mul(b.param(0))
          .add(y.mul(b.param(1)))
          .sub(b.param(2));
        const back = beyond.max(0).mul(b.param(3)).add(b.param(4));
        return [x.sub(back.mul(b.param(0))), y.sub(back.mul(b.param(1)))];
      },
    });
  },
});
