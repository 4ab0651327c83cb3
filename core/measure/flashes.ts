/**
 * Flash safety by ITU-R BT.1702 and WCAG 2.3.1. A general flash is a pair of opposing changes of relative luminance of a
 * tenth or more where the darker is below 0.80; a red flash a pair of changes to or from a saturated red; either counts
 * when it takes a quarter of the picture (of any tenth of a field of view: here of the whole picture) or more at once. More
 * than three flashes within a second is a failure.
 */
export interface FlashFrame {
  /** Relative luminance (0…1) of each cell of the picture. */
  readonly luminance: Float32Array;
  /** Saturated red of each cell: WCAG's (R − G − B) × 320 where R ÷ (R + G + B) is 0.8 or more, else 0. */
  readonly red: Float32Array;
}

export interface FlashLimits {
  /** The share of cells that must change together. */
  readonly area: number;
  /** At most so many flashes in any one second. */
  readonly most: number;
}
export const FLASH_LIMITS: FlashLimits = { area: 0.25, most: 3 };

export type FlashKind = 'general' | 'red';
export interface FlashFinding {
  readonly kind: FlashKind;
  /** Frames of the first and last change of the run, counted from 0. */
  readonly first: number;
  readonly last: number;
  /** The most flashes in any one second of the run. */
  readonly flashes: number;
  /** The largest share of the picture that changed at once. */
  readonly area: number;
}

const STEP = 0.1,
  DARK = 0.8,
  RED_STEP = 20;

interface Change {
  readonly frame: number;
  readonly area: number;
}

/** Whether going from one extreme to another is a change that counts. */
type Counts = (from: number, to: number) => boolean;
const generalCounts: Counts = (from, to) => Math.abs(to - from) >= STEP && Math.min(from, to) < DARK;
const redCounts: Counts = (from, to) => Math.abs(to - from) > RED_STEP;

/**
 * Opposing changes over the frames, one cell's turning points at a time: a cell changes on the frame where it has gone
 * far enough from its last extreme; frames where enough cells change the same way are the picture's changes.
 */
function changesOf(cells: readonly Float32Array[], counts: Counts, area: number): Change[] {
  const n = cells[0]?.length ?? 0;
  const extreme = Float32Array.from(cells[0] ?? []);
  /** Which way a cell went last: 1 up, −1 down. */
  const way = new Int8Array(n);
  const changes: Change[] = [];
  let last = 0;
  for (let f = 1; f < cells.length; f++) {
    let up = 0,
      down = 0;
    for (let i = 0; i < n; i++) {
      const v = cells[f]![i]!,
        from = extreme[i]!;
      if ((way[i] === 1 && v > from) || (way[i] === -1 && v < from)) extreme[i] = v;
      else if (counts(from, v)) {
        way[i] = v > from ? 1 : -1;
        extreme[i] = v;
        if (v > from) up++;
        else down++;
      }
    }
    const [most, direction] = up >= down ? [up, 1] : [down, -1];
    if (most < area * n || most === 0) continue;
    // Going on the same way is the same change.
    if (direction === last) continue;
    last = direction;
    changes.push({ frame: f, area: most / n });
  }
  return changes;
}

/** Runs of changes in which some second holds more flashes than may be: two opposing changes are one flash. */
function runsOf(changes: readonly Change[], fps: number, most: number, kind: FlashKind): FlashFinding[] {
  const bad = new Set<number>();
  const flashesFrom = changes.map((start, i) => {
    let end = i;
    while (end + 1 < changes.length && changes[end + 1]!.frame - start.frame < fps) end++;
    const flashes = Math.floor((end - i + 1) / 2);
    if (flashes > most) for (let k = i; k <= end; k++) bad.add(k);
    return flashes;
  });
  const findings: FlashFinding[] = [];
  for (let i = 0; i < changes.length; i++) {
    if (!bad.has(i)) continue;
    let end = i;
    // A second and more without a change ends the run.
    while (bad.has(end + 1) && changes[end + 1]!.frame - changes[end]!.frame < fps) end++;
    const run = changes.slice(i, end + 1);
    findings.push({
      kind,
      first: run[0]!.frame,
      last: run.at(-1)!.frame,
      flashes: Math.max(...flashesFrom.slice(i, end + 1)),
      area: Math.max(...run.map((c) => c.area)),
    });
    i = end;
  }
  return findings;
}

/** What is flagged in a picture's frames at a rate of `fps` a second. */
export function flashesOf(frames: readonly FlashFrame[], fps: number, { area, most }: FlashLimits = FLASH_LIMITS): FlashFinding[] {
  const of = (kind: FlashKind, cells: readonly Float32Array[], counts: Counts) => runsOf(changesOf(cells, counts, area), fps, most, kind);
  return [
    ...of(
      'general',
      frames.map((f) => f.luminance),
      generalCounts,
    ),
    ...of(
      'red',
      frames.map((f) => f.red),
      redCounts,
    ),
  ].sort((a, b) => a.first - b.first);
}

/** A frame's cells from linear light as it is shown (each channel held to 0…1). */
export function flashFrame(red: Float32Array, green: Float32Array, blue: Float32Array): FlashFrame {
  const held = (v: number) => Math.max(0, Math.min(1, v));
  const luminance = new Float32Array(red.length),
    saturated = new Float32Array(red.length);
  for (let i = 0; i < red.length; i++) {
    const [r, g, b] = [held(red[i]!), held(green[i]!), held(blue[i]!)];
    luminance[i] = 0.2126 * r + 0.7152 * g + 0.0722 * b;
    const sum = r + g + b;
    saturated[i] = sum > 0 && r / sum >= 0.8 ? Math.max(0, (r - g - b) * 320) : 0;
  }
  return { luminance, red: saturated };
}
