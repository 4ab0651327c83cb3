/** The description of what differs between two looks. */
import { describe, expect, it } from 'vitest';
import { changesBetween, edit, emptyLook, type LookDocument, SHIPPED } from '.';
import { stepOf } from '../steps';

const grain = { ...edit.newStep(stepOf('grain')!, []), parameters: { amount: { value: 20 } } };
const base: LookDocument = edit.addLayer(
  emptyLook('Base', 1),
  edit.newLayer('film', 'below', [], [grain]),
);
const words = (after: LookDocument): string[] => changesBetween(base, after);

describe('changes', () => {
  it('are none between a look and itself, whichever it is', () => {
    for (const { look } of SHIPPED) expect(changesBetween(look, structuredClone(look))).toEqual([]);
  });
  it('name what was set, with its unit', () => {
    expect(words(edit.setConstant(base, 'film', 'grain', 'amount', 35))).toEqual([
      'Grain amount 20 → 35 %',
    ]);
    expect(words(edit.changeStep(base, 'film', 'grain', { mix: { value: 40 } }))).toEqual([
      'Grain mix 100 → 40 %',
    ]);
    expect(words(edit.changeStep(base, 'film', 'grain', { on: false }))).toEqual(['Grain off']);
    expect(
      words(edit.changeLayer(base, 'film', { blend: 'screen', opacity: { value: 62.5 } })),
    ).toEqual(['layer film normal → screen', 'film opacity 100 → 62.5 %']);
    expect(words(edit.setDial(base, 'strength', 80))).toEqual(['dial Strength 100 → 80 %']);
  });
  it('name what came and went', () => {
    const halo = edit.addLayer(base, edit.newLayer('halo', 'below', []));
    expect(words(halo)).toEqual(['layer halo added']);
    expect(changesBetween(halo, base)).toEqual(['layer halo removed']);
    expect(words(edit.removeStep(base, 'film', 'grain'))).toEqual(['step grain of film removed']);
    const swapped = edit.moveLayer(halo, 'halo', 0);
    expect(changesBetween(halo, swapped)).toEqual(['layers in another order']);
  });
  it('say what a parameter is bound to', () => {
    const driven = edit.setParameter(
      {
        ...base,
        dials: [
          ...base.dials,
          { key: 'age', label: 'Age', kind: 'number', min: 0, max: 100, value: 50 },
        ],
      },
      'film',
      'grain',
      'amount',
      { dial: 'age', from: 0, to: 60 },
    );
    expect(words(driven)).toEqual(['Grain amount 20 → by dial Age (0 to 60)', 'dial Age added']);
  });
  it('miss nothing: any other document has some', () => {
    for (const { look } of SHIPPED) {
      const layer = look.layers[0]!;
      for (const other of [
        { ...look, seed: look.seed + 1 },
        edit.changeLayer(look, layer.key, { on: !layer.on }),
        { ...look, name: `${look.name} anew` },
        edit.setMeans(look, look.means?.includes('bands') ? [] : [...(look.means ?? []), 'bands']),
      ])
        expect(changesBetween(look, other).length).toBe(1);
    }
  });
});
