/**
 * How fast what moves in footage moves, frame by frame: found from its measured motion, all of it
 * or what a matte covers.
 */
import { createHash } from 'node:crypto';
import type { FootagePin, RawFrame, Speeds } from '../../core';
import { insideOf, type Pair, speedOf } from '../../core/trace';
import type { PairStore } from './motion';

/** The part of footage whose movement counts. */
export interface Within {
  /** Names the matte and how it lies beside the footage. */
  readonly name: string;
  /** The matte's frame beside one of the footage; null where it has none. */
  readonly at: (frame: number) => Promise<RawFrame | null>;
}
/** `from` is the frame from which the pin's footage counts, where that is a cue of the clip. */
export const withinName = (pin: FootagePin, from: unknown): string =>
  createHash('sha256')
    .update(JSON.stringify([pin, from]))
    .digest('hex')
    .slice(0, 16);

export class SpeedFinder {
  private known: (number | null)[] | undefined;
  private fresh = false;
  constructor(
    /**
     * The motion from a frame to the next; undefined where it is not measured, and is not to be.
     */
    private readonly pair: (frame: number) => Promise<Pair | undefined>,
    private readonly store: Pick<PairStore, 'readSpeeds' | 'writeSpeeds'> | undefined,
    private readonly within: Within | undefined,
  ) {}

  /** Those from a frame to another, both of them in; what lies outside may be there or not. */
  async over(first: number, last: number): Promise<Speeds> {
    const known = (this.known ??= (await this.store?.readSpeeds(this.within?.name)) ?? []);
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
  /** Writes down what was found. */
  async keep(): Promise<void> {
    if (this.fresh && this.known) await this.store?.writeSpeeds(this.known, this.within?.name);
    this.fresh = false;
  }
}
