/** Motion of footage, measured from its frames. */
import { FRAME_ASSETS, type PairAtHand, type RawFrame } from '../../core';
import {
  motionOfFrames,
  packPair,
  settled,
  type Tracked,
  trackedFrame,
  unpackPair,
} from '../../core/trace';
import type { PartFinder, PartStore } from './parts';

/** Measures pairs of frames, or finds stored ones; work shared by adjacent pairs is done once. */
export class PairFinder implements PartFinder<PairAtHand> {
  private readonly frames = new Map<number, Tracked>();
  private readonly pairs = new Map<number, PairAtHand>();
  constructor(
    private readonly frame: (index: number) => Promise<RawFrame>,
    private readonly store: PartStore | undefined,
  ) {}

  async at(frame: number): Promise<PairAtHand> {
    const had = await this.kept(frame);
    if (had) return had;
    const found = await this.measured(frame);
    this.pairs.set(frame, found);
    return found;
  }
  /** A stored pair; undefined if there is none. */
  async kept(frame: number): Promise<PairAtHand | undefined> {
    const had = this.pairs.get(frame);
    if (had) return had;
    const bytes = await this.store?.read(frame);
    if (!bytes) return undefined;
    const found = FRAME_ASSETS.motion.unpack(bytes);
    this.pairs.set(frame, found);
    return found;
  }
  private async measured(frame: number): Promise<PairAtHand> {
    const pair = settled(motionOfFrames(await this.tracked(frame), await this.tracked(frame + 1)));
    await this.store?.write(frame, packPair(pair));
    return { width: pair.forward.width, height: pair.forward.height, pair: () => pair };
  }
  /** A stored pair, unpacked; undefined if there is none. */
  async known(frame: number): Promise<ReturnType<typeof unpackPair> | undefined> {
    const bytes = await this.store?.read(frame);
    return bytes && unpackPair(bytes);
  }
  /** Drops all frames and pairs except these. */
  keepOnly(frames: ReadonlySet<number>): void {
    for (const f of this.pairs.keys()) if (!frames.has(f)) this.pairs.delete(f);
    const last = Math.max(...frames);
    for (const f of this.frames.keys()) if (f !== last && f !== last + 1) this.frames.delete(f);
  }
  private async tracked(frame: number): Promise<Tracked> {
    const had = this.frames.get(frame);
    if (had) return had;
    const made = trackedFrame(await this.frame(frame));
    this.frames.set(frame, made);
    return made;
  }
}
