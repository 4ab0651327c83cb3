import { describe, expect, it } from 'vitest';
import { stepOf } from '../steps';
import { edit, emptyLook, type LookDocument, readLook, resolve, resolveLayer, standingOut } from '.';

const step = (id: string, parameters = {}) => ({ ...edit.newStep(stepOf(id)!, []), parameters });
const look: LookDocument = {
  ...emptyLook('Following'),
  layers: [
    {
      ...edit.newLayer('a', 'clip', []),
      steps: [
        step('blur', { radius: { value: 30 } }),
        step('glow', { radius: { follows: 'a/blur/radius', offset: 12 }, tint: { value: [0.2, 0.6, 0.9] } }),
        step('contour', { colour: { follows: 'a/glow/tint', shade: -50 } }),
      ],
    },
  ],
};
const values = (l: LookDocument, i: number) => resolveLayer(l, l.layers[0]!, {}).steps[i]!.values;

describe('a parameter that follows another', () => {
  it('is the other with its offset, and moves with it', () => {
    expect('look' in readLook(look)).toBe(true);
    expect(values(look, 1)['radius']).toBe(42);
    expect(values(edit.setConstant(look, 'a', 'blur', 'radius', 100), 1)['radius']).toBe(112);
  });
  it('is held to its own range', () => expect(values(edit.setConstant(look, 'a', 'blur', 'radius', 540), 1)['radius']).toBe(540));
  it('takes a shade of a colour, or its opposite hue', () => {
    expect(values(look, 2)['colour']).toEqual([0.1, 0.3, 0.45]);
    const [r, g, b] = resolve(look, { follows: 'a/glow/tint', hue: 180 }, {}) as [number, number, number];
    expect(r).toBeGreaterThan(b);
    expect(r + g + b).toBeCloseTo(1.7, 9);
  });
  it('keeps its value when what it follows is taken away', () => {
    const left = edit.removeStep(look, 'a', 'blur');
    expect(left.layers[0]!.steps[0]!.parameters['radius']).toEqual({ value: 42 });
    expect('look' in readLook(left)).toBe(true);
  });
  it('cannot follow itself, another kind, or nothing', () => {
    const faults = (path: string, id = 'radius') => readLook(edit.setParameter(look, 'a', 'blur', id, { follows: path }));
    expect(faults('a/glow/radius')).toMatchObject({ faults: [{ message: 'follows what follows it' }, { message: 'follows what follows it' }] });
    expect(faults('a/glow/tint')).toMatchObject({ faults: [{ message: 'a number cannot follow a colour' }] });
    expect(faults('a/glow/wobble')).toMatchObject({ faults: [{ path: 'layers[0].steps[0].parameters.radius' }] });
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
