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
  type Cut,
  type CutClip,
  type CutDocument,
  cutPicture,
  cutShots,
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
  withAnswers,
} from '../../../core';
import type { Rate } from '../../../core/time';
import type { EngineClip, EngineCut, Shot } from '../protocol';
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

/** A clip as it stands in a cut. */
interface PlacedClip extends EngineClip, CutClip {
  readonly projectRate: Rate;
}
/** A cut with its document. */
interface KnownCut extends EngineCut {
  readonly document: CutDocument;
}
/** What a frame of a cut is made from, by place and frame of its clip. */
class CutRaws {
  constructor(
    readonly cut: Cut<PlacedClip>,
    readonly shots: ReadonlyMap<string, SourceFrames>,
  ) {}
}
/** What a shot is made from. */
export type Raws = SourceFrames | CutRaws;
/** Cuts that are known at once. */
const KNOWN_CUTS = 3;

/** Loads frames and plans shots. */
export class FrameLoader {
  private readonly clips = new Map<string, EngineClip>();
  private readonly cuts = new Map<string, KnownCut>();
  private readonly frames = new Frames();
  private readonly assets = new Assets();

  know(clips: readonly EngineClip[]): void {
    clips.forEach((c) => this.clips.set(c.id, c));
  }
  clip(id: string): EngineClip | undefined {
    return this.clips.get(id);
  }

  /** Makes a cut known. */
  knowCut(cut: EngineCut): void {
    this.cuts.set(cut.id, { ...cut, document: JSON.parse(cut.text) as CutDocument });
    for (const oldest of this.cuts.keys())
      if (this.cuts.size > KNOWN_CUTS) this.cuts.delete(oldest);
  }

  /**
   * What a shot is made from, fetched if missing; undefined for unknown clips and cuts. `looks`: the
   * looks it is needed for, if several.
   */
  async raws(
    shot: Shot,
    looks: readonly (LookDocument | null)[] = [shot.look],
  ): Promise<Raws | undefined> {
    if (shot.cut !== undefined) return this.cutRaws(shot, (c, s) => this.fetched(c, s, [s.look]));
    const clip = this.clips.get(shot.clip);
    return clip && this.fetched(clip, shot, looks);
  }
  private fetched(
    clip: EngineClip,
    shot: Shot,
    looks: readonly (LookDocument | null)[],
  ): Promise<SourceFrames> {
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
  async expected(shot: Shot): Promise<Raws | undefined> {
    if (shot.cut !== undefined) return this.cutRaws(shot, (c, s) => this.outlined(c, s));
    const clip = this.clips.get(shot.clip);
    return clip && this.outlined(clip, shot);
  }
  private outlined(clip: EngineClip, shot: Shot): Promise<SourceFrames> {
    const read = (of: EngineClip) => async (at: number) =>
      this.frames.expected(of, at, shot.from) ?? (await this.frame(of, at, shot.from));
    return this.gathered(clip, shot, [shot.look], read);
  }
  /** What a frame of a cut is made from; undefined if the cut is not known. */
  private async cutRaws(
    shot: Shot,
    raws: (clip: EngineClip, shot: Shot) => Promise<SourceFrames>,
  ): Promise<CutRaws | undefined> {
    const cut = this.cutOf(shot.cut!);
    if (!cut) return undefined;
    const made = new Map<string, SourceFrames>();
    for (const { place, standing, frame } of cutShots(cut, shot.frame)) {
      const { clip } = standing;
      made.set(
        `${place.key} ${frame}`,
        await raws(clip, { clip: clip.id, frame, look: clip.look, from: shot.from }),
      );
    }
    return new CutRaws(cut, made);
  }
  /** A cut with its clips as they are now. */
  private cutOf(id: string): Cut<PlacedClip> | undefined {
    const known = this.cuts.get(id);
    if (!known) return undefined;
    const clips = Object.entries(known.worn).flatMap(([key, look]) => {
      const clip = this.clips.get(key);
      return clip ? [[key, this.placed(clip, look, known.rate)] as const] : [];
    });
    const { document, rate, looks } = known;
    return { document, rate, looks, clips: Object.fromEntries(clips) };
  }
  private readonly placedClips = new WeakMap<EngineClip, PlacedClip>();
  /** The same clip under the same look is the same object: what is planned with it is kept. */
  private placed(clip: EngineClip, look: LookDocument | null, projectRate: Rate): PlacedClip {
    const known = this.placedClips.get(clip);
    if (known?.look === look) return known;
    const made = { ...clip, name: clip.id, look, projectRate };
    this.placedClips.set(clip, made);
    return made;
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

  /** A frame of a clip, ready for a look. Throws for cuts, which are many clips. */
  moment(shot: Shot, width: number, height: number, sources: Raws): ClipFrame {
    if (sources instanceof CutRaws) throw new Error('a cut is not one clip');
    return this.momentOf(this.clips.get(shot.clip)!, shot, width, height, sources);
  }
  private momentOf(
    clip: EngineClip & { readonly projectRate?: Rate },
    shot: Pick<Shot, 'frame' | 'look' | 'asShot'>,
    width: number,
    height: number,
    sources: SourceFrames,
  ): ClipFrame {
    const facts = {
      ...factsOf(clip, [...sources.values()][0]!.own, shot.asShot),
      ...(clip.projectRate && { projectRate: clip.projectRate }),
    };
    const at = clipFrame(sources, facts, shot.frame, { width, height, look: shot.look });
    return { ...at, bedrock: checkpoint(at.bedrock) };
  }

  /** The graph of a shot at a size. */
  plan(shot: Shot, width: number, height: number, raws: Raws): Planned {
    if (raws instanceof CutRaws) return this.planCut(shot, width, height, raws);
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
  private planCut(
    { frame: at, asShot = false }: Shot,
    width: number,
    height: number,
    { cut, shots }: CutRaws,
  ): Planned {
    const picture = cutPicture(
      cut,
      at,
      { width, height },
      ({ place, standing, frame, answered }) => {
        const { clip } = standing,
          { look } = clip;
        const sources = shots.get(`${place.key} ${frame}`)!;
        const moment = withAnswers(
          this.momentOf(clip, { frame, look, asShot }, width, height, sources),
          answered,
        );
        return look ? plan(look, moment).result : moment.bedrock;
      },
    );
    const none = new Map<string, ImageNode>();
    return { bedrock: picture, result: picture, strata: none, mattes: none };
  }
}
