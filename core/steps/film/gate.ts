import { exp2, mix, smoothstep } from '../../kernel';
import { number } from '../../parameters';
import { pixelStep } from '../declare';

/** The edge of a projector's gate. */
export const gate = pixelStep({
  id: 'gate',
  family: 'film',
  label: 'Gate',
  help: 'The edge of the gate: rounded corners, soft, with fog at the edge and the glow of a perforation if asked.',
  domain: 'light',
  alwaysActs: true,
  parameters: [
    number('inset', 'Inset', 'lines', 0, 200, 18, { soft: [0, 80] }),
    number('corner', 'Corner', 'lines', 0, 540, 60, { soft: [0, 200] }),
    number('softness', 'Softness', 'lines', 0.5, 120, 7, { soft: [1, 40] }),
    number('fog', 'Edge fog', '%', 0, 100, 0, {
      help: 'Warm light that creeps in along the edge.',
    }),
    number('fog-reach', 'Fog reach', 'lines', 5, 400, 90, { soft: [20, 200] }),
    number('perforation', 'Perforation', '%', 0, 200, 0, {
      soft: [0, 100],
      help: 'Light of a perforation at the left.',
    }),
  ],
  numbers: (v, at) => [
    (540 * at.width) / at.height - v.inset,
    540 - v.inset,
    Math.min(v.corner, 540 - v.inset),
    v.softness / 2,
    v.fog / 100,
    -1.4427 / v['fog-reach'],
    v.perforation / 100,
  ],
  pixel: (c, t) => {
    // Distance to a box with round corners; negative inside.
    const qx = t.x.abs().sub(t.n(0)).add(t.n(2)),
      qy = t.y.abs().sub(t.n(1)).add(t.n(2));
    const [ox, oy] = [qx.max(0), qy.max(0)];
    const far = ox.mul(ox).add(oy.mul(oy)).sqrt().add(qx.max(qy).min(0)).sub(t.n(2));
    const open = smoothstep(t.n(3), t.n(3).neg(), far);
    const fog = exp2(far.min(0).neg().mul(t.n(5))).mul(t.n(4));
    // Light through a perforation, wider than high, at the middle of the left edge.
    const px = t.x.add(t.n(0)).mul(1 / 120),
      py = t.y.mul(1 / 170);
    const glow = exp2(px.mul(px).add(py.mul(py)).mul(-1.4427)).mul(t.n(6));
    const tint = [1, 0.52, 0.2],
      white = [1, 0.8, 0.5];
    return c.map((x, i) => mix(0, x.add(fog.mul(tint[i]! * 0.5)).add(glow.mul(white[i]!)), open));
  },
});
