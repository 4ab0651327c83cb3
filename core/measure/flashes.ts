/**
 * Flash safety by ITU-R BT.1702 and WCAG 2.3.1. A general flash is a pair of opposing changes of
 * relative luminance of a tenth or more where the darker is below 0.80; a red flash a pair of
 * changes to or from a saturated red.
 *
 * A failure is more than three flashes within a second over more than a quarter of the picture:
 * four changes of one direction less than a second apart. That is BT.1702's main rule (as in the
 * edition of 2019); its note that flashes whose leading edges lie 360 ms (50 Hz) or 334 ms (60 Hz)
 * apart are acceptable adds nothing to it, since four such edges span more than a second. Its other
 * note, that flashing at a lower rate which goes on for more than five seconds may be a risk too,
 * is a warning here; flashing is taken to go on while a second never passes without a flash.
 *
 * Changes are counted twice. Cell by cell, whatever the phase of each: the area at risk is that of
 * all cells which flash too often at the time, so halves that change places do not cancel. And for
 * the picture as a whole, so that flashes which take one part of it now and another then count as
 * well.
 */
import type { FlashFrame } from './flash-cells';

/** Limits of flashing. */
export interface FlashLimits {
  /** Share of the picture that may flash. */
  readonly area: number;
  /** Most flashes in any one second. */
  readonly most: number;
  /** Longest duration of flashing, seconds. */
  readonly lasting: number;
}
/** The limits of the standards. */
export const FLASH_LIMITS: FlashLimits = { area: 0.25, most: 3, lasting: 5 };

/** `lasting`: at an allowed rate, but for too long. */
export type FlashKind = 'general' | 'red' | 'lasting';
/** A run of frames with too much flashing. */
export interface FlashFinding {
  readonly kind: FlashKind;
  /** Frames of the first and last change of the run, counted from 0. */
  readonly first: number;
  readonly last: number;
  /** Most flashes in any one second of the run. */
  readonly flashes: number;
  /** Largest share of the picture at risk at once. */
  readonly area: number;
}
type Found = Omit<FlashFinding, 'kind'>;

const STEP = 0.1,
  DARK = 0.8,
  RED_STEP = 20;

/** Whether going from one extreme to another counts as a change. */
type Counts = (from: number, to: number) => boolean;
const generalCounts: Counts = (from, to) =>
  Math.abs(to - from) >= STEP && Math.min(from, to) < DARK;
const redCounts: Counts = (from, to) => Math.abs(to - from) > RED_STEP;

/**
 * Flashes per second, if `most` + 1 changes in one direction span `span` frames (less than a
 * second).
 */
const rateOf = (span: number, fps: number, most: number): number =>
  Math.max(most + 1, Math.floor((most * fps) / span));

/** Findings that overlap, or follow within a second, become one. */
function merged(found: readonly Found[], fps: number): Found[] {
  const runs: Found[] = [];
  for (const f of [...found].sort((a, b) => a.first - b.first)) {
    const before = runs.at(-1);
    if (!before || f.first - before.last >= fps) runs.push(f);
    else
      runs[runs.length - 1] = {
        first: before.first,
        last: Math.max(before.last, f.last),
        flashes: Math.max(before.flashes, f.flashes),
        area: Math.max(before.area, f.area),
      };
  }
  return runs;
}

/** The changes of each cell over time, for one measure (luminance or red) of one picture. */
class Changes {
  private readonly extreme: Float32Array;
  /** Direction of each cell's last change: 1 up, −1 down. */
  private readonly way: Int8Array;
  /** Frames of each cell's last `most` changes, up and down, as ring buffers. */
  private readonly rings: readonly [Int32Array, Int32Array];
  private readonly counts: readonly [Uint32Array, Uint32Array];
  /**
   * For each cell: first frame of the current flashing, and the frames up to which it is at risk by
   * rate and by duration.
   */
  private readonly began: Int32Array;
  private readonly fastUntil: Int32Array;
  /** For cells at risk by rate: the first of the changes that count, and flashes per second. */
  private readonly fastSince: Int32Array;
  private readonly flashes: Uint16Array;
  private readonly longUntil: Int32Array;
  private readonly total: number;
  private frame = 0;
  private readonly fast: Found[] = [];
  private readonly long: Found[] = [];
  /** Changes of the picture as a whole: frames and areas, in alternating direction. */
  private readonly whole: { readonly frame: number; readonly area: number }[] = [];
  private wholeWay = 0;

  constructor(
    first: Float32Array,
    private readonly pixels: Uint32Array,
    private readonly counted: Counts,
    private readonly fps: number,
    private readonly limits: FlashLimits,
  ) {
    const n = first.length;
    this.extreme = first.slice();
    this.way = new Int8Array(n);
    this.rings = [new Int32Array(n * limits.most), new Int32Array(n * limits.most)];
    this.counts = [new Uint32Array(n), new Uint32Array(n)];
    this.began = new Int32Array(n);
    this.fastUntil = new Int32Array(n).fill(-1);
    this.longUntil = new Int32Array(n).fill(-1);
    this.fastSince = new Int32Array(n);
    this.flashes = new Uint16Array(n);
    this.total = pixels.reduce((a, b) => a + b, 0);
  }

  add(cells: Float32Array): void {
    const f = ++this.frame;
    const { extreme, way, pixels } = this;
    let up = 0,
      down = 0,
      fast = 0,
      long = 0,
      since = f,
      lasting = f,
      flashes = 0,
      changed = false;
    for (let i = 0; i < cells.length; i++) {
      const v = cells[i]!,
        from = extreme[i]!;
      if ((way[i] === 1 && v > from) || (way[i] === -1 && v < from)) extreme[i] = v;
      else if (this.counted(from, v)) {
        way[i] = v > from ? 1 : -1;
        extreme[i] = v;
        if (v > from) up += pixels[i]!;
        else down += pixels[i]!;
        this.note(i, v > from ? 0 : 1);
        changed = true;
      }
      if (this.fastUntil[i]! >= f) {
        fast += pixels[i]!;
        since = Math.min(since, this.fastSince[i]!);
        flashes = Math.max(flashes, this.flashes[i]!);
      }
      if (this.longUntil[i]! >= f) {
        long += pixels[i]!;
        lasting = Math.min(lasting, this.began[i]!);
      }
    }
    if (changed && fast > this.limits.area * this.total)
      this.fast.push({ first: since, last: f, flashes, area: fast / this.total });
    if (changed && long > this.limits.area * this.total)
      this.long.push({
        first: lasting,
        last: f,
        flashes: this.limits.most,
        area: long / this.total,
      });
    this.noteWhole(Math.max(up, down), up >= down ? 1 : -1);
  }

  /** Records a cell's change, up (0) or down (1), and the risk that follows from it. */
  private note(i: number, direction: 0 | 1): void {
    const { most } = this.limits,
      ring = this.rings[direction],
      f = this.frame;
    const count = this.counts[direction][i]!++;
    const slot = i * most + (count % most);
    const oldest = ring[slot]!,
      before = count > 0 ? ring[i * most + ((count - 1) % most)]! : -Infinity;
    ring[slot] = f;
    // A cell keeps flashing while it has a change in each direction every second.
    if (f - before > this.fps && direction === 0) this.began[i] = f;
    const until = f + Math.min(f - before, this.fps);
    if (f - before <= this.fps && f - this.began[i]! > this.limits.lasting * this.fps)
      this.longUntil[i] = until;
    if (count < most || f - oldest >= this.fps) return;
    this.fastUntil[i] = until;
    this.fastSince[i] = oldest;
    this.flashes[i] = rateOf(f - oldest, this.fps, most);
  }

  private noteWhole(changed: number, way: number): void {
    // A further change in the same direction is part of the same change.
    if (changed <= this.limits.area * this.total || way === this.wholeWay) return;
    this.wholeWay = way;
    this.whole.push({ frame: this.frame, area: changed / this.total });
  }

  /** Findings of more flashes than allowed within a second. */
  tooFast(): Found[] {
    const { whole, fps } = this,
      apart = 2 * this.limits.most;
    const byWhole = whole.flatMap((last, i): Found[] => {
      const first = whole[i - apart];
      if (!first || last.frame - first.frame >= fps) return [];
      const flashes = rateOf(last.frame - first.frame, fps, this.limits.most);
      return [
        {
          first: first.frame,
          last: last.frame,
          flashes,
          area: Math.max(...whole.slice(i - apart, i + 1).map((c) => c.area)),
        },
      ];
    });
    return merged([...this.fast, ...byWhole], fps);
  }
  /** Findings of flashing for too long. */
  tooLong(): Found[] {
    return merged(this.long, this.fps);
  }
}

/**
 * Takes a picture's frames in order, then returns the findings. `fps`: rate at which they are
 * shown.
 */
export class FlashDetector {
  private changes: readonly [Changes, Changes] | undefined;

  constructor(
    private readonly fps: number,
    private readonly limits: FlashLimits = FLASH_LIMITS,
  ) {}

  add({ luminance, red, pixels }: FlashFrame): void {
    if (this.changes) {
      this.changes[0].add(luminance);
      this.changes[1].add(red);
    } else {
      const from = (cells: Float32Array, counts: Counts) =>
        new Changes(cells, pixels, counts, this.fps, this.limits);
      this.changes = [from(luminance, generalCounts), from(red, redCounts)];
    }
  }

  findings(): FlashFinding[] {
    if (!this.changes) return [];
    const [general, red] = this.changes;
    const of = (kind: FlashKind, found: readonly Found[]) =>
      found.map((f): FlashFinding => ({ kind, ...f }));
    const failures = [...of('general', general.tooFast()), ...of('red', red.tooFast())];
    // A finding by rate says this already.
    const lasting = of(
      'lasting',
      merged([...general.tooLong(), ...red.tooLong()], this.fps),
    ).filter((l) => !failures.some((f) => f.first <= l.last && f.last >= l.first));
    return [...failures, ...lasting].sort((a, b) => a.first - b.first);
  }
}

/** Findings for a picture's frames at `fps` frames per second. */
export function flashesOf(
  frames: readonly FlashFrame[],
  fps: number,
  limits: FlashLimits = FLASH_LIMITS,
): FlashFinding[] {
  const detector = new FlashDetector(fps, limits);
  frames.forEach((f) => detector.add(f));
  return detector.findings();
}
