/** Clips, their frames, and the graphs of their pictures under looks. */
import {
  asksForSpeeds,
  asPinned,
  type ClipFacts,
  type ClipFrame,
  type FootagePin,
  footageFrame,
  footagePins,
  checkpoint,
  clipFrame,
  type OtherFrame,
  type PairAtHand,
  type PinFootage,
  type ImageNode,
  plan,
  type Plan,
  type LookDocument,
  type RawFrame,
  needs,
  type Needs,
  type SourceFrame,
  type SourceFrames,
  type Speeds,
  momentAt,
  pinned,
  underLook,
  shownOf,
} from '../../../core';
import type { EngineClip, Shot } from '../protocol';
import { Frames } from './frames';
import { Motions } from './motions';

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
  private readonly motions = new Motions();

  know(clips: readonly EngineClip[]): void {
    clips.forEach((c) => this.clips.set(c.id, c));
  }
  clip(id: string): EngineClip | undefined {
    return this.clips.get(id);
  }

  /**
   * The frames that a shot needs, fetched if missing; undefined for unknown clips. `looks`: the
   * looks it is needed for, if several.
   */
  async raws(
    shot: Shot,
    looks: readonly (LookDocument | null)[] = [shot.look],
  ): Promise<SourceFrames | undefined> {
    const clip = this.clips.get(shot.clip);
    if (!clip) return undefined;
    const counting = looks.find((look) => look && asksForSpeeds(look));
    const speeds = counting ? await this.motions.speedsUnder(clip, counting) : undefined;
    const asked = looks.map((look) => this.needed(clip, { ...shot, look }, speeds));
    const needed = new Set(asked.flatMap((a) => a.frames)),
      motions = await this.motionsOf(
        clip,
        asked.flatMap((a) => a.motions),
      );
    const found = new Map<number, SourceFrame>();
    await this.frames.prepare(
      clip,
      [...needed].sort((a, b) => a - b),
      shot.from,
    );
    for (const frame of [...needed].sort((a, b) => a - b))
      found.set(frame, {
        own: await this.frame(clip, frame, shot.from),
        others: await this.beside(clip, { ...shot, frame }),
        motion: motions.get(frame),
        speeds,
      });
    return found;
  }
  private needed(
    clip: EngineClip,
    { look, frame, field }: Shot,
    speeds: Speeds | undefined,
  ): Needs {
    const { frames, motions } = needs(look, { ...clip, content: clip.hash, speeds }, frame);
    if (!field) return { frames, motions };
    const shown = Math.min(clip.frames - 2, Math.floor(momentAt(underLook(clip, look), frame)));
    return { frames, motions: [...motions, shown].filter((m) => m >= 0) };
  }
  private async motionsOf(
    clip: EngineClip,
    frames: readonly number[],
  ): Promise<ReadonlyMap<number, PairAtHand | undefined>> {
    const asked = [...new Set(frames)];
    return new Map(
      await Promise.all(asked.map(async (f) => [f, await this.motions.pair(clip, f)] as const)),
    );
  }
  private async beside(clip: EngineClip, shot: Shot): Promise<PinFootage> {
    const others: Record<string, OtherFrame | null> = {};
    for (const [key, other, at, pin] of this.besides(clip, shot)) {
      const raw = at === null ? null : await this.frame(other, at, shot.from);
      others[key] = raw && { raw, clip: asPinned(factsOf(other, raw), pin) };
    }
    return others;
  }
  /** The footage of a shot's pins: the pin's key, the clip, and the frame (null after its end). */
  private besides(
    clip: EngineClip,
    shot: Shot,
  ): [key: string, other: EngineClip, at: number | null, pin: FootagePin][] {
    return footagePins(shot.look, clip.pins).flatMap(([key, pin]) => {
      const all = [...this.clips.values()].filter((c) => c.scope === clip.scope);
      const other = pinned(pin.hash, all);
      return other ? [[key, other, footageFrame(pin, shot.frame, clip, other), pin]] : [];
    });
  }
  /**
   * The frames that a shot needs, without samples, for cache keys. Decodes one frame of each source
   * that never was; undefined for unknown clips.
   */
  async expected(shot: Shot): Promise<SourceFrames | undefined> {
    const clip = this.clips.get(shot.clip);
    if (!clip) return undefined;
    const found = new Map<number, SourceFrame>();
    const speeds =
      shot.look && asksForSpeeds(shot.look)
        ? await this.motions.speedsUnder(clip, shot.look)
        : undefined;
    const { frames, motions: asked } = this.needed(clip, shot, speeds);
    const motions = await this.motionsOf(clip, asked);
    for (const frame of frames) {
      const others: Record<string, OtherFrame | null> = {};
      for (const [key, other, at, pin] of this.besides(clip, { ...shot, frame })) {
        const raw = at === null ? null : await this.outline(other, at, shot.from);
        others[key] = raw && { raw, clip: asPinned(factsOf(other, raw), pin) };
      }
      found.set(frame, {
        own: await this.outline(clip, frame, shot.from),
        others,
        motion: motions.get(frame),
        speeds,
      });
    }
    return found;
  }
  private async outline(clip: EngineClip, frame: number, from: Shot['from']): Promise<RawFrame> {
    return this.frames.expected(clip, frame, from) ?? (await this.frame(clip, frame, from));
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
    return shot.field ? { ...pictures, onward: at.motion?.()?.onward } : pictures;
  }
}
