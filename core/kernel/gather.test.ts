import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  column,
  type CubeTable,
  type Node,
  param,
  reduce,
  row,
  sample,
  type SampleEdge,
  toFloat,
  toInt,
} from '.';
import { Engine } from '../engine';
import { stencil, pointwise, imageOp, type ImageNode } from '../graph';
import { bitsThatDiffer, largestError, leafOf, randomFrom, randomPlanes } from '../testing';

const engine = new Engine({ limit: 1 << 28, helpers: 0 });
const planeOf = (p: ImageNode, i = 0) => {
  const image = engine.compute(p);
  return engine.memory.plane(image, i);
};

describe('sampling', () => {
  const sampled = (w: number, h: number, edge: SampleEdge, from: ImageNode): ImageNode =>
    imageOp({
      shape: `sampled-${edge}`,
      inputs: [stencil(from)],
      planes: 1,
      domain: 'light',
      params: [1.37, -2.6, 0.81, 3.3],
      ints: [w, h],
      build: (b) => [
        sample(
          b.image(0),
          0,
          toFloat(column()).mul(b.param(0)).add(b.param(1)).sub(toFloat(row()).mul(0.3)),
          toFloat(row()).mul(b.param(2)).add(b.param(3)),
          b.int(0),
          b.int(1),
          edge,
        ),
      ],
    });
  for (const edge of ['clear', 'clamp', 'repeat', 'mirror'] as const)
    it.each([
      [1, 1],
      [3, 5],
      [41, 23],
      [641, 359],
    ])(`beyond a %d×%d picture by the rule ${edge} is the reference's`, (w, h) => {
      const picture = sampled(w, h, edge, leafOf(randomPlanes(3, w, h, w), w, h, 'light'));
      expect(bitsThatDiffer(engine, picture)).toBe(0);
      // A coordinate of about 1.4 w has a precision of 2⁻²³ of its value, and neighbours differ by
      // up to 4.5.
      expect(largestError(engine, picture)).toBeLessThan(Math.max(2e-5, 1.4 * w * 2 ** -23 * 4.5));
    });

  it('reads two cells at once where the place of the second is no number', () => {
    const [w, h] = [9, 5];
    const from = leafOf(randomPlanes(1, w, h, 3), w, h, 'light'),
      places = leafOf(
        [Float32Array.from({ length: w * h }, (_, i) => (i % 3 ? NaN : 2))],
        w,
        h,
        'light',
      );
    const picture = imageOp({
      shape: 'cells-nowhere',
      inputs: [stencil(from), pointwise(places)],
      planes: 1,
      domain: 'light',
      ints: [w, h],
      build: (b) => {
        const read = (x: Node): Node =>
          sample(b.image(0), 0, x, toFloat(row()), b.int(0), b.int(1), 'clamp');
        return [read(toFloat(column())).add(read(b.pixel(1)[0]!))];
      },
    });
    expect(bitsThatDiffer(engine, picture)).toBe(0);
  });

  it('reads planes of one cell together, by two rules at once, in a loop and out of it, as the reference does', () => {
    const [w, h] = [67, 41];
    const from = leafOf(randomPlanes(3, w, h, 9), w, h, 'light');
    const picture = imageOp({
      shape: 'cells-together',
      inputs: [stencil(from)],
      planes: 3,
      domain: 'light',
      params: [0.93, 4.2],
      ints: [w, h, 3],
      build: (b) => {
        const x = toFloat(column()).mul(b.param(0)).sub(b.param(1)),
          y = toFloat(row()).mul(b.param(0)).add(b.param(1));
        const at = (plane: number, edge: SampleEdge) =>
          sample(b.image(0), plane, x, y, b.int(0), b.int(1), edge);
        const turned = reduce(b.int(2), [0], (turn, [sum]) => [
          sum!.add(
            sample(b.image(0), 1, x.add(toFloat(turn).mul(1.7)), y, b.int(0), b.int(1), 'mirror'),
          ),
        ]);
        return [
          at(0, 'clear').sub(at(0, 'mirror')),
          at(1, 'clear').add(turned[0]!),
          at(2, 'clear').mul(at(2, 'repeat')),
        ];
      },
    });
    expect(bitsThatDiffer(engine, picture)).toBe(0);
    expect(largestError(engine, picture)).toBeLessThan(2e-4);
  });

  it('finds nothing, the edge, the picture again, or the picture turned over', () => {
    const from = leafOf([[1, 2, 3]], 3, 1, 'light');
    const shifted = (edge: SampleEdge, by: number) =>
      [
        ...planeOf(
          imageOp({
            shape: `shifted-${edge}`,
            inputs: [stencil(from)],
            planes: 1,
            domain: 'light',
            params: [by],
            ints: [3, 1],
            build: (b) => [
              sample(
                b.image(0),
                0,
                toFloat(column()).add(b.param(0)),
                toFloat(row()),
                b.int(0),
                b.int(1),
                edge,
              ),
            ],
          }),
        ),
      ].join();
    expect(shifted('clear', -2)).toBe('0,0,1');
    expect(shifted('clamp', -2)).toBe('1,1,1');
    expect(shifted('repeat', -2)).toBe('2,3,1');
    expect(shifted('mirror', -2)).toBe('2,1,1');
    expect(shifted('repeat', 7)).toBe('2,3,1');
    expect(shifted('mirror', 3)).toBe('3,2,1');
  });
});

describe('reductions', () => {
  const powers = (count: number, from: ImageNode): ImageNode =>
    imageOp({
      shape: 'powers',
      inputs: [pointwise(from)],
      planes: 2,
      domain: 'light',
      params: [0.5],
      ints: [count],
      build: (b) => {
        const [x] = b.pixel(0);
        return reduce(b.int(0), [0, 1], (turn, [sum, power]) => [
          sum!.add(power!.mul(x!.abs().sqrt())),
          power!.mul(b.param(0)).add(toFloat(turn).mul(1e-3)),
        ]);
      },
    });

  it('take as many turns as the kernel is told when it runs, also none', () => {
    const from = leafOf(randomPlanes(1, 11, 3, 4), 11, 3, 'light');
    for (const count of [0, 1, 2, 9]) expect(bitsThatDiffer(engine, powers(count, from))).toBe(0);
    expect(planeOf(powers(0, from), 1).every((v) => v === 1)).toBe(true);
    expect(planeOf(powers(3, leafOf([[4]], 1, 1, 'light')))[0]).toBeCloseTo(
      2 * (1 + 0.5 + 0.251),
      5,
    );
  });

  it('gather from a picture at places that change with the turn', () => {
    const [w, h] = [37, 5];
    const from = leafOf(randomPlanes(3, w, h, 8), w, h, 'light');
    const streak = imageOp({
      shape: 'streak',
      inputs: [stencil(from)],
      planes: 3,
      domain: 'light',
      params: [0.7],
      ints: [6, w, h],
      build: (b) =>
        reduce(b.int(0), [0, 0, 0], (turn, sums) =>
          sums.map((s, p) =>
            s.add(
              sample(
                b.image(0),
                p,
                toFloat(column()).add(toFloat(turn).mul(b.param(0))),
                toFloat(row()),
                b.int(1),
                b.int(2),
              ).mul(1 / 6),
            ),
          ),
        ),
    });
    expect(bitsThatDiffer(engine, streak)).toBe(0);
    expect(largestError(engine, streak)).toBeLessThan(1e-5);
  });

  it('stand inside one another, and read at what the inner one comes to', () => {
    const [w, h] = [37, 5];
    const from = leafOf(randomPlanes(1, w, h, 8), w, h, 'light');
    const nested = imageOp({
      shape: 'nested',
      inputs: [stencil(from)],
      planes: 1,
      domain: 'light',
      ints: [4, 3, w, h],
      build: (b) =>
        reduce(b.int(0), [0], (outer, [sum]) => {
          const [far] = reduce(b.int(1), [0], (inner, [so]) => [
            so!.add(toFloat(inner).mul(toFloat(outer)).mul(0.3)),
          ]);
          return [
            sum!.add(
              sample(
                b.image(0),
                0,
                toFloat(column()).add(far!),
                toFloat(row()),
                b.int(2),
                b.int(3),
              ),
            ),
          ];
        }),
    });
    expect(bitsThatDiffer(engine, nested)).toBe(0);
  });

  it('leave what two of them share, and what follows them, right', () => {
    const from = leafOf(randomPlanes(1, 9, 4, 5), 9, 4, 'light');
    const two = imageOp({
      shape: 'two',
      inputs: [pointwise(from)],
      planes: 1,
      domain: 'light',
      params: [1.5],
      ints: [3, 4],
      build: (b) => {
        const shared = b.pixel(0)[0]!.mul(b.param(0));
        const [a] = reduce(b.int(0), [shared], (_, [s]) => [s!.mul(0.5).add(shared)]);
        const [c] = reduce(toInt(param(0)), [a!], (_, [s]) => [s!.add(shared.abs())]);
        return [a!.add(c!).add(shared)];
      },
    });
    expect(bitsThatDiffer(engine, two)).toBe(0);
  });
});

describe('cubes', () => {
  const cubeOf = (
    n: number,
    f: (r: number, g: number, b: number) => readonly number[],
    key: string,
  ): CubeTable => {
    const colours = new Float32Array(n ** 3 * 3);
    for (let b = 0; b < n; b++)
      for (let g = 0; g < n; g++)
        for (let r = 0; r < n; r++)
          colours.set(f(r / (n - 1), g / (n - 1), b / (n - 1)), ((b * n + g) * n + r) * 3);
    return { key, layout: { kind: 'cube', n }, colours };
  };
  const through = (cube: CubeTable, from: ImageNode): ImageNode =>
    imageOp({
      shape: `through-cube-${cube.layout.n}`,
      inputs: [pointwise(from)],
      planes: 3,
      domain: 'encoded',
      tables: [cube],
      build: (b) => b.cube(0, b.pixel(0)),
    });

  it('of straight lines give the line, corners and faces included', () => {
    const cube = cubeOf(5, (r, g, b) => [r, 0.25 + g / 2, 1 - b], 'lines');
    const from = leafOf(
      [
        [0, 1, 0.5, 0.33, -1, 3],
        [0, 1, 0.25, 0.9, 2, 0.1],
        [0, 1, 1, 0.125, 0.5, -0.2],
      ],
      6,
      1,
      'encoded',
    );
    const image = engine.compute(through(cube, from));
    const [red, green, blue] = [0, 1, 2].map((p) => [...engine.memory.plane(image, p)]);
    [0, 1, 0.5, 0.33, 0, 1].forEach((v, i) => expect(red![i]).toBeCloseTo(v, 6));
    [0.25, 0.75, 0.375, 0.7, 0.75, 0.3].forEach((v, i) => expect(green![i]).toBeCloseTo(v, 6));
    [1, 0, 0, 0.875, 0.5, 1].forEach((v, i) => expect(blue![i]).toBeCloseTo(v, 6));
  });

  it.each([2, 3, 17, 33])(
    "of %d colours a side are the references' everywhere, ties and outsides included",
    (n) => {
      const random = randomFrom(n);
      const cube = cubeOf(n, () => [random(), random() * 2 - 0.5, random()], `random-${n}`);
      const tied = randomPlanes(3, 31, 9, n).map((p, k) =>
        p.map((v, i) => (i % 3 === 0 ? Math.round(v * 4) / 4 : i % 3 === k ? 0.5 : v / 3)),
      );
      const picture = through(cube, leafOf(tied, 31, 9, 'encoded'));
      expect(bitsThatDiffer(engine, picture)).toBe(0);
      expect(largestError(engine, picture)).toBeLessThan(2e-5);
    },
  );

  it('never leave the range of their colours', () => {
    const random = randomFrom(3);
    const cube = cubeOf(4, () => [random(), random(), random()], 'bounded');
    fc.assert(
      fc.property(
        fc.tuple(fc.float({ noNaN: true }), fc.float({ noNaN: true }), fc.float({ noNaN: true })),
        (c) => {
          const image = engine.compute(
            through(
              cube,
              leafOf(
                c.map((v) => [v]),
                1,
                1,
                'encoded',
              ),
            ),
          );
          for (let p = 0; p < 3; p++) {
            const v = engine.memory.plane(image, p)[0]!;
            expect(v).toBeGreaterThanOrEqual(-1e-6);
            expect(v).toBeLessThanOrEqual(1 + 1e-6);
          }
        },
      ),
      { numRuns: 60 },
    );
  });
});
