import { describe, expect, it } from 'vitest';
import { allLayers, edit, emptyLook, pieceOf, readLook, SHIPPED, shippedLook, withPiece } from '.';

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
});
