/** Inspects all frames of a clip under its look for what a delivery must not have. */
import type { Planes } from '../engine';
import { MEANABLE, type Meanable } from '../look';
import { bandedShare, bareEdge, blackOf, strongShare } from './checks';
import { flashFrame } from './flash-cells';
import { FLASH_LIMITS, FlashDetector, type FlashLimits } from './flashes';
import { type CodePlanes, scopesOf } from './scopes';

/** Kinds with one number per frame, flagged where it exceeds a limit. */
const MEASURES = MEANABLE;
type Measure = Meanable;
/** Kinds of flags. */
export type FlagKind = Measure | 'general-flashes' | 'red-flashes' | 'lasting-flashes';
/** A run of frames that exceeds a limit. */
export interface Flag {
  readonly kind: FlagKind;
  /** Frames of the clip, the last one included. */
  readonly first: number;
  readonly last: number;
  /**
   * The worst value: the largest share of the picture (or of an edge), the luma of a lifted black
   * in code values, or the most flashes in a second.
   */
  readonly worst: number;
}

/** Limits of each kind, and of flashing. */
export type InspectionLimits = Readonly<Record<Measure, number>> & {
  readonly flashes: FlashLimits;
};
/** Default limits. */
export const INSPECTION_LIMITS: InspectionLimits = {
  crushed: 0.05,
  clipped: 0.02,
  outside: 0.02,
  'lifted-black': 0.1,
  'over-saturated': 0.05,
  bands: 0.02,
  'bare-edge': 0.3,
  flashes: FLASH_LIMITS,
};
/** Smallest rise by the look that makes a black count as lifted. */
const LIFT = 0.04;

/** What is inspected of a frame. */
export interface Inspected {
  /** Code values under the look, and of the clip without it, at the same size. */
  readonly after: CodePlanes;
  readonly before: CodePlanes;
  /** Linear light under the look over the whole frame; flashes are searched in it. */
  readonly light: Planes;
}

function measured({ after, before }: Inspected): Readonly<Record<Measure, number>> {
  const { crushed, clipped, outside } = scopesOf(after, undefined, 2);
  const black = blackOf(after);
  return {
    crushed,
    clipped,
    outside,
    'lifted-black': black - blackOf(before) >= LIFT ? black : 0,
    'over-saturated': strongShare(after),
    bands: bandedShare(after),
    'bare-edge': bareEdge(after, before),
  };
}

/** Takes frames in order, then returns the flags. */
export class Inspection {
  private readonly frames: Readonly<Record<Measure, number>>[] = [];
  private readonly flashes: FlashDetector;

  /**
   * `first`: index in the clip of the first frame added. `fps`: rate at which the frames are shown.
   */
  constructor(
    private readonly first: number,
    fps: number,
    private readonly limits = INSPECTION_LIMITS,
  ) {
    this.flashes = new FlashDetector(fps, limits.flashes);
  }

  add(frame: Inspected): void {
    this.frames.push(measured(frame));
    this.flashes.add(flashFrame(frame.light));
  }

  /** Flags in the order of their first frames. */
  flags(): Flag[] {
    const runs = MEASURES.flatMap((kind) => this.runsOf(kind));
    const flashes = this.flashes.findings().map((f): Flag => ({
      kind: `${f.kind}-flashes`,
      first: this.first + f.first,
      last: this.first + f.last,
      worst: f.flashes,
    }));
    return [...runs, ...flashes].sort((a, b) => a.first - b.first);
  }

  private runsOf(kind: Measure): Flag[] {
    const flags: Flag[] = [];
    let start = -1,
      worst = 0;
    for (let f = 0; f <= this.frames.length; f++) {
      const value = this.frames[f]?.[kind] ?? 0;
      if (value > this.limits[kind]) {
        if (start < 0) start = f;
        worst = Math.max(worst, value);
      } else if (start >= 0) {
        flags.push({ kind, first: this.first + start, last: this.first + f - 1, worst });
        start = -1;
        worst = 0;
      }
    }
    return flags;
  }
}

/** Names of the kinds of flags. */
export const FLAG_WORDS: Readonly<Record<FlagKind, string>> = {
  crushed: 'crushed',
  clipped: 'clipped',
  outside: 'out of gamut',
  'lifted-black': 'lifted black',
  'over-saturated': 'over-saturated',
  bands: 'banding',
  'bare-edge': 'black edge',
  'general-flashes': 'flashes',
  'red-flashes': 'red flashes',
  'lasting-flashes': 'flashing for long',
};
/**
 * The method of inspections. Raise its number when a measure or a limit changes; a new kind changes
 * it by itself.
 */
export const INSPECTION_METHOD = `2 ${Object.keys(FLAG_WORDS).join(' ')}`;
const percent = (v: number): string => `${(v * 100).toFixed(1)} %`;
/** The extent of a flag as text. */
export function flagMuch({ kind, worst }: Pick<Flag, 'kind' | 'worst'>): string {
  if (kind === 'lasting-flashes') return `no more than ${worst} a second, but for over 5 s`;
  if (kind.endsWith('flashes')) return `up to ${worst} a second`;
  if (kind === 'lifted-black') return `black at ${percent(worst)} of white`;
  return `up to ${percent(worst)} of ${kind === 'bare-edge' ? 'an edge' : 'the picture'}`;
}
