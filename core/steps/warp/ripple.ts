import { cosTurns, cosTurnsd, select, sinTurns, sinTurnsd } from '../../kernel';
import { choice, number, point } from '../../parameters';
import { builtStep, inLines } from '../declare';
import { EDGE, warped } from './warped';

/** A travelling sine: rings displace along the radius, waves across their direction of travel. */
export const ripple = builtStep({
  id: 'ripple',
  family: 'warp',
  label: 'Ripple',
  help: 'Waves that run through the picture, in rings from a point or straight across.',
  domain: 'light',
  start: { amount: 9 },
  parameters: [
    number('amount', 'Amount', 'lines', -200, 200, 0, { soft: [0, 40] }),
    number('length', 'Wavelength', 'lines', 4, 2160, 120, { soft: [10, 400] }),
    choice('form', 'Form', { waves: 'waves', rings: 'rings' }, 'waves'),
    number('turn', 'Turn', '°', -3600, 3600, 90, {
      soft: [-180, 180],
      help: 'The way straight waves travel.',
    }),
    point('centre', 'Centre'),
    number('speed', 'Speed', '', -60, 60, 0.5, { soft: [-4, 4], help: 'Waves a second.' }),
    number('phase', 'Phase', '°', -3600, 3600, 0, { soft: [0, 360] }),
    EDGE,
  ],
  build: (input, v, at) => {
    if (v.amount === 0) return input;
    const turn = v.turn / 360;
    const along = v.speed * at.seconds - v.phase / 360;
    const rings = v.form === 'rings';
    return warped(input, v, at, {
      name: `ripple-${rings ? 'rings' : 'waves'}`,
      params: [
        v.amount,
        1 / v.length,
        along - Math.floor(along),
        cosTurnsd(turn),
        sinTurnsd(turn),
        ...inLines(v.centre, at),
      ],
      where: (x, y, b) => {
        if (!rings) {
          const far = x.mul(b.param(3)).add(y.mul(b.param(4)));
          const off = sinTurns(far.mul(b.param(1)).sub(b.param(2))).mul(b.param(0));
          return [x.sub(off.mul(b.param(4))), y.add(off.mul(b.param(3)))];
        }
        const u = x.sub(b.param(5)),
          w = y.sub(b.param(6));
        const far = u.mul(u).add(w.mul(w)).sqrt();
        const per = select(
          far.lt(1e-3),
          0,
          cosTurns(far.mul(b.param(1)).sub(b.param(2)))
            .mul(b.param(0))
            .div(far.max(1e-3)),
        );
        return [x.add(u.mul(per)), y.add(w.mul(per))];
      },
    });
  },
});
