/** Powers that are safe to use as controls. */
import { type Node, pow } from '../../kernel';

/** The knee of the power near 0, and a limit that keeps higher powers of huge numbers finite. */
const TOE = 1 / 256,
  MOST = 2 ** 60;

/**
 * x · (x² + ε²)^((p − 1) / 2), scaled so that 1 stays: the power p of x, odd about 0, linear near 0
 * without a kink. A pure power is infinitely steep or flat at 0 and would turn rounding into
 * colour. The slope (p·x² + ε²)(x² + ε²)^((p − 3) / 2) is positive everywhere.
 */
export function bent(x: Node, p: Node): Node {
  const held = x.clamp(-MOST, MOST);
  const share = held
    .mul(held)
    .add(TOE * TOE)
    .mul(1 / (1 + TOE * TOE));
  return held.mul(pow(share, p.sub(1).mul(0.5)).min(MOST));
}
