/** The frames that a look looks at, read as they are needed: the clip's own, and those of its footage pins. */
import {
  asksForSpeeds,
  LONGEST_WAY_BACK,
  matteCovering,
  momentAt,
  type Speeds,
  underLook,
  asPinned,
  type ClipFacts,
  type ClipPicture,
  type DialValues,
  footageFrame,
  footagePins,
  type FootagePin,
  type LookDocument,
  type OtherFrame,
  type PinFootage,
  needs,
  type RawFrame,
  type SourceFrame,
  type SourceFrames,
} from '../../core';
import { frames, rawKey } from './decode';
import { type Footage, sourceFrame } from './footage';
import { PairFinder, type PairStore } from './motion';
import type { Place } from './probe';
import { SpeedFinder, withinName } from './speeds';

/** Frames further on than this are sought, nearer ones read up to. */
const NEAR = 48;
/** Going back, so many frames before the one that is asked for are read with it: the next ones asked for are likely those. */
const BACK = 24;

/** One piece of footage, its frames in whatever order they are asked for; those that will be needed again are kept. */
class Reader {
  private stream: AsyncGenerator<RawFrame> | undefined;
  private next = 0;
  private readonly kept = new Map<number, RawFrame>();
  private backwards = false;

  constructor(
    readonly place: Place,
    readonly facts: Footage,
  ) {}

  async at(frame: number): Promise<RawFrame> {
    const known = this.kept.get(frame);
    if (known) return known;
    if (!this.stream || frame < this.next || frame > this.next + NEAR) {
      await this.stream?.return(undefined);
      this.backwards = this.stream !== undefined && frame < this.next;
      this.next = this.backwards ? Math.max(0, frame - BACK) : frame;
      this.stream = frames(this.place, this.facts, this.next, this.facts.frames - 1);
    }
    for (;;) {
      const { value, done } = await this.stream.next();
      if (done) throw new Error(`frame ${frame} of the footage cannot be read`);
      const at = this.next++;
      this.kept.set(at, value);
      if (at === frame) return value;
    }
  }
  /** A frame without its samples: what names it. */
  outline(frame: number): RawFrame {
    return this.kept.get(frame) ?? { format: this.facts.format, planes: [], key: rawKey(this.facts, sourceFrame(this.facts, frame)) };
  }
  /** Forgets all but what the frame being made looks at, and what was read on the way back. */
  keepOnly(needed: ReadonlySet<number>): void {
    const soon = (frame: number): boolean => this.backwards && frame >= Math.min(...needed) - BACK;
    for (const frame of this.kept.keys()) if (!needed.has(frame) && !soon(frame)) this.kept.delete(frame);
  }
  async close(): Promise<void> {
    await this.stream?.return(undefined);
    this.kept.clear();
  }
}

/** A piece of footage and how it is to be read. */
export interface Other {
  readonly place: Place;
  readonly facts: Footage;
  readonly clip: Omit<ClipPicture, 'pixelAspect'>;
  /** When it is needed no more. */
  readonly leave?: () => Promise<void>;
}

/** What of a clip says which frames are needed. */
export type ReadClip = Pick<ClipFacts, 'content' | 'frames' | 'rate' | 'projectRate' | 'pins' | 'inOut' | 'cuts' | 'retime'>;

/** Reads what a look needs to make a clip's frames, one after the other or in any order. */
export class FootageReader {
  private readonly own: Reader;
  private readonly motion: PairFinder;
  private speedFinder: SpeedFinder | undefined;
  private readonly pins: readonly { readonly key: string; readonly pin: FootagePin; readonly other: Other; readonly reader: Reader }[];

  constructor(
    private readonly look: LookDocument | null | undefined,
    place: Place,
    facts: Footage,
    private readonly clip: ReadClip,
    others: Readonly<Record<string, Other>>,
    private readonly dials: DialValues = {},
    private readonly pairs?: PairStore,
  ) {
    this.own = new Reader(place, facts);
    this.motion = new PairFinder((frame) => this.own.at(frame), pairs);
    this.pins = footagePins(look, clip.pins).flatMap(([key, pin]) => {
      const other = others[key];
      return other ? [{ key, pin, other, reader: new Reader(other.place, other.facts) }] : [];
    });
  }

  /** The frames that a frame of the clip is made from. */
  async at(frame: number): Promise<SourceFrames> {
    const speeds = await this.speedsFor(frame);
    const { frames: needed, motions } = needs(this.look, { ...this.clip, speeds }, frame, this.dials);
    const found = new Map<number, SourceFrame>();
    const beside = new Map(this.pins.map(({ key }) => [key, new Set<number>()]));
    for (const index of needed) {
      const own = await this.own.at(index);
      const motion = motions.includes(index) ? await this.motion.at(index) : undefined;
      found.set(index, { own, others: await this.beside(index, (reader, at) => reader.at(at), beside), motion, speeds });
    }
    // The frame after one whose motion was measured is likely the next that is asked for.
    this.own.keepOnly(new Set([...needed, ...motions.map((m) => m + 1)]));
    if (motions.length > 0) this.motion.keepOnly(new Set(motions));
    for (const { key, reader } of this.pins) reader.keepOnly(beside.get(key)!);
    return found;
  }

  /** The same without samples, for the keys of pictures alone: nothing is decoded. Undefined where motion is to be measured first. */
  async expected(frame: number): Promise<SourceFrames | undefined> {
    const speeds = await this.speedsFor(frame);
    const { frames: needed, motions } = needs(this.look, { ...this.clip, speeds }, frame, this.dials);
    const found = new Map<number, SourceFrame>();
    for (const index of needed) {
      const motion = motions.includes(index) ? await this.motion.kept(index) : undefined;
      if (motions.includes(index) && !motion) return undefined;
      found.set(index, { own: this.own.outline(index), others: await this.beside(index, (reader, at) => reader.outline(at)), motion, speeds });
    }
    return found;
  }
  private async speedsFor(frame: number): Promise<Speeds | undefined> {
    return this.look && asksForSpeeds(this.look) ? this.speedsUpTo(frame) : undefined;
  }

  /** The footage's speeds as far as copies by movement look back from a frame; measured where they are not known. */
  private speedsUpTo(frame: number): Promise<Speeds> {
    const clip = underLook(this.clip, this.look, this.dials);
    const back = Math.ceil((LONGEST_WAY_BACK * clip.rate[0]) / clip.rate[1]) + 1;
    const ends = [Math.max(0, frame - back), frame].map((f) => Math.floor(momentAt(clip, f)));
    return this.finder(true).over(Math.max(0, Math.min(...ends) - 1), Math.min(clip.frames - 2, Math.max(...ends) + 1));
  }
  /** All of the footage's speeds that are known from what is measured. */
  async speeds(): Promise<Speeds> {
    const finder = this.finder(false);
    const speeds = await finder.over(0, this.clip.frames - 2);
    await finder.keep();
    return speeds;
  }
  private finder(measures: boolean): SpeedFinder {
    if (this.speedFinder) return this.speedFinder;
    const matte = matteCovering(this.look, this.clip.pins),
      own = this.pins.find((p) => p.key === matte);
    const host = { ...this.clip, pins: this.clip.pins ?? {} };
    const within = own && {
      name: withinName(own.pin, typeof own.pin.at === 'object' ? host.pins[own.pin.at.cue] : null),
      at: async (frame: number) => {
        const wanted = footageFrame(own.pin, frame, host, own.other.facts);
        return wanted === null ? null : own.reader.at(wanted);
      },
    };
    const pair = async (frame: number) => (measures ? (await this.motion.at(frame)).pair() : await this.motion.known(frame));
    return (this.speedFinder = new SpeedFinder(pair, this.pairs, within));
  }

  private async beside(
    frame: number,
    read: (reader: Reader, at: number) => Promise<RawFrame> | RawFrame,
    asked?: ReadonlyMap<string, Set<number>>,
  ): Promise<PinFootage> {
    const found: Record<string, OtherFrame | null> = {};
    for (const { key, pin, other, reader } of this.pins) {
      const wanted = footageFrame(pin, frame, { ...this.clip, pins: this.clip.pins ?? {} }, other.facts);
      if (wanted !== null) asked?.get(key)!.add(wanted);
      found[key] =
        wanted === null ? null : { raw: await read(reader, wanted), clip: { ...asPinned(other.clip, pin), pixelAspect: other.facts.pixelAspect } };
    }
    return found;
  }

  async close(): Promise<void> {
    await this.own.close();
    await this.speedFinder?.keep();
    for (const { reader, other } of this.pins) {
      await reader.close();
      await other.leave?.();
    }
  }
}
