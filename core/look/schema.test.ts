import Ajv from 'ajv/dist/2020';
import { describe, expect, it } from 'vitest';
import { edit, emptyLook, LOOK_SCHEMA, lookSchema, readLook, SHIPPED } from '.';
import { neutralValues, STEPS } from '../steps';

const fits = new Ajv({ strict: false }).compile(lookSchema());
const both = (look: unknown): [boolean, boolean] => [
  fits(look),
  'look' in readLook(structuredClone(look)),
];

describe('the JSON Schema of looks', () => {
  it.each(SHIPPED.map((s) => [s.id, s.look] as const))('takes %s as it ships', (_, look) => {
    fits(look);
    expect(fits.errors).toBeNull();
  });
  it('takes every step at its neutral values', () => {
    for (const step of STEPS) {
      const use = {
        ...edit.newStep(step, []),
        parameters: Object.fromEntries(
          Object.entries(neutralValues(step)).map(([id, value]) => [id, { value }]),
        ),
      };
      expect([
        step.id,
        ...both(edit.addLayer(emptyLook('One'), edit.newLayer('one', 'clip', [], [use]))),
      ]).toEqual([step.id, true, true]);
    }
  });
  it('refuses what the application refuses', () => {
    const look = SHIPPED[0]!.look;
    const layer = look.layers[0]!,
      step = layer.steps[0]!;
    const withStep = (s: object) => ({
      ...look,
      layers: [{ ...layer, steps: [{ ...step, ...s }] }],
    });
    const broken = [
      { ...look, schema: LOOK_SCHEMA + 1 },
      { ...look, seed: -1 },
      { ...look, extra: 1 },
      { ...look, layers: [{ ...layer, blend: 'sparkle' }] },
      { ...look, dials: [{ ...look.dials[0]!, kind: 'wheel' }] },
      withStep({ step: 'sparkle' }),
      withStep({ mix: { value: 101 } }),
      withStep({ parameters: { radius: { value: 'wide' } } }),
      withStep({ parameters: { wobble: { value: 1 } } }),
    ];
    for (const b of broken) expect(both(b)).toEqual([false, false]);
  });
});
