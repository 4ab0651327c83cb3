/**
 * Look-up tables in look documents. Their numbers are stored as text, so that a look needs no other
 * file.
 */
import { Hasher } from '../graph';
import { Remembered, type TableSpec } from '../kernel';
import type { Colour } from './colour';

/** A look-up table: of colours (3d), or one curve per channel (1d). */
export interface CubeValue {
  readonly name: string;
  readonly kind: '1d' | '3d';
  /** Entries of a curve, or along a side of a cube. */
  readonly size: number;
  /** Input values of the first and last entries. */
  readonly lo: Colour;
  readonly hi: Colour;
  /** Content key. */
  readonly key: string;
  /** Little-endian 32-bit floats in base64. */
  readonly data: string;
}

const PIECE = 0x8000;

/** A table from its numbers: red, green, blue per entry, red changing fastest. */
export function cubeValue(
  name: string,
  kind: '1d' | '3d',
  size: number,
  colours: Float32Array,
  lo: Colour = [0, 0, 0],
  hi: Colour = [1, 1, 1],
): CubeValue {
  return { name, kind, size, lo, hi, key: keyOf(colours, lo, hi), data: floatsAsText(colours) };
}

/** Floats as base64 (32 bits, little-endian). */
export function floatsAsText(floats: Float32Array): string {
  const bytes = new Uint8Array(floats.length * 4);
  const view = new DataView(bytes.buffer);
  floats.forEach((v, i) => view.setFloat32(i * 4, v, true));
  let text = '';
  for (let i = 0; i < bytes.length; i += PIECE)
    text += String.fromCharCode(...bytes.subarray(i, i + PIECE));
  return btoa(text);
}
/** `count` floats from base64; undefined if the count differs or one is not finite. */
export function floatsIn(data: string, count: number): Float32Array | undefined {
  let text: string;
  try {
    text = atob(data);
  } catch {
    return undefined;
  }
  if (text.length !== count * 4) return undefined;
  const bytes = Uint8Array.from(text, (ch) => ch.charCodeAt(0));
  const view = new DataView(bytes.buffer);
  const floats = Float32Array.from({ length: count }, (_, i) => view.getFloat32(i * 4, true));
  return floats.every(Number.isFinite) ? floats : undefined;
}

const keyOf = (colours: Float32Array, lo: Colour, hi: Colour): string => {
  const h = new Hasher();
  [...lo, ...hi].forEach((v) => h.float(v));
  colours.forEach((v) => h.float(v));
  return h.hex();
};

const entries = (c: Pick<CubeValue, 'kind' | 'size'>): number =>
  c.kind === '3d' ? c.size * c.size * c.size : c.size;

/**
 * The numbers of a table; undefined if their count does not match its size, one is not finite, or
 * they do not match its key.
 */
export function coloursOf(cube: CubeValue): Float32Array | undefined {
  const colours = floatsIn(cube.data, entries(cube) * 3);
  return colours && keyOf(colours, cube.lo, cube.hi) === cube.key ? colours : undefined;
}

/** Largest tables that are read: 65 entries a side, 65536 entries of a curve. */
export const MOST_SIDE = 65,
  MOST_ENTRIES = 65536;

/** Whether a value is a valid table. */
export function isCube(v: unknown): v is CubeValue {
  if (v === null || typeof v !== 'object') return false;
  const c = v as Partial<CubeValue>;
  const three = (x: unknown): x is Colour =>
    Array.isArray(x) &&
    x.length === 3 &&
    x.every((n) => typeof n === 'number' && Number.isFinite(n));
  return (
    typeof c.name === 'string' &&
    c.name.length <= 200 &&
    (c.kind === '1d' || c.kind === '3d') &&
    Number.isInteger(c.size) &&
    c.size! >= 2 &&
    c.size! <= (c.kind === '3d' ? MOST_SIDE : MOST_ENTRIES) &&
    three(c.lo) &&
    three(c.hi) &&
    c.lo.every((l, i) => l < (c.hi as Colour)[i]!) &&
    typeof c.key === 'string' &&
    typeof c.data === 'string' &&
    coloursOf(c as CubeValue) !== undefined
  );
}

const made = new Remembered<TableSpec[]>(12);

/** The table for kernels, over 0…1: one cube, or one curve per channel. */
export function cubeTables(cube: CubeValue): TableSpec[] {
  const name = `${cube.kind}-${cube.key}`;
  return made.of(name, () => tablesOf(cube, name));
}
function tablesOf(cube: CubeValue, name: string): TableSpec[] {
  const colours = coloursOf(cube);
  if (!colours) throw new Error(`the table ${cube.name} is damaged`);
  const n = cube.size;
  return cube.kind === '3d'
    ? [{ key: `cube-${name}`, layout: { kind: 'cube', n }, colours }]
    : [0, 1, 2].map((channel) => ({
        key: `curve-${name}-${channel}`,
        layout: { kind: 'uniform', lo: 0, hi: 1, n },
        fn: (x) => {
          const at = Math.max(0, Math.min(1, x)) * (n - 1),
            i = Math.min(n - 2, Math.floor(at));
          const a = colours[i * 3 + channel]!,
            b = colours[i * 3 + 3 + channel]!;
          return a + (b - a) * (at - i);
        },
      }));
}
