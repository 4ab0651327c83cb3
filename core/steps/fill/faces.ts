/** The typefaces that ship: outlines in thousandths of the size, y down, baseline at 0. */
import type { Outline } from '../../image';
import glyphs from './glyphs.json';

/** A typeface. */
export interface Face {
  /** Height of a capital letter. */
  readonly capital: number;
  /** Advance width of each letter, and its outline (M, L, Q, C, Z as in SVG). */
  readonly glyphs: Readonly<Record<string, readonly [number, string] | undefined>>;
}
/** Ids of the typefaces. */
export type FaceId = 'words' | 'numbers';
/** All typefaces. */
export const FACES = glyphs as unknown as Readonly<Record<FaceId, Face>>;

/** Straight pieces per curve of a letter. */
const PIECES = 8;

/** Closed outlines of a letter, with curves cut into straight pieces. */
export function outlinesOf(path: string): Outline[] {
  const all: [number, number][][] = [];
  for (const [, kind, numbers] of path.matchAll(/([MLQCZ])([^MLQCZ]*)/g)) {
    const n = numbers!.trim().split(/\s+/).map(Number);
    const now = all.at(-1);
    const from = now?.at(-1);
    if (kind === 'M') all.push([[n[0]!, n[1]!]]);
    else if (kind === 'L') now!.push([n[0]!, n[1]!]);
    else if (kind !== 'Z') {
      const p = [
        from!,
        ...Array.from({ length: n.length / 2 }, (_, i) => [n[2 * i]!, n[2 * i + 1]!] as const),
      ];
      for (let k = 1; k <= PIECES; k++) now!.push(along(p, k / PIECES));
    }
  }
  return all;
}

/** A point on a Bézier curve (de Casteljau). */
function along(p: readonly (readonly [number, number])[], t: number): [number, number] {
  if (p.length === 1) return [p[0]![0], p[0]![1]];
  return along(
    p
      .slice(1)
      .map(([x, y], i) => [p[i]![0] + (x - p[i]![0]) * t, p[i]![1] + (y - p[i]![1]) * t] as const),
    t,
  );
}
