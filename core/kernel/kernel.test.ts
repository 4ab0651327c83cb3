import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  asInt,
  building,
  column,
  constant,
  cosTurns,
  exp2,
  hash,
  iadd,
  imul,
  inOrder,
  ishr,
  ixor,
  log2,
  make,
  mix,
  type Node,
  param,
  pow,
  row,
  sample,
  select,
  sinTurns,
  smoothstep,
  toFloat,
  toInt,
  turnsd,
  unit,
} from '.';
import { Engine } from '../engine';
import { stencil, type Building, pointwise, imageOp } from '../graph';
import { bitsThatDiffer, largestError, leafOf, randomPlanes } from '../testing';

const engine = new Engine({ limit: 1 << 28, helpers: 0 });
const W = 23,
  H = 7;
const leaf = leafOf(randomPlanes(3, W, H, 42), W, H, 'light', 'kernel-leaf');

/** A recipe for an expression: a tree that fast-check can shrink. */
type Recipe = { readonly op: string; readonly args: readonly Recipe[]; readonly v: number };
const { recipe } = fc.letrec<{ recipe: Recipe }>((tie) => ({
  recipe: fc.oneof(
    { maxDepth: 6, withCrossShrink: true },
    fc.record({
      op: fc.constantFrom('pixel', 'const', 'x', 'y', 'param'),
      args: fc.constant([]),
      v: fc.float({ min: -4, max: 4, noNaN: true }),
    }),
    fc.record({
      op: fc.constantFrom('add', 'sub', 'mul', 'div', 'min', 'max', 'lt', 'mix', 'hash'),
      args: fc.tuple(tie('recipe'), tie('recipe')),
      v: fc.float({ min: 0, max: 1, noNaN: true }),
    }),
    fc.record({
      op: fc.constantFrom('neg', 'abs', 'sqrt', 'floor', 'exp2', 'log2', 'sin', 'clamp', 'bits'),
      args: fc.tuple(tie('recipe')),
      v: fc.float({ min: -1, max: 1, noNaN: true }),
    }),
  ),
}));

function build(r: Recipe, b: Building): Node {
  const [p, q] = r.args.map((a) => build(a, b)) as [Node, Node];
  switch (r.op) {
    case 'pixel':
      return b.pixel(0)[Math.abs(Math.trunc(r.v)) % 3]!;
    case 'const':
      return constant(r.v);
    case 'x':
      return toFloat(column());
    case 'y':
      return toFloat(row());
    case 'param':
      return b.param(0);
    case 'add':
      return p.add(q);
    case 'sub':
      return p.sub(q);
    case 'mul':
      return p.mul(q);
    // Never divides by what may be 0, so no NaN arises.
    case 'div':
      return p.div(q.abs().add(0.5));
    case 'min':
      return p.min(q);
    case 'max':
      return p.max(q);
    case 'lt':
      return select(p.lt(q), p, q.add(r.v));
    case 'mix':
      return mix(p, q, r.v);
    case 'hash':
      return unit(
        hash(
          toInt(p.clamp(-1e6, 1e6)),
          ixor(toInt(q.clamp(-1e6, 1e6)), iadd(row(), imul(column(), 7))),
        ),
      );
    case 'neg':
      return p.neg();
    case 'abs':
      return p.abs();
    case 'sqrt':
      return p.max(0).sqrt();
    case 'floor':
      return p.clamp(-1e6, 1e6).floor();
    case 'exp2':
      return exp2(p.clamp(-20, 20));
    case 'log2':
      return log2(p);
    case 'sin':
      return sinTurns(p.clamp(-1000, 1000));
    case 'clamp':
      return p.clamp(-1, r.v + 1.5);
    case 'bits':
      return toFloat(ishr(asInt(p), 9)).mul(2 ** -23);
    default:
      throw new Error(r.op);
  }
}

const TAPS = [
  [-5, -3],
  [-1, 0],
  [0, 1],
  [2, -1],
  [7, 6],
] as const;

describe('simd', () => {
  it("gives the single reference's bits for any expression", () => {
    let n = 0;
    fc.assert(
      fc.property(recipe, fc.float({ min: -2, max: 2, noNaN: true }), (r, v) => {
        const node = imageOp({
          shape: `any-${n++}`,
          inputs: [pointwise(leaf)],
          planes: 1,
          domain: 'none',
          params: [v],
          build: (b) => [build(r, b).clamp(-1e30, 1e30)],
        });
        expect(bitsThatDiffer(engine, node)).toBe(0);
      }),
      { numRuns: 250 },
    );
  });

  it.each([
    [1, 1],
    [3, 5],
    [4, 4],
    [61, 9],
  ])('resolves taps at every edge of a %dx%d picture by both rules and all scales', (w, h) => {
    const picture = leafOf(randomPlanes(1, w, h, w), w, h, 'none');
    for (const edge of ['clamp', 'clear'] as const)
      for (const [sx, sy, ow, oh] of [
        ['same', 'same', w, h],
        ['double', 'same', Math.ceil(w / 2), h],
        ['same', 'double', w, Math.ceil(h / 2)],
        ['half', 'half', w * 2, h * 2],
      ] as const) {
        const node = imageOp({
          shape: `taps-${edge}-${sx}-${sy}`,
          inputs: [stencil(picture)],
          planes: 1,
          domain: 'none',
          width: ow,
          height: oh,
          build: (b) => [
            TAPS.map(([dx, dy], i) => b.tap(0, 0, dx, dy, { edge, sx, sy }).mul(i + 1.5)).reduce(
              (sum, t) => sum.add(t),
            ),
          ],
        });
        expect(bitsThatDiffer(engine, node)).toBe(0);
      }
  });

  it('samples anywhere, clamped at the edges', () => {
    const node = imageOp({
      shape: 'sampled',
      inputs: [stencil(leaf)],
      planes: 1,
      domain: 'none',
      ints: [W, H],
      build: (b) => [
        sample(
          b.image(0),
          1,
          toFloat(column()).mul(1.7).sub(9.3),
          toFloat(row()).mul(-2.1).add(8.25),
          b.int(0),
          b.int(1),
        ),
      ],
    });
    expect(bitsThatDiffer(engine, node)).toBe(0);
    expect(largestError(engine, node)).toBeLessThan(1e-4);
  });

  it('keeps its elementary functions within a few millionths of the double reference', () => {
    const node = imageOp({
      shape: 'functions',
      inputs: [pointwise(leaf)],
      planes: 4,
      domain: 'none',
      build: (b) => {
        const c = b.pixel(0)[0]!;
        return [
          exp2(c),
          log2(c.abs().add(0.01)),
          pow(c.abs(), 2.4),
          smoothstep(0, 2, c).add(cosTurns(c)),
        ];
      },
    });
    expect(largestError(engine, node)).toBeLessThan(3e-6);
  });
});

describe('expressions', () => {
  it('are one node when written twice, and arguments come first in order', () => {
    building(() => {
      const a = param(0).add(1),
        b = param(0).add(1);
      expect(a).toBe(b);
      const order = inOrder([a.mul(b)]);
      order.forEach((n, i) => n.args.forEach((x) => expect(order.indexOf(x)).toBeLessThan(i)));
      expect(constant(0)).not.toBe(constant(-0));
    });
  });
  it('live only inside building()', () => {
    expect(() => make('ix')).toThrow(/building/);
  });
});

it('numbers and whole numbers are not computed with as if they were the other', () => {
  building(() => {
    expect(() => column().sub(1)).toThrow('sub takes numbers alone');
    expect(() => iadd(param(0), 1)).toThrow('iadd takes whole numbers alone');
    expect(toFloat(iadd(column(), 1)).sub(1).type).toBe('f32');
  });
});

it('directions in turns are those of the arc tangent, to the last bits', () => {
  const number = fc.double({ min: -1e6, max: 1e6, noNaN: true });
  fc.assert(
    fc.property(number, number, (x, y) => {
      expect(turnsd(x, y)).toBeCloseTo(
        // Of minus nothing there is no other direction than of nothing.
        x === 0 && y === 0 ? 0 : Math.atan2(y + 0, x) / (2 * Math.PI),
        14,
      );
    }),
  );
  expect([turnsd(0, 0), turnsd(1, 0), turnsd(0, 1), turnsd(-1, 0)]).toEqual([0, 0, 0.25, 0.5]);
});
