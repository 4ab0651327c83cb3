import { cosTurnsd, sinTurnsd } from '../../kernel';
import { number } from '../../parameters';
import { sway } from '../../graph';
import { builtStep } from '../declare';
import { EDGE, warped } from '../warp/warped';

/** Colour that drifts sideways against luma. */
export const channelDrift = builtStep({
  id: 'channel-drift',
  family: 'tape',
  label: 'Channel drift',
  help: 'Red, green and blue apart in any direction, swaying with time.',
  domain: 'light',
  start: { amount: 6 },
  parameters: [
    number('amount', 'Amount', 'lines', 0, 200, 0, { soft: [0, 30] }),
    number('angle', 'Angle', '°', -360, 360, 0, { soft: [-180, 180] }),
    number('sway', 'Sways', '%', 0, 100, 25, { help: 'How much of it comes and goes.' }),
    number('rate', 'Rate', 'Hz', 0, 12, 0.5, { soft: [0, 4] }),
    EDGE,
  ],
  build: (input, v, at) => {
    const amount = v.amount;
    if (amount === 0) return input;
    const moving = v.sway / 100,
      t = at.seconds * v.rate;
    const far = amount * (1 - moving + moving * sway(at.seed, t)),
      angle = v.angle / 360 + 0.04 * moving * sway(at.seed + 1, t * 0.7);
    const [dx, dy] = [far * cosTurnsd(angle), far * sinTurnsd(angle)];
    return warped(input, v, at, {
      name: 'channel-drift',
      params: [dx, dy],
      where: (x, y, b) => [
        [x.sub(b.param(0)), y.sub(b.param(1))],
        [x, y],
        [x.add(b.param(0)), y.add(b.param(1))],
      ],
    });
  },
});
