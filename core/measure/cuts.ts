/** Cuts inside a clip: frames with which another shot begins, found from small pictures of it. */
import type { FrameIndex } from '../time';

/**
 * A picture that cuts are found in: three planes of 8 bits (luma, then two of colour difference),
 * each so large.
 */
export const CUT_PICTURE = { width: 64, height: 36, bytes: 64 * 36 * 3 } as const;
/** A shot has at least so many frames. */
export const SHORTEST_SHOT = 4;

/**
 * No frame before a cut is as near to any after it as this, and every one is further from it than
 * neighbours in either shot are from each other. A flash or a fast movement passes neither: its
 * surroundings look alike on both sides. Measured on the demo's clips: the second figure is 0.67 at
 * most without a cut, and 2 or more where two clips meet.
 */
const LEAST = 0.03,
  TIMES = 1;
/** Noise of a still picture. */
const NOISE = 0.02;
/** Of the difference that colours make beside that of luma. */
const COLOUR = 4;

const { width, height, bytes } = CUT_PICTURE,
  PIXELS = width * height;

/**
 * 1 less the correlation of luma (so that light may change as it likes), and the mean difference of
 * colours.
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

/** Is shown a clip's frames in order, as pictures of `CUT_PICTURE`; keeps few of them. */
export class CutFinder {
  private count = 0;
  /**
   * The last frames, and how far each lies from those after it: `far[i][j]` is from the i-th kept
   * to the j-th.
   */
  private kept: Uint8Array[] = [];
  private far: number[][] = [];
  private found: { readonly frame: FrameIndex; readonly much: number }[] = [];

  /** Throws when a picture has another size. */
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

  /** Whether a cut lies in the middle of what is kept. */
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
    // Of neighbours the clearest is the cut.
    if (before && frame - before.frame < half) {
      if (before.much >= much) return;
      this.found.pop();
    }
    this.found.push({ frame, much });
  }

  /** The frames with which another shot begins, in order. */
  get cuts(): FrameIndex[] {
    return this.found.map((f) => f.frame);
  }
}

/**
 * What people say of a place: another shot begins there, or none does. By its frame of the footage.
 */
export type CutDecisions = Readonly<Record<string, 'cut' | 'none'>>;
/**
 * The frames with which another shot begins: those found and those said, less those denied. In
 * order.
 */
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
/** Those that were found and nobody has looked at. */
export const cutsUndecided = (
  found: readonly FrameIndex[] | null | undefined,
  decided: CutDecisions | null | undefined,
): FrameIndex[] => (found ?? []).filter((f) => decided?.[f] === undefined);
