/**
 * Lowering: exp2, log2, sine and tables in terms of arithmetic and bit operations. The
 * single-precision reference and simd run the result operation for operation.
 */
import {
  asFloat,
  asInt,
  iadd,
  iand,
  imul,
  ior,
  ishl,
  ishr,
  isub,
  ixor,
  select,
  toFloat,
  toInt,
  wholeToInt,
} from './expr';
import { constant, inOrder, int, make, type Node } from './node';

const LN2 = 0.6931471805599453;
const EXP2_TERMS = [1];
for (let k = 1; k <= 7; k++) EXP2_TERMS.push((EXP2_TERMS[k - 1]! * LN2) / k);

const polynomial = (coefficients: readonly number[], x: Node): Node =>
  coefficients
    .slice(0, -1)
    .reduceRight<Node>((sum, c) => sum.mul(x).add(c), constant(coefficients.at(-1)!));

/** 2^i · Taylor(f) with i the nearest integer: exact for integers, otherwise within 6e-8. */
function lowerExp2(x: Node): Node {
  const held = x.clamp(-126, 127.49);
  const i = held.add(0.5).floor();
  return polynomial(EXP2_TERMS, held.sub(i)).mul(asFloat(ishl(iadd(toInt(i), 127), 23)));
}

/** Exponent plus the atanh series of the mantissa in √½…√2. */
function lowerLog2(x: Node): Node {
  const bits = asInt(x.max(2 ** -126));
  const m = asFloat(ior(iand(bits, 0x7fffff), 0x3f800000));
  const e = toFloat(isub(ishr(bits, 23), 127));
  const high = constant(1.4142135).lt(m);
  const mm = select(high, m.mul(0.5), m),
    ee = select(high, e.add(1), e);
  const s = mm.sub(1).div(mm.add(1));
  const terms = [1, 3, 5, 7, 9].map((k) => 2 / (k * LN2));
  return ee.add(s.mul(polynomial(terms, s.mul(s))));
}

const TAU = 6.283185307179586;
const SIN_TERMS = [TAU];
for (let k = 1; k <= 6; k++)
  SIN_TERMS.push((-SIN_TERMS[k - 1]! * TAU * TAU) / (2 * k * (2 * k + 1)));

function lowerSin(x: Node): Node {
  const r = x.sub(x.add(0.5).floor());
  const q = select(
    constant(0.25).lt(r),
    constant(0.5).sub(r),
    select(r.lt(-0.25), constant(-0.5).sub(r), r),
  );
  return q.mul(polynomial(SIN_TERMS, q.mul(q)));
}

/** One number of a table's entry; `imm` = [slot, which, numbers per entry]. */
const lookup = (slot: number, index: Node, which: number, width: 2 | 4 = 2): Node =>
  make('lookup', [index], [slot, which, width]);
/** Linear interpolation: the entry's value, plus its difference to the next times `part`. */
const entry = (slot: number, index: Node, part: Node): Node =>
  lookup(slot, index, 0).add(lookup(slot, index, 1).mul(part));

/** `x` clamped to lo…hi; NaN becomes lo. */
const held = (x: Node, lo: number, hi: number): Node => constant(lo).max(x).min(hi);

function lowerTable(x: Node, imm: readonly number[]): Node {
  const slot = imm[0]!;
  if (imm[1] === 0) {
    const [eMin, eMax, odd, slope, offset, precision, bias] = imm.slice(2) as [
      number,
      number,
      number,
      number,
      number,
      number,
      number,
    ];
    const shift = 23 - precision;
    const least = 2 ** eMin;
    const biased = bias ? x.add(bias) : x;
    const a = odd ? biased.abs() : biased;
    const bits = asInt(held(a, least, Math.fround(2 ** eMax * (1 - 2 ** -24))));
    const index = isub(ishr(bits, shift), (eMin + 127) * 2 ** precision);
    const value = select(
      a.lt(least),
      a.mul(slope).add(offset),
      entry(slot, index, toFloat(iand(bits, 2 ** shift - 1)).mul(2 ** -shift)),
    );
    return odd ? asFloat(ixor(asInt(value), iand(asInt(x), 0x80000000 | 0))) : value;
  }
  const [, , lo, hi, n] = imm as readonly [number, number, number, number, number];
  const inRange = held(x, lo, hi);
  const t = inRange
    .sub(lo)
    .mul((n - 1) / (hi - lo))
    .min(n - 1);
  const whole = t.floor();
  const inside = entry(slot, wholeToInt(whole), t.sub(whole));
  const beyond = x.sub(inRange);
  return inside.add(
    beyond.mul(select(beyond.lt(0), lookup(slot, int(n), 0), lookup(slot, int(n), 1))),
  );
}

/**
 * Interpolation in a cube: trilinear over a cell's eight corners, or tetrahedral from its darkest
 * corner along the axis of the largest fraction, then the middle one, then the smallest.
 */
function lowerCube(c: readonly Node[], imm: readonly number[]): Node {
  const [slot, n, channel, overAll] = imm as readonly [number, number, number, number];
  const cells = c.map((x) => {
    const at = held(x, 0, 1).mul(n - 1);
    const low = at.floor().min(n - 2);
    return { low: wholeToInt(low), part: at.sub(low) };
  });
  const [r, g, b] = cells.map((x) => x.part) as [Node, Node, Node];
  const at = iadd(iadd(cells[0]!.low, imul(cells[1]!.low, n)), imul(cells[2]!.low, n * n));
  const corner = (index: Node) => lookup(slot, index, channel, 4);
  if (overAll) {
    const along = (a: Node, b: Node, part: Node): Node => a.mul(part.neg().add(1)).add(b.mul(part));
    const edge = (from: number): Node =>
      along(corner(iadd(at, from)), corner(iadd(at, from + 1)), r);
    return along(along(edge(0), edge(n), g), along(edge(n * n), edge(n * n + n), g), b);
  }
  const step = (when: Node, a: Node | number, other: Node | number): Node =>
    asInt(select(when, asFloat(int(a)), asFloat(int(other))));
  const most = r.max(g).max(b),
    least = r.min(g).min(b),
    middle = r.min(g).max(r.max(g).min(b));
  const first = step(g.le(r).and(b.le(r)), 1, step(b.le(g), n, n * n));
  const last = step(b.le(r).and(b.le(g)), n * n, step(g.le(r), n, 1));
  const all = 1 + n + n * n;
  return corner(at)
    .mul(most.neg().add(1))
    .add(corner(iadd(at, first)).mul(most.sub(middle)))
    .add(corner(isub(iadd(at, all), last)).mul(middle.sub(least)))
    .add(corner(iadd(at, all)).mul(least));
}

/**
 * The same outputs without `exp2`, `log2`, `sinTurns`, `table` and `cube`. Call it inside the
 * `building` scope of the nodes.
 */
export function lower(outputs: readonly Node[]): Node[] {
  const done = new Map<Node, Node>();
  for (const node of inOrder(outputs)) {
    const args = node.args.map((a) => done.get(a)!);
    const plain =
      node.op === 'exp2'
        ? lowerExp2(args[0]!)
        : node.op === 'log2'
          ? lowerLog2(args[0]!)
          : node.op === 'sinTurns'
            ? lowerSin(args[0]!)
            : node.op === 'table'
              ? lowerTable(args[0]!, node.imm)
              : node.op === 'cube'
                ? lowerCube(args, node.imm)
                : make(node.op, args, node.imm);
    done.set(node, plain);
  }
  return outputs.map((n) => done.get(n)!);
}
