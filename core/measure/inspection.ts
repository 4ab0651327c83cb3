/** All frames of a clip under its look, looked over for what a delivery must not have. */
import type { Planes } from '../engine';
import { MEANABLE, type Meanable } from '../look';
import { bandedShare, bareEdge, blackOf, strongShare } from './checks';
import { flashFrame } from './flash-cells';
import { FLASH_LIMITS, FlashDetector, type FlashLimits } from './flashes';
import { type CodePlanes, scopesOf } from './scopes';

/** Kinds that are a number of each frame, flagged where it is above a limit. */
const MEASURES = MEANABLE;
type Measure = Meanable;
export type FlagKind = Measure | 'general-flashes' | 'red-flashes' | 'lasting-flashes';
export interface Flag {
  readonly kind: FlagKind;
  /** The clip's frames, the last included. */
  readonly first: number;
  readonly last: number;
  /**
   * The largest share of the picture (of an edge; for a lifted black its luma in code values), or
   * the most flashes in a second.
   */
  readonly worst: number;
}

/** What a frame's number must not be above, and what is too much flashing. */
export type InspectionLimits = Readonly<Record<Measure, number>> & {
  readonly flashes: FlashLimits;
};
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
/** A black counts as lifted only where the look lifted it by so much. */
const LIFT = 0.04;

/** What is looked at of a frame. */
export interface Inspected {
  /** Code values under the look, and of the clip before it at the same size. */
  readonly after: CodePlanes;
  readonly before: CodePlanes;
  /** Linear light under the look, over the whole frame: what flashes are looked for in. */
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

/** Takes frames in their order, then says what is to be flagged. */
export class Inspection {
  private readonly frames: Readonly<Record<Measure, number>>[] = [];
  private readonly flashes: FlashDetector;

  /**
   * `first`: the clip's number of the first frame that is added; `fps`: the rate the frames are
   * shown at.
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

  /** Flags by their first frame. */
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

/** What a kind of flag is called. */
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
const percent = (v: number): string => `${(v * 100).toFixed(1)} %`;
/** How much of it there is, in words. */
export function flagMuch({ kind, worst }: Pick<Flag, 'kind' | 'worst'>): string {
  if (kind === 'lasting-flashes') return `no more than ${worst} a second, but for over 5 s`;
  if (kind.endsWith('flashes')) return `up to ${worst} a second`;
  if (kind === 'lifted-black') return `black at ${percent(worst)} of white`;
  return `up to ${percent(worst)} of ${kind === 'bare-edge' ? 'an edge' : 'the picture'}`;
}
