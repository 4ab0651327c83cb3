import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  allLayers,
  edit,
  emptyLook,
  inWords,
  type LookDocument,
  readLook,
  resolve,
  settingsOf,
  SHIPPED,
  shippedLook,
} from '.';
import { stepOf } from '../steps';

const faultsOf = (change: (l: LookDocument) => unknown): string => {
  const read = readLook(change(structuredClone(SHIPPED[0]!.look)));
  return 'faults' in read ? inWords(read.faults) : '';
};

describe('reading a look', () => {
  it.each(SHIPPED.map((s) => [s.id, s.look] as const))(
    'takes %s as it ships, unchanged',
    (_, look) => {
      expect(readLook(structuredClone(look))).toEqual({ look });
    },
  );

  it('says where and what is wrong', () => {
    expect(
      faultsOf((l) => ({
        ...l,
        layers: [{ ...l.layers[0]!, steps: [{ ...l.layers[0]!.steps[0]!, step: 'sparkle' }] }],
      })),
    ).toMatch(/layers\[0\]\.steps\[0\]\.step there is no step "sparkle"/);
    expect(faultsOf((l) => ({ ...l, schema: 9 }))).toMatch(/schema must be 4/);
    expect(faultsOf((l) => ({ ...l, dials: l.dials.slice(1) }))).toMatch(
      /a look has a number dial "strength"/,
    );
    expect(faultsOf((l) => ({ ...l, extra: true }))).toMatch(/extra/);
    expect(
      faultsOf((l) =>
        edit.setParameter(l, 'glass', 'blur', 'radius', { dial: 'nope', from: 0, to: 1 }),
      ),
    ).toMatch(/names the dial "nope"/);
    expect(faultsOf((l) => edit.setConstant(l, 'glass', 'blur', 'radius', 9999))).toMatch(
      /from 0 to 540/,
    );
    expect(faultsOf((l) => ({ ...l, layers: [l.layers[0]!, l.layers[0]!] }))).toMatch(/used twice/);
  });

  it('never throws and never takes what is not a look', () => {
    fc.assert(
      fc.property(fc.jsonValue(), (v) => 'faults' in readLook(v)),
      { numRuns: 300 },
    );
  });

  it('says of a list within a list of layers, steps or dials that it is no layer, step or dial', () => {
    for (const key of ['layers', 'dials'])
      expect(faultsOf((l) => ({ ...l, [key]: [[]] }))).toMatch(`${key} each value`);
  });
  it('never throws on a damaged look', () => {
    const paths = ['layers', 'dials', 'seed', 'name', 'schema', 'bedrock'] as const;
    fc.assert(
      fc.property(fc.constantFrom(...paths), fc.jsonValue(), (key, v) => {
        readLook({ ...structuredClone(SHIPPED[0]!.look), [key]: v });
      }),
      { numRuns: 300 },
    );
  });
});

describe('editing a look', () => {
  const look = SHIPPED[0]!.look;
  const valid = (l: LookDocument) =>
    expect('look' in readLook(JSON.parse(JSON.stringify(l)))).toBe(true);

  it('keeps the document valid whatever is added, duplicated, moved and removed', () => {
    let l = emptyLook('New');
    l = edit.addLayer(l, edit.newLayer('Grade!', 'clip', []));
    l = edit.addStep(l, 'grade', edit.newStep(stepOf('glow')!, []));
    l = edit.addStep(l, 'grade', edit.newStep(stepOf('glow')!, []));
    expect(l.layers[0]!.steps.map((s) => s.key)).toEqual(['glow', 'glow-2']);
    l = edit.duplicateLayer(l, 'grade');
    expect(l.layers.map((x) => x.key)).toEqual(['grade', 'grade-2']);
    l = edit.moveLayer(l, 'grade-2', 0);
    l = edit.moveStep(l, 'grade', 'glow-2', 0);
    l = edit.removeStep(l, 'grade', 'glow');
    expect(l.layers.map((x) => x.key)).toEqual(['grade-2', 'grade']);
    expect(l.layers[1]!.steps.map((s) => s.key)).toEqual(['glow-2']);
    valid(l);
  });

  it('pastes a layer into a look without its dials as constants', () => {
    const pasted = edit.addLayer(emptyLook('Other'), look.layers[1]!);
    valid(pasted);
    expect(look.layers[1]!.steps[0]!.parameters['amount']).toMatchObject({
      dial: 'bloom',
      from: 0,
      to: 80,
    });
    expect(pasted.layers[0]!.steps[0]!.parameters['amount']).toEqual({ value: 40 });
  });

  it('puts dials in another order, strength first', () => {
    const look = shippedLook('Soft Lens')!;
    const keys = (l: LookDocument) => l.dials.map((d) => d.key);
    const [strength, a, b, ...rest] = keys(look);
    expect(keys(edit.moveDial(look, a!, 1))).toEqual([strength, b, a, ...rest]);
    expect(keys(edit.moveDial(look, b!, -1))).toEqual([strength, b, a, ...rest]);
    expect(edit.moveDial(look, a!, -1)).toBe(look);
    expect(edit.moveDial(look, 'strength', 1)).toBe(look);
    expect(keys(edit.moveDial(look, a!, 99)).at(-1)).toBe(a);
  });
  it('lets a dial begin or end at the picture it shows: what is left of it gives what it gave', () => {
    const shipped = shippedLook('Soft Lens')!;
    const at = (l: LookDocument, value: number) => ({
      ...l,
      dials: l.dials.map((d) => (d.key === 'bloom' ? { ...d, value } : d)),
    });
    const bloom = (l: LookDocument) => l.dials.find((d) => d.key === 'bloom')!;
    const values = (l: LookDocument, value: number) =>
      allLayers(l).flatMap((layer) =>
        settingsOf(layer).flatMap((s) =>
          'dial' in s && s.dial === 'bloom' ? [resolve(l, s, { bloom: value }) as number] : [],
        ),
      );
    const least = edit.endDialHere(at(shipped, 30), 'bloom', 'least'),
      both = edit.endDialHere(at(least, 80), 'bloom', 'most');
    expect([bloom(both).min, bloom(both).max]).toEqual([30, 80]);
    expect(values(shipped, 30).length).toBeGreaterThan(0);
    for (const v of [30, 55, 80])
      values(both, v).forEach((x, i) => expect(x).toBeCloseTo(values(shipped, v)[i]!, 9));
    expect('look' in readLook(both)).toBe(true);
    // The edit would leave nothing, or would change nothing.
    const last = at(shipped, bloom(shipped).max!);
    expect(edit.endDialHere(last, 'bloom', 'least')).toBe(last);
    expect(edit.endDialHere(last, 'bloom', 'most')).toBe(last);
    expect(edit.endDialHere(shipped, 'none', 'most')).toBe(shipped);
  });
  it('leaves what a removed dial drove at the value it had', () => {
    const before = resolve(look, look.layers[1]!.steps[0]!.parameters['amount']!, {});
    const freed = edit.removeDial(look, 'bloom', (s) => resolve(look, s, {}));
    expect(freed.layers[1]!.steps[0]!.parameters['amount']).toEqual({ value: before });
    valid(freed);
  });

  it('changes nothing in the document it was given', () => {
    const frozen = JSON.stringify(look);
    edit.setDial(look, 'bloom', 3);
    edit.moveLayer(look, 'bloom', 0);
    expect(JSON.stringify(look)).toBe(frozen);
  });
});
