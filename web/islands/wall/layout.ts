/**
 * Layout of the Wall's tiles: groups with headings and rows of tiles, in pixels of the scrolled
 * area.
 */
import type { ClipView } from '../../data/views';
import type { Group } from './arrange';
import type { PlacedTile } from './selection';

/** Distances in pixels. */
export const GAP = 12,
  PADDING = 16;
const CAPTION = 31,
  HEAD = 30;

/** A row of the Wall. */
export type Row =
  | {
      readonly kind: 'head';
      readonly name: string;
      readonly count: number;
      readonly top: number;
      readonly height: number;
    }
  | {
      readonly kind: 'tiles';
      readonly clips: readonly ClipView[];
      readonly top: number;
      readonly height: number;
    };
/** The layout. */
export interface Layout {
  readonly rows: readonly Row[];
  readonly columns: number;
  /** Width of a tile. */
  readonly width: number;
  /** All tiles in order. */
  readonly tiles: readonly PlacedTile[];
}

/**
 * Lays out tiles. `across`: available width; `least`: smallest width of a tile; `aspect`: width ÷
 * height of a picture.
 */
export function laidOut(
  groups: readonly Group[],
  across: number,
  least: number,
  aspect: number,
): Layout {
  const inner = Math.max(least, across - 2 * PADDING);
  const columns = Math.max(1, Math.floor((inner + GAP) / (least + GAP)));
  const width = (inner - (columns - 1) * GAP) / columns;
  const high = Math.ceil(width / aspect) + CAPTION + GAP;
  const rows: Row[] = [],
    tiles: PlacedTile[] = [];
  let top = PADDING;
  for (const { name, clips } of groups) {
    if (name !== null) {
      rows.push({ kind: 'head', name, count: clips.length, top, height: HEAD });
      top += HEAD;
    }
    for (let i = 0; i < clips.length; i += columns) {
      const line = clips.slice(i, i + columns);
      line.forEach((c, column) => tiles.push({ id: c.id, row: rows.length, column }));
      rows.push({ kind: 'tiles', clips: line, top, height: high });
      top += high;
    }
  }
  return { rows, columns, width, tiles };
}

/** A box in pixels. */
export interface Box {
  readonly x0: number;
  readonly y0: number;
  readonly x1: number;
  readonly y1: number;
}
/** Ids of tiles that a box (in pixels of the scrolled area) touches. */
export function touched({ rows, tiles, width }: Layout, box: Box): string[] {
  const [left, right] = [Math.min(box.x0, box.x1), Math.max(box.x0, box.x1)],
    [upper, lower] = [Math.min(box.y0, box.y1), Math.max(box.y0, box.y1)];
  return tiles
    .filter(({ row, column }) => {
      const x = PADDING + column * (width + GAP),
        { top, height } = rows[row]!;
      return x < right && x + width > left && top < lower && top + height - GAP > upper;
    })
    .map((t) => t.id);
}
