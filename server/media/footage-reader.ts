/**
 * The frames that a look looks at, read as they are needed: the clip's own, and those of its
 * footage pins.
 */
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
  frameBytes,
  footagePins,
  type FootagePin,
  type LookDocument,
  type OtherFrame,
  type PinFootage,
  planesIn,
  needs,
  type RawFrame,
  type SourceFrame,
  type SourceFrames,
} from '../../core';
import { frames, rawKey } from './decode';
import { type Footage, sourceFrame } from './footage';
import { PairFinder, type PairStore } from './motion';
import type { Place } from './place';
import { SpeedFinder, withinName } from './speeds';
import { type Region, SpillFile } from './spill';

/** Frames further on than this are sought, nearer ones read up to. */
const NEAR = 48;
/**
 * Going back, so many frames before the one that is asked for are read with it: the next ones asked
 * for are likely those.
 */
const BACK = 24;

/** What lies between the frames that are looked at is kept where they lie within so many. */
const WINDOW = 240;
/** Of kept frames so many bytes stay in memory, for each piece of footage. */
const MOST_IN_MEMORY = 128 * 2 ** 20;
const bytesOf = ({ planes }: RawFrame): number => planes.reduce((n, p) => n + p.byteLength, 0);

/**
 * A frame whose samples lie in a file. Its planes hold until those of another such frame are asked
 * for: all are read into one place.
 */
class SetAside implements RawFrame {
  readonly format: RawFrame['format'];
  readonly key: string;
  private readonly region: Region;
  private static place = new Uint8Array(0);
  private static latest: SetAside | undefined;

  constructor(
    { format, key, planes }: RawFrame,
    private readonly file: SpillFile,
  ) {
    [this.format, this.key] = [format, key];
    this.region = file.write(planes);
  }
  get planes(): RawFrame['planes'] {
    const bytes = frameBytes(this.format);
    if (SetAside.latest !== this) {
      if (SetAside.place.length < bytes) SetAside.place = new Uint8Array(bytes);
      this.file.read(this.region, SetAside.place.subarray(0, bytes));
      SetAside.latest = this;
    }
    return planesIn(SetAside.place.buffer, 0, this.format);
  }
  close(): void {
    if (SetAside.latest === this) SetAside.latest = undefined;
    this.file.free(this.region);
  }
}

/**
 * One piece of footage, its frames in whatever order they are asked for; those that will be needed
 * again are kept.
 */
class Reader {
  private stream: AsyncGenerator<RawFrame> | undefined;
  private next = 0;
  private readonly kept = new Map<number, RawFrame | SetAside>();
  private backwards = false;
  /** Bytes of the kept frames that are in memory. */
  private bytes = 0;
  private readonly file = new SpillFile();

  constructor(
    readonly place: Place,
    readonly facts: Footage,
    private readonly most: number,
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
      this.bytes += bytesOf(value);
      this.setAside();
      if (at === frame) return value;
    }
  }
  /**
   * The oldest frames go to files once there are too many for memory: they are kept in case, and
   * seldom read again.
   */
  private setAside(): void {
    for (const [frame, raw] of this.kept) {
      if (this.bytes <= this.most) return;
      if (raw instanceof SetAside || frame === this.next - 1) continue;
      this.kept.set(frame, new SetAside(raw, this.file));
      this.bytes -= bytesOf(raw);
    }
  }
  private drop(frame: number): void {
    const raw = this.kept.get(frame)!;
    if (raw instanceof SetAside) raw.close();
    else this.bytes -= bytesOf(raw);
    this.kept.delete(frame);
  }
  /** A frame without its samples: what names it. */
  outline(frame: number): RawFrame {
    return (
      this.kept.get(frame) ?? {
        format: this.facts.format,
        planes: [],
        key: rawKey(this.facts, sourceFrame(this.facts, frame)),
      }
    );
  }
  /**
   * Forgets what lies outside of the frames that the one being made looks at (the next ones look
   * between them too), and what was read on the way back.
   */
  keepOnly(needed: ReadonlySet<number>): void {
    const first = Math.min(...needed),
      last = Math.max(...needed);
    // A held frame far away would have all of the clip kept.
    const near = last - first <= WINDOW;
    const soon = (frame: number): boolean => this.backwards && frame >= first - BACK;
    for (const frame of [...this.kept.keys()])
      if (!(near ? frame >= first && frame <= last : needed.has(frame)) && !soon(frame))
        this.drop(frame);
  }
  async close(): Promise<void> {
    await this.stream?.return(undefined);
    for (const frame of [...this.kept.keys()]) this.drop(frame);
    this.file.close();
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
export type ReadClip = Pick<
  ClipFacts,
  'content' | 'frames' | 'rate' | 'projectRate' | 'pins' | 'inOut' | 'cuts' | 'retime'
>;

/** Reads what a look needs to make a clip's frames, one after the other or in any order. */
export class FootageReader {
  private readonly own: Reader;
  private readonly motion: PairFinder;
  private speedFinder: SpeedFinder | undefined;
  private readonly pins: readonly {
    readonly key: string;
    readonly pin: FootagePin;
    readonly other: Other;
    readonly reader: Reader;
  }[];

  constructor(
    private readonly look: LookDocument | null | undefined,
    place: Place,
    facts: Footage,
    private readonly clip: ReadClip,
    others: Readonly<Record<string, Other>>,
    private readonly dials: DialValues = {},
    private readonly pairs?: PairStore,
    most = MOST_IN_MEMORY,
  ) {
    this.own = new Reader(place, facts, most);
    this.motion = new PairFinder((frame) => this.own.at(frame), pairs);
    this.pins = footagePins(look, clip.pins).flatMap(([key, pin]) => {
      const other = others[key];
      return other ? [{ key, pin, other, reader: new Reader(other.place, other.facts, most) }] : [];
    });
  }

  /** The frames that a frame of the clip is made from. */
  async at(frame: number): Promise<SourceFrames> {
    const speeds = await this.speedsFor(frame);
    const { frames: needed, motions } = needs(
      this.look,
      { ...this.clip, speeds },
      frame,
      this.dials,
    );
    const found = new Map<number, SourceFrame>();
    const beside = new Map(this.pins.map(({ key }) => [key, new Set<number>()]));
    // All of them first: those read early may lie in files by the time the last is read.
    for (const index of needed) await this.own.at(index);
    for (const index of needed) {
      const own = await this.own.at(index);
      const motion = motions.includes(index) ? await this.motion.at(index) : undefined;
      found.set(index, {
        own,
        others: await this.beside(index, (reader, at) => reader.at(at), beside),
        motion,
        speeds,
      });
    }
    // The frame after one whose motion was measured is likely the next that is asked for.
    this.own.keepOnly(new Set([...needed, ...motions.map((m) => m + 1)]));
    if (motions.length > 0) this.motion.keepOnly(new Set(motions));
    for (const { key, reader } of this.pins) reader.keepOnly(beside.get(key)!);
    return found;
  }

  /**
   * The same without samples, for the keys of pictures alone: nothing is decoded. Undefined where
   * motion is to be measured first.
   */
  async expected(frame: number): Promise<SourceFrames | undefined> {
    const speeds = await this.speedsFor(frame);
    const { frames: needed, motions } = needs(
      this.look,
      { ...this.clip, speeds },
      frame,
      this.dials,
    );
    const found = new Map<number, SourceFrame>();
    for (const index of needed) {
      const motion = motions.includes(index) ? await this.motion.kept(index) : undefined;
      if (motions.includes(index) && !motion) return undefined;
      found.set(index, {
        own: this.own.outline(index),
        others: await this.beside(index, (reader, at) => reader.outline(at)),
        motion,
        speeds,
      });
    }
    return found;
  }
  private async speedsFor(frame: number): Promise<Speeds | undefined> {
    return this.look && asksForSpeeds(this.look) ? this.speedsUpTo(frame) : undefined;
  }

  /**
   * The footage's speeds as far as copies by movement look back from a frame; measured where they
   * are not known.
   */
  private speedsUpTo(frame: number): Promise<Speeds> {
    const clip = underLook(this.clip, this.look, this.dials);
    const back = Math.ceil((LONGEST_WAY_BACK * clip.rate[0]) / clip.rate[1]) + 1;
    const ends = [Math.max(0, frame - back), frame].map((f) => Math.floor(momentAt(clip, f)));
    return this.finder(true).over(
      Math.max(0, Math.min(...ends) - 1),
      Math.min(clip.frames - 2, Math.max(...ends) + 1),
    );
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
    const pair = async (frame: number) =>
      measures ? (await this.motion.at(frame)).pair() : await this.motion.known(frame);
    return (this.speedFinder = new SpeedFinder(pair, this.pairs, within));
  }

  private async beside(
    frame: number,
    read: (reader: Reader, at: number) => Promise<RawFrame> | RawFrame,
    asked?: ReadonlyMap<string, Set<number>>,
  ): Promise<PinFootage> {
    const found: Record<string, OtherFrame | null> = {};
    for (const { key, pin, other, reader } of this.pins) {
      const wanted = footageFrame(
        pin,
        frame,
        { ...this.clip, pins: this.clip.pins ?? {} },
        other.facts,
      );
      if (wanted !== null) asked?.get(key)!.add(wanted);
      found[key] =
        wanted === null
          ? null
          : {
              raw: await read(reader, wanted),
              clip: { ...asPinned(other.clip, pin), pixelAspect: other.facts.pixelAspect },
            };
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
