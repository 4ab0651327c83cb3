/**
 * Finds the speed of the motion in footage frame by frame, from measured vectors: of all of it, or
 * of what a matte covers.
 */
import { createHash } from 'node:crypto';
import type { FootagePin, RawFrame, Speeds } from '../../core';
import { insideOf, type Pair, speedOf } from '../../core/trace';
import type { PartStore } from './parts';

/** The part of footage whose motion counts. */
export interface Within {
  /** Key of the matte and its alignment with the footage. */
  readonly name: string;
  /** The matte's frame for a frame of the footage; null if it has none. */
  readonly at: (frame: number) => Promise<RawFrame | null>;
}
/**
 * Key of a pin's matte. `from`: the frame at which the pin's footage starts, if that is a cue of
 * the clip.
 */
export const withinName = (pin: FootagePin, from: unknown): string =>
  createHash('sha256')
    .update(JSON.stringify([pin, from]))
    .digest('hex')
    .slice(0, 16);

const speedsRead = (value: unknown): (number | null)[] =>
  Array.isArray(value) ? value.map((s) => (typeof s === 'number' && s >= 0 ? s : null)) : [];

/** Finds speeds, and keeps those found. */
export class SpeedFinder {
  private known: (number | null)[] | undefined;
  private fresh = false;
  constructor(
    /** Motion from a frame to the next; undefined if it is not measured and must not be. */
    private readonly pair: (frame: number) => Promise<Pair | undefined>,
    private readonly store: Pick<PartStore, 'readValue' | 'writeValue'> | undefined,
    private readonly within: Within | undefined,
  ) {}

  /** Speeds from one frame to another, both included; entries outside may be missing. */
  async over(first: number, last: number): Promise<Speeds> {
    const known = (this.known ??= speedsRead(await this.store?.readValue(this.name())));
    for (let frame = first; frame <= last; frame++) {
      if (typeof known[frame] === 'number') continue;
      const pair = await this.pair(frame);
      if (!pair) continue;
      const cover = await this.within?.at(frame);
      while (known.length <= frame) known.push(null);
      known[frame] = speedOf(pair, cover ? insideOf(cover, pair.forward) : undefined);
      this.fresh = true;
    }
    return known;
  }
  private name(): string {
    return `speeds-${this.within?.name ?? 'all'}`;
  }
  /** Stores what was found. */
  async keep(): Promise<void> {
    if (this.fresh && this.known) await this.store?.writeValue(this.name(), this.known);
    this.fresh = false;
  }
}
