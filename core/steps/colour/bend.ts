/** Powers that a colourist can turn without harm. */
import { pow, select, type Node } from '../../kernel';

const TOE = 1 / 64,
  /** What no light reaches; higher powers of huge numbers stay finite here. */
  MOST = 2 ** 60;

/**
 * x to the power `p`, odd about 0, the same power above 1. Below 1/64 a straight line through 0 meets it: a pure power is
 * infinitely steep at 0 (or flat), and would turn rounding into colour.
 */
export function bent(x: Node, p: Node): Node {
  const a = x.abs();
  const bentUp = pow(a.max(TOE), p).min(MOST),
    line = pow(p.mul(0).add(TOE), p).mul(1 / TOE);
  return select(p.eq(1), x, select(a.lt(TOE), x.mul(line), select(x.lt(0), bentUp.neg(), bentUp)));
}
