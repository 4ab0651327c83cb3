import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { randomFrom } from '../testing';
import {
  anyValue,
  choice,
  colour,
  type Colour,
  mixValues,
  number,
  type Parameter,
  parseValue,
  type Path,
  splitPath,
  unsuited,
  withDefaults,
} from '.';

const base = { id: 'p', label: 'P' };
const KINDS: readonly Parameter[] = [
  { ...base, kind: 'number', unit: '', min: -2, max: 5, default: 0 },
  { ...base, kind: 'switch', default: false },
  { ...base, kind: 'colour', default: [0, 0, 0] },
  {
    ...base,
    kind: 'choice',
    options: [
      { id: 'a', label: 'A' },
      { id: 'b', label: 'B' },
    ],
    default: 'a',
  },
  { ...base, kind: 'curve', default: [[0, 0]] },
  { ...base, kind: 'point', default: [0.5, 0.5] },
  { ...base, kind: 'line', default: [0, 0, 1, 1] },
  { ...base, kind: 'ellipse', outline: 'ellipse', default: [0.5, 0.5, 1, 1, 0] },
  { ...base, kind: 'path', default: [] },
  { ...base, kind: 'colours', default: [[0, 0, 0, 0, 0]] },
  { ...base, kind: 'text', default: '' },
  { ...base, kind: 'cube', default: null },
];

describe.each(KINDS.map((p) => [p.kind, p] as const))('a %s', (_, p) => {
  it('takes any value of its own, and nothing of a wrong shape', () => {
    for (let seed = 0; seed < 20; seed++)
      expect(unsuited(p, anyValue(p, randomFrom(seed)))).toBeUndefined();
    for (const wrong of [undefined, {}, NaN, [[]], () => 1])
      expect(unsuited(p, wrong)).toMatch(/must be/);
  });
  it('lies between two values: at the first, at the second, and between them a value of its kind', () => {
    for (let seed = 0; seed < 20; seed++) {
      const [a, b] = [anyValue(p, randomFrom(seed)), anyValue(p, randomFrom(seed + 100))];
      expect(mixValues(p, a, b, 0)).toEqual(a);
      expect(mixValues(p, a, b, 1)).toEqual(b);
      for (const how of ['light', 'even'] as const)
        expect(unsuited(p, mixValues(p, a, b, 0.37, how))).toBeUndefined();
      const own = mixValues(p, a, a, 0.5) as readonly number[];
      if (p.kind === 'colour')
        own.forEach((v, i) => expect(v).toBeCloseTo((a as unknown as number[])[i]!, 5));
    }
  });
});

it('reads words as the command line writes them', () => {
  const read = (kind: Parameter['kind'], text: string) =>
    parseValue(
      KINDS.find((p) => p.kind === kind)!,
      text,
      { lut: (path) => path },
    );
  expect(read('number', '1.5')).toBe(1.5);
  expect(read('switch', 'on')).toBe(true);
  expect(read('point', '50,25')).toEqual([0.5, 0.25]);
  expect(read('ellipse', '50,25,300,200,12')).toEqual([0.5, 0.25, 300, 200, 12]);
  expect(read('path', '10,20;30,40;50,60')).toHaveLength(3);
  expect(read('cube', 'a.cube')).toBe('a.cube');
});

it('a node split into a path leaves its outline where it was', () => {
  const path: Path = [
    [0.2, 0.2, -0.05, 0.1, 0.1, -0.05],
    [0.8, 0.3, -0.1, -0.1, 0.05, 0.2],
    [0.5, 0.9, 0.2, 0, -0.2, 0.02],
  ];
  const at = (p: Path, i: number, t: number): readonly [number, number] => {
    const [a, b] = [p[i]!, p[(i + 1) % p.length]!];
    const s = 1 - t;
    const on = (k: 0 | 1) =>
      s * s * s * a[k] +
      3 * s * s * t * (a[k] + a[(4 + k) as 4 | 5]) +
      3 * s * t * t * (b[k] + b[(2 + k) as 2 | 3]) +
      t * t * t * b[k];
    return [on(0), on(1)];
  };
  fc.assert(
    fc.property(
      fc.integer({ min: 0, max: 2 }),
      fc.double({ min: 0.05, max: 0.95, noNaN: true }),
      fc.double({ min: 0, max: 1, noNaN: true }),
      (i, t, u) => {
        const split = splitPath(path, i, t);
        expect(split).toHaveLength(4);
        const was = at(path, i, u),
          is = u <= t ? at(split, i, u / t) : at(split, i + 1, (u - t) / (1 - t));
        is.forEach((v, k) => expect(v).toBeCloseTo(was[k]!, 9));
      },
    ),
  );
});

describe('values have the types of their parameters', () => {
  const declared = {
    parameters: [
      number('radius', 'Radius', 'lines', 0, 10, 4),
      choice('side', 'Side', { left: 'left', right: 'right' }, 'left'),
      colour('tint', 'Tint', [1, 0, 0]),
    ],
  } as const;
  it('known to the compiler by name', () => {
    const v = withDefaults(declared, { side: 'right' });
    const [radius, side, tint]: [number, 'left' | 'right', Colour] = [v.radius, v.side, v.tint];
    expect([radius, side, tint]).toEqual([4, 'right', [1, 0, 0]]);
    // @ts-expect-error no parameter of this name is declared
    expect(v.radios).toBeUndefined();
    // @ts-expect-error the default is none of the options
    choice('side', 'Side', { left: 'left' }, 'above');
  });
});
