import { describe, expect, it } from 'vitest';
import {
  edit,
  emptyLook,
  type LookDocument,
  readLook,
  resolve,
  resolveLayer,
  standingOut,
  still,
} from '.';
import { stepOf } from '../steps';

const step = (id: string, parameters = {}) => ({ ...edit.newStep(stepOf(id)!, []), parameters });
const look: LookDocument = {
  ...emptyLook('Following'),
  layers: [
    {
      ...edit.newLayer('a', 'clip', []),
      steps: [
        step('blur', { radius: { value: 30 } }),
        step('glow', {
          radius: { follows: 'a/blur/radius', offset: 12 },
          tint: { value: [0.2, 0.6, 0.9] },
        }),
        step('contour', { colour: { follows: 'a/glow/tint', shade: -50 } }),
      ],
    },
  ],
};
const values = (l: LookDocument, i: number) =>
  resolveLayer(l, l.layers[0]!, still()).steps[i]!.values;

describe('a parameter that follows another', () => {
  it('is the other with its offset, and moves with it', () => {
    expect('look' in readLook(look)).toBe(true);
    expect(values(look, 1)['radius']).toBe(42);
    expect(values(edit.setConstant(look, 'a', 'blur', 'radius', 100), 1)['radius']).toBe(112);
  });
  it('is held to its own range', () =>
    expect(values(edit.setConstant(look, 'a', 'blur', 'radius', 540), 1)['radius']).toBe(540));
  it('takes a shade of a colour, or its opposite hue', () => {
    expect(values(look, 2)['colour']).toEqual([0.1, 0.3, 0.45]);
    const [r, g, b] = resolve(look, { follows: 'a/glow/tint', hue: 180 }, {}) as [
      number,
      number,
      number,
    ];
    expect(r).toBeGreaterThan(b);
    expect(r + g + b).toBeCloseTo(1.7, 9);
  });
  it('keeps its value when what it follows is taken away', () => {
    const left = edit.removeStep(look, 'a', 'blur');
    expect(left.layers[0]!.steps[0]!.parameters['radius']).toEqual({ value: 42 });
    expect('look' in readLook(left)).toBe(true);
  });
  it('cannot follow itself, another kind, or nothing', () => {
    const faults = (path: string, id = 'radius') =>
      readLook(edit.setParameter(look, 'a', 'blur', id, { follows: path }));
    expect(faults('a/glow/radius')).toMatchObject({
      faults: [{ message: 'follows what follows it' }, { message: 'follows what follows it' }],
    });
    expect(faults('a/glow/tint')).toMatchObject({
      faults: [{ message: 'a number cannot follow a colour' }],
    });
    expect(faults('a/glow/wobble')).toMatchObject({
      faults: [{ path: 'layers[0].steps[0].parameters.radius' }],
    });
  });
});

describe('the colour that stands out', () => {
  it('is opposite to the clip’s main hue', () => {
    const [r, , b] = standingOut({ magenta: -0.02, warmth: -0.06 });
    expect(r).toBeGreaterThan(b);
    const [r2, , b2] = standingOut({ magenta: 0.02, warmth: 0.06 });
    expect(b2).toBeGreaterThan(r2);
  });
});

describe('a place at the middle of a matte', () => {
  const oval = {
    key: 'oval',
    matte: 'ellipse',
    on: true,
    combine: 'or',
    invert: false,
    parameters: { shape: { value: [0.3, 0.7, 100, 50, 0] } },
  } as const;
  const drawn = (path: readonly (readonly number[])[]) =>
    ({
      key: 'drawn',
      matte: 'path',
      on: true,
      combine: 'or',
      invert: false,
      parameters: { path: { value: path } },
    }) as const;
  const corner = (x: number, y: number) => [x, y, 0, 0, 0, 0];
  const at = (
    centre: string,
    mattes: readonly object[],
    kind = 'flare',
    id = 'source',
  ): LookDocument =>
    ({
      ...emptyLook('Middles'),
      layers: [
        { ...edit.newLayer('a', 'clip', []), mattes },
        { ...edit.newLayer('b', 'clip', []), steps: [step(kind, { [id]: { centre } })] },
      ],
    }) as LookDocument;
  const place = (l: LookDocument) =>
    resolveLayer(l, l.layers[1]!, still()).steps[0]!.values['source'];
  it('is the shape’s own, or the middle of the area that a path encloses', () => {
    expect('look' in readLook(at('a/oval', [oval]))).toBe(true);
    expect(place(at('a/oval', [oval]))).toEqual([0.3, 0.7]);
    // The centroid of a right triangle is the mean of its corners; more nodes on one side do not
    // move it.
    const nodes = [corner(0, 0), corner(0.3, 0), corner(0.6, 0), corner(0, 0.3)];
    const [x, y] = place(at('a/drawn', [drawn(nodes)])) as [number, number];
    expect([x, y].map((v) => Number(v.toFixed(9)))).toEqual([0.2, 0.1]);
  });
  it('goes with it, and stays where it was when the matte goes', () => {
    const l = at('a/oval', [oval]);
    const moved = edit.setMatteParameter(l, { layer: 'a' }, 'oval', 'shape', {
      value: [0.8, 0.1, 100, 50, 0],
    });
    expect(place(moved)).toEqual([0.8, 0.1]);
    for (const without of [edit.removeMatte(l, { layer: 'a' }, 'oval'), edit.removeLayer(l, 'a')])
      expect(without.layers.at(-1)!.steps[0]!.parameters['source']).toEqual({ value: [0.3, 0.7] });
  });
  it('is refused for what has no middle, is no place, or leads back to itself', () => {
    const fault = (l: LookDocument) =>
      (readLook(l) as { faults?: { message: string }[] }).faults?.[0]?.message;
    expect(fault(at('a/none', [oval]))).toMatch(/no matte of the look/);
    expect(
      fault(at('a/key', [{ ...oval, key: 'key', matte: 'luma-key', parameters: {} }])),
    ).toMatch(/only a placement/);
    expect(fault(at('a/oval', [oval], 'blur', 'radius'))).toMatch(/cannot lie at the middle/);
    const shape = [0, 0, 10, 10, 0];
    const two = [
      { ...oval, parameters: { shape: { centre: 'a/other', shape } } },
      { ...oval, key: 'other', parameters: { shape: { centre: 'a/oval', shape } } },
    ];
    expect(fault(at('a/oval', two))).toMatch(/leads back to itself/);
  });
});
