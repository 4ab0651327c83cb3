/**
 * Finds cuts inside a clip: frames at which another shot begins, from small pictures of the clip.
 */
import type { FrameIndex } from '../time';

/** Size of the pictures in which cuts are found: three planes of 8 bits (luma, two of chroma). */
export const CUT_PICTURE = { width: 64, height: 36, bytes: 64 * 36 * 3 } as const;
/** Fewest frames of a shot. */
export const SHORTEST_SHOT = 4;

/**
 * At a cut, the smallest difference between a frame before and a frame after is large, and larger
 * than the differences within each shot. Flashes and fast motion do not pass, because their
 * surroundings look alike on both sides. Measured on the demo's clips: the ratio is at most 0.67
 * without a cut, and at least 2 where two clips meet.
 */
const LEAST = 0.03,
  TIMES = 1;
/** Difference due to the noise of a still picture. */
const NOISE = 0.02;
/** Weight of the colour difference beside that of luma. */
const COLOUR = 4;

const { width, height, bytes } = CUT_PICTURE,
  PIXELS = width * height;

/**
 * 1 minus the correlation of luma (insensitive to changes of light), plus the weighted mean
 * difference of colours.
 */
function distance(a: Uint8Array, b: Uint8Array): number {
  let [sa, sb, saa, sbb, sab, colour] = [0, 0, 0, 0, 0, 0];
  for (let i = 0; i < PIXELS; i++) {
    const [x, y] = [a[i]!, b[i]!];
    sa += x;
    sb += y;
    saa += x * x;
    sbb += y * y;
    sab += x * y;
  }
  for (let i = PIXELS; i < bytes; i++) colour += Math.abs(a[i]! - b[i]!);
  const [va, vb, cov] = [
    saa - (sa * sa) / PIXELS,
    sbb - (sb * sb) / PIXELS,
    sab - (sa * sb) / PIXELS,
  ];
  return 1 - cov / Math.sqrt((va + 1) * (vb + 1)) + (COLOUR * colour) / (2 * PIXELS * 255);
}

/**
 * Finds cuts in a clip's frames, given in order as pictures of `CUT_PICTURE`. Keeps only a few of
 * them.
 */
export class CutFinder {
  private count = 0;
  /**
   * The latest frames, and their distances: `far[i][j]` is between the i-th kept frame and the
   * j-th.
   */
  private kept: Uint8Array[] = [];
  private far: number[][] = [];
  private found: { readonly frame: FrameIndex; readonly much: number }[] = [];

  /** Adds the next picture. Throws if it has another size. */
  next(picture: Uint8Array): void {
    if (picture.length !== bytes)
      throw new Error(`a picture of ${bytes} bytes is wanted, not of ${picture.length}`);
    const most = 2 * SHORTEST_SHOT;
    if (this.kept.length === most) {
      this.kept.shift();
      this.far.shift();
      for (const row of this.far) row.shift();
    }
    const last = this.kept.length;
    this.kept.forEach((k, i) => (this.far[i]![last] = distance(k, picture)));
    this.kept.push(Uint8Array.from(picture));
    this.far.push(Array<number>(last + 1).fill(0));
    this.count++;
    if (this.kept.length === most) this.look();
  }

  /** Checks for a cut in the middle of the kept frames. */
  private look(): void {
    const half = SHORTEST_SHOT;
    let across = Infinity,
      inside = 0;
    for (let i = 0; i < half; i++)
      for (let j = half; j < 2 * half; j++) across = Math.min(across, this.far[i]![j]!);
    for (let i = 0; i + 1 < 2 * half; i++)
      if (i + 1 !== half) inside = Math.max(inside, this.far[i]![i + 1]!);
    const much = across / (inside + NOISE);
    if (across < LEAST || much < TIMES) return;
    const frame = this.count - half,
      before = this.found.at(-1);
    // Of adjacent candidates the clearest one is the cut.
    if (before && frame - before.frame < half) {
      if (before.much >= much) return;
      this.found.pop();
    }
    this.found.push({ frame, much });
  }

  /** Frames at which another shot begins, in order. */
  get cuts(): FrameIndex[] {
    return this.found.map((f) => f.frame);
  }
}

/** Decisions by people, by frame of the footage: another shot begins there, or does not. */
export type CutDecisions = Readonly<Record<string, 'cut' | 'none'>>;
/** Frames at which another shot begins: found or set by people, without those denied. In order. */
export function cutsDecided(
  found: readonly FrameIndex[] | null | undefined,
  decided: CutDecisions | null | undefined,
): FrameIndex[] {
  const said = Object.entries(decided ?? {}).flatMap(([f, what]) =>
    what === 'cut' ? [Number(f)] : [],
  );
  const all = [...new Set([...(found ?? []), ...said])].sort((a, b) => a - b);
  return all.filter((f) => decided?.[f] !== 'none');
}
/** Found cuts that nobody has decided on. */
export const cutsUndecided = (
  found: readonly FrameIndex[] | null | undefined,
  decided: CutDecisions | null | undefined,
): FrameIndex[] => (found ?? []).filter((f) => decided?.[f] === undefined);
