/** Clips, their frames, and the graphs of their pictures under looks. */
import {
  type ClipFacts,
  type ClipFrame,
  type FootagePin,
  footagePins,
  gather,
  type GatherSource,
  checkpoint,
  clipFrame,
  type ImageNode,
  plan,
  type Plan,
  type LookDocument,
  type RawFrame,
  type SourceFrames,
  momentAt,
  pinned,
  underLook,
  shownOf,
} from '../../../core';
import type { EngineClip, Shot } from '../protocol';
import { Frames } from './frames';
import { Assets } from './assets';

/** Width ÷ height of a proxy's pixels: those of the footage, except for rounding to even sizes. */
const aspectOf = (clip: EngineClip, raw: RawFrame): number =>
  (clip.format.width * clip.pixelAspect * raw.format.height) /
  (clip.format.height * raw.format.width);

/** A clip's description, for one of its frames. */
const factsOf = (clip: EngineClip, raw: RawFrame, asShot = false): ClipFacts => ({
  ...shownOf(clip),
  lines: clip.format.height,
  pixelAspect: aspectOf(clip, raw),
  balance: asShot ? null : clip.balance,
  content: clip.hash,
  rate: clip.rate,
  frames: clip.frames,
  cuts: clip.cuts,
  whole: clip.whole,
});

/** The pictures of a shot, with the clip's motion from its frame on if requested. */
export interface Planned extends Plan {
  readonly onward?: ImageNode | undefined;
}

/** Loads frames and plans shots. */
export class FrameLoader {
  private readonly clips = new Map<string, EngineClip>();
  private readonly frames = new Frames();
  private readonly assets = new Assets();

  know(clips: readonly EngineClip[]): void {
    clips.forEach((c) => this.clips.set(c.id, c));
  }
  clip(id: string): EngineClip | undefined {
    return this.clips.get(id);
  }

  /**
   * What a shot is made from, fetched if missing; undefined for unknown clips. `looks`: the looks it
   * is needed for, if several.
   */
  async raws(
    shot: Shot,
    looks: readonly (LookDocument | null)[] = [shot.look],
  ): Promise<SourceFrames | undefined> {
    const clip = this.clips.get(shot.clip);
    if (!clip) return undefined;
    const read = (of: EngineClip) => (at: number) => this.frame(of, at, shot.from);
    return this.gathered(clip, shot, looks, read, async ({ frames, parts }) => {
      await this.assets.fetchAll(clip, parts);
      await this.frames.prepare(clip, frames, shot.from);
    });
  }
  /**
   * The frames that a shot needs, without samples, for cache keys. Decodes one frame of each source
   * that never was; undefined for unknown clips.
   */
  async expected(shot: Shot): Promise<SourceFrames | undefined> {
    const clip = this.clips.get(shot.clip);
    if (!clip) return undefined;
    const read = (of: EngineClip) => async (at: number) =>
      this.frames.expected(of, at, shot.from) ?? (await this.frame(of, at, shot.from));
    return this.gathered(clip, shot, [shot.look], read);
  }
  private async gathered(
    clip: EngineClip,
    shot: Shot,
    looks: readonly (LookDocument | null)[],
    read: (of: EngineClip) => (at: number) => Promise<RawFrame>,
    prepare?: GatherSource['prepare'],
  ): Promise<SourceFrames> {
    const source: GatherSource = {
      frame: read(clip),
      part: (asset, at) => this.assets.part(clip, asset, at),
      whole: (asset, look) => this.assets.whole(clip, asset, look),
      tracks: (traces) => this.assets.tracks(clip, traces),
      pins: this.besides(clip, shot).map(([key, pin, other]) => ({
        key,
        pin,
        facts: other,
        frame: read(other),
        shown: (raw) => factsOf(other, raw),
      })),
      ...(prepare && { prepare }),
    };
    const { sources } = await gather(
      looks,
      { ...clip, content: clip.hash },
      shot.frame,
      source,
      shot.field && { also: { motion: this.shownMotion(clip, shot) } },
    );
    return sources;
  }
  /** The frame of which the motion is shown, where that is asked for. */
  private shownMotion(clip: EngineClip, { look, frame }: Shot): number[] {
    const at = Math.min(clip.frames - 2, Math.floor(momentAt(underLook(clip, look), frame)));
    return at < 0 ? [] : [at];
  }
  /** The footage of a shot's pins: the pin's key, the pin, and the clip that shows the footage. */
  private besides(clip: EngineClip, shot: Shot): [string, FootagePin, EngineClip][] {
    const all = [...this.clips.values()].filter((c) => c.scope === clip.scope);
    return footagePins(shot.look, clip.pins).flatMap(([key, pin]) => {
      const other = pinned(pin.hash, all);
      return other ? [[key, pin, other]] : [];
    });
  }
  /** Available frames are returned without waiting. */
  async frame(clip: EngineClip, frame: number, from: Shot['from']): Promise<RawFrame> {
    return this.frames.ready(clip, frame, from) ?? (await this.frames.get(clip, frame, from));
  }

  moment(shot: Shot, width: number, height: number, sources: SourceFrames): ClipFrame {
    const facts = factsOf(this.clips.get(shot.clip)!, [...sources.values()][0]!.own, shot.asShot);
    const at = clipFrame(sources, facts, shot.frame, { width, height, look: shot.look });
    return { ...at, bedrock: checkpoint(at.bedrock) };
  }

  /** The graph of a shot at a size. */
  plan(shot: Shot, width: number, height: number, raws: SourceFrames): Planned {
    const at = this.moment(shot, width, height, raws);
    const planned = shot.look ? plan(shot.look, at) : undefined;
    const none = new Map<string, ImageNode>();
    const pictures = planned ?? {
      bedrock: at.bedrock,
      result: at.bedrock,
      strata: none,
      mattes: none,
    };
    return shot.field ? { ...pictures, onward: at.part?.('motion')?.onward } : pictures;
  }
}
