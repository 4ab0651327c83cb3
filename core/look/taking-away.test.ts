import { describe, expect, it } from 'vitest';
import { edit, emptyLook, type LookDocument, readLook, SHIPPED, shippedLook } from '.';
import { matteOf } from '../mattes';
import { stepOf } from '../steps';

const valid = (look: LookDocument) => expect(readLook(look)).toHaveProperty('look');

describe('what is left when something is taken away', () => {
  it.each(SHIPPED.map((s) => [s.id, s.look] as const))(
    '%s stays a look without any one of its pins, layers, steps or dials',
    (_, look) => {
      for (const p of look.pins ?? []) valid(edit.removePin(look, p.key));
      for (const l of look.layers) {
        valid(edit.removeLayer(look, l.key));
        for (const s of l.steps) valid(edit.removeStep(look, l.key, s.key));
      }
    },
  );
  it.each(SHIPPED.flatMap((s) => s.look.layers.map((l) => [s.id, l.key] as const)))(
    '%s: %s is pasted into a look that has nothing it names',
    (id, key) => {
      const layer = edit.layerOf(shippedLook(id)!, key)!;
      valid(edit.addLayer(emptyLook('Other'), layer));
      const one = edit.addLayer(emptyLook('Other'), edit.newLayer('one', 'clip', []));
      for (const step of layer.steps) valid(edit.addStep(one, 'one', step));
    },
  );
  it("a step's matte from a file goes with its pin, one of a shape stays", () => {
    const asked = edit.addPin(
      edit.addLayer(
        emptyLook('M'),
        edit.newLayer('a', 'clip', [], [edit.newStep(stepOf('invert')!, [])]),
      ),
      {
        key: 'figure',
        label: 'Figure',
        kind: 'matte',
        many: false,
      },
    );
    const owner = { layer: 'a', step: 'invert' };
    const look = edit.addMatte(
      edit.addMatte(asked, owner, matteOf('file')!, { from: 'figure' }),
      owner,
      matteOf('box')!,
    );
    valid(look);
    const left = edit.removePin(look, 'figure');
    valid(left);
    expect(left.layers[0]!.steps[0]!.mattes!.map((m) => m.matte)).toEqual(['box']);
  });
  it('what follows a layer of a group that goes with its last user keeps its value', () => {
    const blur = { ...edit.newStep(stepOf('blur')!, []), parameters: { radius: { value: 44 } } };
    const grouped = edit.groupLayer(
      edit.addLayer(emptyLook('G'), edit.newLayer('soft', 'clip', [], [blur])),
      'soft',
    );
    const glow = {
      ...edit.newStep(stepOf('glow')!, []),
      parameters: { radius: { follows: 'soft/blur/radius', offset: 6 } },
    };
    const look = edit.addLayer(grouped, edit.newLayer('light', 'below', [], [glow]));
    valid(look);
    const left = edit.removeLayer(look, grouped.layers[0]!.key);
    valid(left);
    expect(left.groups).toBeUndefined();
    expect(left.layers[0]!.steps[0]!.parameters['radius']).toEqual({ value: 50 });
  });
});
