import { pointwise, imageOp } from '../../graph';
import { onColour } from '../../image';
import { pow, smoothstep } from '../../kernel';
import { number } from '../../parameters';
import { drift } from '../../graph';
import { builtStep } from '../declare';
import { slowField } from './fields';
import { fromEdge, SIDES } from './light-leak';

/** Relative loss of each dye (cyan, magenta, yellow) in heat, and the brown of charring. */
const LOST = [1, 0.72, 0.4] as const,
  CHAR = [0.55, 1.1, 1.7] as const;

/** Heat at which half of the picture's light is that of the lamp. */
const GONE = 1.0175;
/** Places at which it is found out how far the front has come. */
const ACROSS = 64,
  DOWN = 36;
/** The front that leaves a share of the frame burnt: the quantile of how early its places burn. */
function frontOf(early: (x: number, y: number) => number, share: number): number {
  const all = Float64Array.from({ length: ACROSS * DOWN }, (_, i) =>
    early(((i % ACROSS) + 0.5) / ACROSS, (Math.floor(i / ACROSS) + 0.5) / DOWN),
  ).sort();
  const at = Math.round((1 - share) * all.length);
  // Beyond the last place, so that all of it is gone, the rim too.
  return at <= 0 ? all[0]! - 0.1 : all[Math.min(all.length - 1, at)]!;
}

/** Film that burns in the gate. */
export const filmBurn = builtStep({
  id: 'film-burn',
  family: 'film',
  label: 'Film burn',
  help: 'Heat that eats the picture from an edge: dyes go one after the other, the rim chars, light comes through what is gone.',
  domain: 'encoded',
  start: { amount: 45 },
  parameters: [
    number('amount', 'Amount', '%', 0, 100, 0, { help: 'Of the picture that is gone.' }),
    SIDES,
    number('rim', 'Rim', '%', 1, 100, 30, { help: 'How wide it chars before it is gone.' }),
    number('rate', 'Moves', 'Hz', 0, 12, 1.2, { soft: [0, 4] }),
  ],
  build: (input, v, at) => {
    const amount = v.amount / 100;
    if (amount === 0) return input;
    const side = v.side,
      aspect = at.width / at.height,
      t = at.seconds * v.rate;
    // How early a place burns: the nearer to the edge, along a ragged front that moves.
    const early = (x: number, y: number): number => {
      const [u, w] = [x * aspect * 2.2, y * 2.2];
      const ragged =
        0.16 * drift(at.seed, u, w, t * 0.6) +
        0.07 * drift(at.seed + 1, u * 2.7, w * 2.7, t) +
        0.03 * drift(at.seed + 2, u * 7, w * 7, t);
      return ragged - fromEdge(side, x, y, aspect);
    };
    let front: number | undefined;
    const field = slowField(`burn-${side}`, [amount, v.rate, at.seconds], at, (x, y) => {
      front ??= frontOf(early, amount);
      return GONE + (early(x, y) - front) * 3;
    });
    return imageOp({
      shape: `burnt-${input.planes}`,
      inputs: [pointwise(input), pointwise(field)],
      planes: input.planes,
      domain: 'encoded',
      params: [1 - v.rim / 100, v.rim / 100],
      build: (b) => {
        const heat = b.pixel(1)[0]!;
        const warm = smoothstep(b.param(0).sub(b.param(1)), 1, heat);
        const charred = smoothstep(b.param(0), 0.97, heat).mul(smoothstep(1.02, 0.985, heat));
        const gone = smoothstep(0.985, 1.05, heat);
        return onColour(b.pixel(0), (c) =>
          c.map((x, i) => {
            // Encoded values follow the density's power: a share of the dye is a power of the
            // light.
            const faded = pow(x.max(0), warm.mul(-LOST[i]! * 0.85).add(1));
            const dark = faded.mul(
              charred
                .mul(-0.62 * CHAR[i]!)
                .add(1)
                .max(0.02),
            );
            return dark.add(gone.mul(dark.neg().add([1, 0.98, 0.9][i]!))).add(x.min(0));
          }),
        );
      },
    });
  },
});
