/** All frames of a clip under its look, looked over for what a delivery must not have. */
import type { Planes } from '../engine';
import { FLASH_LIMITS, type FlashFrame, flashesOf, flashFrame, type FlashLimits } from './flashes';
import { type CodePlanes, scopesOf } from './scopes';

export type FlagKind = 'crushed' | 'clipped' | 'outside' | 'general-flashes' | 'red-flashes';
export interface Flag {
  readonly kind: FlagKind;
  /** The clip's frames, the last included. */
  readonly first: number;
  readonly last: number;
  /** The largest share of the picture, or the most flashes in a second. */
  readonly worst: number;
}

/** Shares of the picture above which a frame is flagged, and what is too much flashing. */
export interface InspectionLimits {
  readonly crushed: number;
  readonly clipped: number;
  readonly outside: number;
  readonly flashes: FlashLimits;
}
export const INSPECTION_LIMITS: InspectionLimits = { crushed: 0.05, clipped: 0.02, outside: 0.02, flashes: FLASH_LIMITS };

const SHARES = ['crushed', 'clipped', 'outside'] as const;

/** Takes frames in their order, then says what is to be flagged. */
export class Inspection {
  private readonly shares: Record<(typeof SHARES)[number], number>[] = [];
  private readonly cells: FlashFrame[] = [];

  /** `first`: the clip's number of the first frame that is added. */
  constructor(
    private readonly first: number,
    private readonly limits = INSPECTION_LIMITS,
  ) {}

  /** A frame's code values, and its light made small (the cells that flashes are looked for in). */
  add(codes: CodePlanes, light: Planes): void {
    const { crushed, clipped, outside } = scopesOf(codes, undefined, 2);
    this.shares.push({ crushed, clipped, outside });
    const tight = (plane: number): Float32Array => {
      const out = new Float32Array(light.width * light.height);
      for (let y = 0; y < light.height; y++)
        out.set(light.planes[plane]!.subarray(y * light.stride, y * light.stride + light.width), y * light.width);
      return out;
    };
    this.cells.push(flashFrame(tight(0), tight(1), tight(2)));
  }

  /** Flags by their first frame; `fps` is the rate the frames are shown at. */
  flags(fps: number): Flag[] {
    const shares = SHARES.flatMap((kind) => this.runsOf(kind));
    const flashes = flashesOf(this.cells, fps, this.limits.flashes).map((f): Flag => ({
      kind: `${f.kind}-flashes`,
      first: this.first + f.first,
      last: this.first + f.last,
      worst: f.flashes,
    }));
    return [...shares, ...flashes].sort((a, b) => a.first - b.first);
  }

  private runsOf(kind: (typeof SHARES)[number]): Flag[] {
    const flags: Flag[] = [];
    let start = -1,
      worst = 0;
    for (let f = 0; f <= this.shares.length; f++) {
      const share = this.shares[f]?.[kind] ?? 0;
      if (share > this.limits[kind]) {
        if (start < 0) start = f;
        worst = Math.max(worst, share);
      } else if (start >= 0) {
        flags.push({ kind, first: this.first + start, last: this.first + f - 1, worst });
        start = -1;
        worst = 0;
      }
    }
    return flags;
  }
}
