/** For every binding the JSON Schema accepts exactly what validation accepts. */
import Ajv from 'ajv/dist/2020';
import { describe, expect, it } from 'vitest';
import { BINDINGS, bindingOf, dialNamed, object, pinNamed } from './bindings';
import {
  changesBetween,
  edit,
  emptyLook,
  inWords,
  type LookDocument,
  pieceOf,
  readLook,
  resolve,
  type Setting,
} from '.';
import { type Parameter, valueSchema } from '../parameters';
import { stepOf } from '../steps';

/** A look with dials, pins, a drawn matte, and one parameter of every kind that can be bound. */
const look: LookDocument = (() => {
  const use = (step: string): ReturnType<typeof edit.newStep> => edit.newStep(stepOf(step)!, []);
  const base: LookDocument = {
    ...emptyLook('Bound', 1),
    pins: [
      { key: 'spot', label: 'Spot', kind: 'point', many: false },
      { key: 'edge', label: 'Edge', kind: 'line', many: false },
      { key: 'hit', label: 'Hit', kind: 'cue', many: false },
    ],
  };
  const steps = [use('exposure'), use('contour'), use('crossing-light')];
  const layered = edit.addLayer(base, edit.newLayer('Top', 'clip', [], steps));
  const dials: LookDocument['dials'] = [
    ...layered.dials,
    { key: 'warm', label: 'Warm', kind: 'number', min: 0, max: 10, unit: '', value: 5 },
    { key: 'tint', label: 'Tint', kind: 'colour', value: [1, 0.5, 0] },
  ];
  const matte = {
    key: 'round',
    matte: 'ellipse',
    on: true,
    combine: 'or' as const,
    invert: false,
    parameters: {},
  };
  return {
    ...layered,
    dials,
    layers: layered.layers.map((l) => ({ ...l, mattes: [matte] })),
  };
})();

const parameterOf = (step: string, id: string): Parameter =>
  stepOf(step)!.parameters.find((p) => p.id === id)!;
const NUMBER = parameterOf('exposure', 'stops'),
  COLOUR = parameterOf('contour', 'colour'),
  LINE = parameterOf('crossing-light', 'way'),
  CHOICE = parameterOf('contour', 'operator');
const with_ = (step: string, id: string, s: unknown): LookDocument =>
  edit.setParameter(look, 'top', step, id, s as Setting);
const faultsOf = (step: string, id: string, s: unknown): string => {
  const read = readLook(JSON.parse(JSON.stringify(with_(step, id, s))));
  return 'faults' in read ? inWords(read.faults) : '';
};

const ajv = new Ajv({ strict: false });
const KEY = { type: 'string' };
const takes = (p: Parameter, s: unknown): boolean =>
  ajv.validate(
    {
      oneOf: BINDINGS.flatMap((b) => b.schemas(p, valueSchema(p))),
      $defs: {
        dial: KEY,
        colour: { type: 'array', items: { type: 'number' }, minItems: 3, maxItems: 3 },
      },
    },
    s,
  );

describe('bindings', () => {
  it.each([
    ['a value', 'exposure', 'stops', NUMBER, { value: 1 }],
    ['a dial and its range', 'exposure', 'stops', NUMBER, { dial: 'warm', from: -1, to: 1 }],
    ['a link', 'exposure', 'stops', NUMBER, { follows: 'top/contour/brightness', offset: 2 }],
    ['a colour', 'contour', 'colour', COLOUR, { value: [1, 0, 0] }],
    ['a colour dial', 'contour', 'colour', COLOUR, { dial: 'tint' }],
    ['what stands out', 'contour', 'colour', COLOUR, { clip: 'standing-out' }],
    ['a line pin', 'crossing-light', 'way', LINE, { pin: 'edge' }],
    ['a choice', 'contour', 'operator', CHOICE, { value: 'sobel' }],
  ] as const)('take %s', (_, step, id, p, s) => {
    expect(faultsOf(step, id, s)).toBe('');
    expect(takes(p, s)).toBe(true);
    expect(bindingOf(s)).toBeDefined();
  });

  it.each([
    ['a number for a colour', 'contour', 'colour', COLOUR, { value: 1 }, /./],
    ['a range for a colour', 'contour', 'colour', COLOUR, { clip: 'loud' }, /only a colour can/],
    ['a dial for a choice', 'contour', 'operator', CHOICE, { dial: 'warm' }, /cannot drive a ch/],
    ['a pin for a number', 'exposure', 'stops', NUMBER, { pin: 'spot' }, /point pin cannot set/],
    ['nothing', 'exposure', 'stops', NUMBER, {}, /must be \{ "value": … \}, \{ "dial"/],
  ] as const)('refuse %s, in the schema and in words', (_, step, id, p, s, message) => {
    expect(faultsOf(step, id, s)).toMatch(message);
    expect(takes(p, s)).toBe(false);
  });

  it.each([
    ['a dial', { dial: 'cold', from: 0, to: 1 }, /names the dial "cold"/],
    ['a parameter', { follows: 'top/gone/x' }, /follows "top\/gone\/x", which the look does not/],
  ] as const)('refuse %s that is not there', (_, s, message) => {
    expect(faultsOf('exposure', 'stops', s)).toMatch(message);
  });

  it('lay a number dial linearly from its range onto theirs', () => {
    const s: Setting = { dial: 'warm', from: -2, to: 6 };
    const at = (warm: number): unknown => resolve(look, s, { warm });
    expect([at(0), at(5), at(10)]).toEqual([-2, 2, 6]);
  });

  it('say which dial or pin they name', () => {
    expect(dialNamed({ dial: 'warm', from: 0, to: 1 })).toBe('warm');
    expect(pinNamed({ pin: 'spot' })).toBe('spot');
    expect([dialNamed({ value: 1 }), pinNamed({ value: 1 })]).toEqual([undefined, undefined]);
  });

  it('become constants where a part is taken out of its look, but for dials and pins', () => {
    const linked = with_('exposure', 'stops', { follows: 'top/contour/brightness', offset: 2 });
    const driven = edit.setParameter(linked, 'top', 'contour', 'thickness', {
      dial: 'warm',
      from: 2,
      to: 6,
    });
    const [exposure, contour] = pieceOf(driven, 'top')!.layers[0]!.steps;
    expect(exposure!.parameters['stops']).toEqual({ value: 2 });
    expect(contour!.parameters['thickness']).toEqual({ dial: 'warm', from: 2, to: 6 });
  });

  it('stand at the middle of their range once the dial is not there', () => {
    const s: Setting = { dial: 'cold', from: 1, to: 3 };
    expect(bindingOf(s)!.pruned(s, look)).toEqual({ value: 2 });
    const colour: Setting = { dial: 'none' };
    expect(bindingOf(colour)!.pruned(colour, look)).toBeUndefined();
  });

  it('are told in words', () => {
    const words = (s: unknown): string[] =>
      changesBetween(with_('exposure', 'stops', { value: 1 }), with_('exposure', 'stops', s));
    expect(words({ dial: 'warm', from: -1, to: 1 })).toEqual([
      'Exposure stops 1 → by dial Warm (-1 to 1)',
    ]);
    expect(words({ follows: 'top/contour/brightness' })).toEqual([
      'Exposure stops 1 → following another',
    ]);
  });

  it('have one property each that no other has', () => {
    const ids = BINDINGS.map((b) => b.id);
    expect(new Set(ids).size).toBe(ids.length);
    for (const b of BINDINGS)
      for (const p of [NUMBER, COLOUR, LINE, CHOICE])
        for (const schema of b.schemas(p, object({}))) {
          const { properties } = schema as { properties: Record<string, unknown> };
          expect(ids.filter((id) => id in properties)).toEqual([b.id]);
        }
  });
});
