import { describe, expect, it } from 'vitest';
import {
  allLayers,
  edit,
  emptyLook,
  keptMover,
  pieceOf,
  pieceOfMover,
  pieceOfStep,
  readLook,
  SHIPPED,
  SHIPPED_PIECES,
  shippedLook,
  withKeptMover,
  withPiece,
} from '.';

describe('a piece of a look', () => {
  it.each(SHIPPED.flatMap((s) => s.look.layers.map((l) => [s.id, l.key] as const)))(
    '%s: %s is kept whole, and can be used in any other look',
    (id, key) => {
      const piece = pieceOf(shippedLook(id)!, key)!;
      expect('look' in readLook(piece)).toBe(true);
      for (const other of [emptyLook('Other'), ...SHIPPED.map((s) => s.look)]) {
        const more = withPiece(other, piece);
        expect(readLook(more)).toHaveProperty('look');
        expect(more.layers).toHaveLength(other.layers.length + 1);
      }
    },
  );
  it('takes its groups along, under keys of their own, and used twice stands twice', () => {
    const grouped = edit.groupLayer(shippedLook('silt')!, 'silver');
    const piece = pieceOf(grouped, grouped.layers.find((l) => l.source === 'group')!.key)!;
    expect(piece.groups).toHaveLength(1);
    const twice = withPiece(withPiece(grouped, piece), piece);
    expect('look' in readLook(twice)).toBe(true);
    expect(twice.groups).toHaveLength(3);
    expect(new Set(allLayers(twice).map((l) => l.key)).size).toBe(allLayers(twice).length);
  });
  it('brings the dials and pins it is bound to, and no others', () => {
    const piece = pieceOf(shippedLook('late-gold')!, 'sun')!;
    expect(piece.dials.map((d) => d.key)).toEqual(['strength', 'flare']);
    expect(piece.pins?.map((p) => p.key)).toEqual(['sun']);
    expect(pieceOf(shippedLook('late-gold')!, 'nothing')).toBeUndefined();
  });
  it('asks for a place of its own where the look asks for something less by that key', () => {
    // Slow Breath asks for an oval "heart", Contour Lamp for a point.
    const piece = pieceOf(shippedLook('slow-breath')!, 'closing')!;
    const more = withPiece(shippedLook('contour-lamp')!, piece);
    const hearts = more.pins?.filter((p) => p.key.startsWith('heart'));
    expect(hearts?.map((p) => [p.key, p.kind])).toEqual([
      ['heart', 'point'],
      ['heart-2', 'oval'],
    ]);
    const [vignette] = more.layers.at(-1)!.steps;
    expect(vignette!.parameters['centre']).toEqual({ pin: 'heart-2' });
    // An oval answers for a point.
    const lamp = pieceOf(shippedLook('contour-lamp')!, 'dusk')!;
    const ovals = withPiece(shippedLook('slow-breath')!, lamp).pins;
    expect(ovals?.filter((p) => p.key.startsWith('heart')).map((p) => p.kind)).toEqual(['oval']);
  });
});

describe('pieces that are less than a layer', () => {
  it('that ship can be read and used', () => {
    for (const piece of SHIPPED_PIECES) {
      expect(readLook(piece)).toHaveProperty('look');
      const used = keptMover(piece)
        ? withKeptMover(shippedLook('silt')!, piece, 'grade/opacity')
        : withPiece(shippedLook('silt')!, piece);
      expect(readLook(used)).toHaveProperty('look');
      expect(used).not.toBe(shippedLook('silt'));
    }
  });
  it('a step stands on a layer of its own, with what moves it and nothing that moves its neighbours', () => {
    const lamp = shippedLook('contour-lamp')!;
    for (const layer of lamp.layers)
      for (const step of layer.steps) {
        const piece = pieceOfStep(lamp, layer.key, step.key)!;
        expect(readLook(piece)).toHaveProperty('look');
        expect(piece.layers).toMatchObject([
          { source: 'below', blend: 'normal', steps: [{ step: step.step }] },
        ]);
        const moved = (lamp.movers ?? [])
          .flatMap((m) => m.targets)
          .filter((t) => t.path.startsWith(`${layer.key}/${step.key}/`));
        expect((piece.movers ?? []).flatMap((m) => m.targets)).toHaveLength(moved.length);
      }
    expect(pieceOfStep(lamp, 'nothing', 'x')).toBeUndefined();
  });
  it('a mover is kept with its numbers as they stand, and moves what it is put on', () => {
    const lamp = shippedLook('contour-lamp')!;
    for (const mover of lamp.movers!) {
      const piece = pieceOfMover(lamp, mover.key)!;
      expect(readLook(piece)).toHaveProperty('look');
      expect(keptMover(piece)).toMatchObject({ kind: mover.kind, targets: [] });
      expect(JSON.stringify(piece)).not.toContain('"dial"');
      const used = withKeptMover(shippedLook('silt')!, piece, 'grade/opacity');
      expect(readLook(used)).toHaveProperty('look');
      expect(used.movers!.at(-1)).toMatchObject({
        kind: mover.kind,
        targets: [{ path: 'grade/opacity' }],
      });
    }
    // Keys of a colour do not act on a number.
    const keyed = edit.addMover(
      edit.addLayer(emptyLook('Keyed'), edit.newLayer('Top', 'clip', [])),
      'keys',
      'top/opacity',
    );
    const colours = {
      ...keyed,
      movers: [
        {
          ...keyed.movers![0]!,
          keys: [{ at: { from: 'start' as const }, value: [1, 0, 0] as const }],
          targets: [],
        },
      ],
    };
    expect(withKeptMover(keyed, { ...colours, layers: [] }, 'top/opacity')).toBe(keyed);
    expect(pieceOfMover(keyed, 'nothing')).toBeUndefined();
  });
});
