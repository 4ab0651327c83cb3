/** Powers that a colourist can turn without harm. */
import { type Node, pow } from '../../kernel';

/**
 * Where the power gives way to a line through 0, and what no light reaches (higher powers of huge
 * numbers stay finite).
 */
const TOE = 1 / 256,
  MOST = 2 ** 60;

/**
 * x · (x² + ε²)^((p − 1) / 2), scaled so that 1 stays: the power p of x, odd about 0, the same
 * above 1; near 0 it becomes a straight line without a kink. A pure power is infinitely steep at 0
 * (or flat), and would turn rounding into colour. It rises everywhere: its slope is (p·x² + ε²)(x²
 * + ε²)^((p − 3) / 2).
 */
export function bent(x: Node, p: Node): Node {
  const held = x.clamp(-MOST, MOST);
  const share = held
    .mul(held)
    .add(TOE * TOE)
    .mul(1 / (1 + TOE * TOE));
  return held.mul(pow(share, p.sub(1).mul(0.5)).min(MOST));
}
