/** Selection of tiles by pointer, keys, or a box drawn over them. */

/** The selection. */
export interface Selection {
  readonly chosen: ReadonlySet<string>;
  /** The tile with the keyboard focus. */
  readonly cursor: string | null;
  /** Start of a range. */
  readonly anchor: string | null;
}
/** Nothing selected. */
export const NO_SELECTION: Selection = { chosen: new Set(), cursor: null, anchor: null };

/** Modifier keys. */
export interface ModifierKeys {
  /** Selects a range from the anchor. */
  readonly run: boolean;
  /** Adds or removes one. */
  readonly more: boolean;
}
const between = (order: readonly string[], a: string, b: string): string[] => {
  const [from, to] = [order.indexOf(a), order.indexOf(b)].sort((x, y) => x - y) as [number, number];
  return from < 0 ? [] : order.slice(from, to + 1);
};

/** The selection after a click on a tile; `order` is the order of tiles. */
export function pressed(
  now: Selection,
  id: string,
  { run, more }: ModifierKeys,
  order: readonly string[],
): Selection {
  if (run && now.anchor !== null)
    return {
      ...now,
      chosen: new Set([...(more ? now.chosen : []), ...between(order, now.anchor, id)]),
      cursor: id,
    };
  const at = { cursor: id, anchor: id };
  if (!more)
    return {
      ...at,
      chosen: now.chosen.size === 1 && now.chosen.has(id) ? new Set() : new Set([id]),
    };
  const chosen = new Set(now.chosen);
  if (!chosen.delete(id)) chosen.add(id);
  return { ...at, chosen };
}

/** A tile with its row and column. */
export interface PlacedTile {
  readonly id: string;
  readonly row: number;
  readonly column: number;
}
/** Directions of the keyboard focus. */
export type Way = 'left' | 'right' | 'up' | 'down' | 'home' | 'end';

/**
 * The next tile in a direction; at the edge the same one. Up and down keep the column if possible.
 */
export function neighbour(
  tiles: readonly PlacedTile[],
  from: string | null,
  way: Way,
): string | null {
  const at = tiles.findIndex((t) => t.id === from);
  if (tiles.length === 0) return null;
  if (way === 'home' || (at < 0 && way !== 'end')) return tiles[0]!.id;
  if (way === 'end') return tiles.at(-1)!.id;
  if (way === 'left' || way === 'right')
    return (tiles[at + (way === 'left' ? -1 : 1)] ?? tiles[at]!).id;
  const here = tiles[at]!;
  const others =
    way === 'up'
      ? tiles.filter((t) => t.row < here.row).reverse()
      : tiles.filter((t) => t.row > here.row);
  const next = others[0]?.row;
  const line = others.filter((t) => t.row === next);
  return (
    line.find((t) => t.column === here.column) ??
    line.sort((a, b) => b.column - a.column)[0] ??
    here
  ).id;
}

/** The selection after the focus moves to a tile: that tile alone, or a range from the anchor. */
export const moved = (
  now: Selection,
  to: string,
  run: boolean,
  order: readonly string[],
): Selection =>
  run
    ? pressed(
        { ...now, anchor: now.anchor ?? now.cursor ?? to },
        to,
        { run: true, more: false },
        order,
      )
    : { chosen: new Set([to]), cursor: to, anchor: to };
