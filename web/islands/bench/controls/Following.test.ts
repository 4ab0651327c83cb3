import { describe, expect, it } from 'vitest';
import { edit, emptyLook, matteOf, SHIPPED, stepOf, type LookDocument } from '../../../../core';
import { alike, centres, leadsTo } from './Following';

const layered = ['low', 'mid', 'top'].reduce<LookDocument>(
  (look, key) =>
    edit.addLayer(look, edit.newLayer(key, 'clip', [], [edit.newStep(stepOf('exposure')!, [])])),
  emptyLook('Layers'),
);
const look = ['low', 'mid', 'top'].reduce<LookDocument>(
  (doc, layer) =>
    edit.addMatte(
      edit.addMatte(doc, { layer }, matteOf('ellipse')!, {}),
      { layer },
      matteOf('luma-key')!,
      {},
    ),
  layered,
);
const owners = (all: readonly { readonly path: string }[]) => all.map((c) => c.path.split('/')[0]);

describe('the mattes at whose middle something can lie', () => {
  it('are the drawn ones of all layers', () => {
    expect(owners(centres(look, 'mid/exposure/stops'))).toEqual(['low', 'mid', 'top']);
  });
  it('are for a placement the measured ones too, of its layer and those below: of a layer above nothing is known yet', () => {
    expect(owners(centres(look, 'mid/placement', true))).toEqual([
      'low',
      'low',
      'mid',
      'mid',
      'top',
    ]);
    expect(owners(centres(look, 'low/placement', true))).toEqual(['low', 'low', 'mid', 'top']);
    expect(owners(centres(look, undefined, true))).toHaveLength(6);
  });
  it('leave out the matte itself, and those whose middle lies at it', () => {
    const [low, mid] = centres(look).map((c) => c.path) as [string, string];
    const bound = edit.setMatteParameter(look, { layer: 'mid' }, mid.split('/')[1]!, 'shape', {
      centre: low,
      shape: [0.5, 0.5, 10, 10, 0],
    });
    expect(centres(bound, low).map((c) => c.path)).not.toContain(mid);
    expect(centres(bound, low).map((c) => c.path)).not.toContain(low);
    expect(centres(bound, mid).map((c) => c.path)).toContain(low);
  });
});

describe('what a parameter can follow', () => {
  it('is every parameter of its kind, by layer and step, in words', () => {
    for (const { look: shipped } of SHIPPED) {
      const all = alike(shipped, 'number');
      expect(new Set(all.map((a) => a.path)).size).toBe(all.length);
      for (const { path, label } of all) {
        const [layer, step, id] = path.split('/') as [string, string, string];
        const use = edit.layerOf(shipped, layer)!.steps.find((s) => s.key === step)!;
        expect(stepOf(use.step)!.parameters.find((p) => p.id === id)!.kind).toBe('number');
        expect(label).toContain(': ');
      }
    }
  });
  it('is none that follows it, by however many between', () => {
    const path = (layer: string) => `${layer}/exposure/stops`;
    const chain = edit.setParameter(
      edit.setParameter(layered, 'low', 'exposure', 'stops', { follows: path('mid') }),
      'mid',
      'exposure',
      'stops',
      {
        follows: path('top'),
        offset: 1,
      },
    );
    expect(leadsTo(chain, path('low'), path('top'))).toBe(true);
    expect(leadsTo(chain, path('mid'), path('top'))).toBe(true);
    expect(leadsTo(chain, path('top'), path('low'))).toBe(false);
    expect(leadsTo(chain, path('low'), undefined)).toBe(false);
  });
});
