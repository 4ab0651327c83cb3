/** Reads the frames that a look needs: the clip's own, and those of its footage pins. */
import {
  byAsset,
  type ClipPicture,
  type DialValues,
  footageFrame,
  type FootagePin,
  footagePins,
  FRAME_ASSET_IDS,
  type FrameAssetId,
  frameBytes,
  gather,
  type Gathered,
  type GatheredClip,
  type GatherSource,
  LONGEST_WAY_BACK,
  type LookDocument,
  matteCovering,
  momentAt,
  type Parts,
  type PinSource,
  planesIn,
  type RawFrame,
  type SourceFrames,
  type Speeds,
  underLook,
  type WholeAssets,
} from '../../core';
import { frames, rawKey } from './decode';
import { type Footage, sourceFrame } from './footage';
import { PairFinder } from './motion';
import type { PartFinder, PartStore } from './parts';
import type { Place } from './place';
import { SpeedFinder, withinName } from './speeds';
import { type Region, SpillFile } from './spill';

/** Seek for frames further ahead than this; read on to nearer ones. */
const NEAR = 48;
/** When reading backwards, this many earlier frames are read too, because they are likely next. */
const BACK = 24;

/** Frames between those needed are kept if they lie within this many. */
const WINDOW = 240;
/** Bytes of kept frames in memory, per piece of footage. */
const MOST_IN_MEMORY = 128 * 2 ** 20;
const bytesOf = ({ planes }: RawFrame): number => planes.reduce((n, p) => n + p.byteLength, 0);

/**
 * A frame whose samples are in a file. Its planes are valid until another such frame is read; all
 * use one buffer.
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

/** One piece of footage, read in any order; frames that will be needed again are kept. */
class Reader {
  private stream: AsyncGenerator<RawFrame> | undefined;
  private next = 0;
  private readonly kept = new Map<number, RawFrame | SetAside>();
  private backwards = false;
  /** Bytes of the kept frames in memory. */
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
   * Moves the oldest frames to files when memory is full; they are kept in case and seldom read
   * again.
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
  /** A frame without samples, for its key. */
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
   * Drops frames outside the range that the current frame needs (the next ones need frames inside
   * it), and frames read when going backwards.
   */
  keepOnly(needed: ReadonlySet<number>): void {
    const first = Math.min(...needed),
      last = Math.max(...needed);
    // Without this, a held frame far away would keep the whole clip.
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

/** A piece of footage and its settings. */
export interface Other {
  readonly place: Place;
  readonly facts: Footage;
  readonly clip: Omit<ClipPicture, 'pixelAspect'>;
  /** Called when it is no longer needed. */
  readonly leave?: () => Promise<void>;
}

/** Reads the frames that a look needs for a clip's frames, in any order. */
export class FootageReader {
  private readonly own: Reader;
  private readonly finders: { readonly [K in FrameAssetId]: PartFinder<Parts[K]> } & {
    readonly motion: PairFinder;
  };
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
    private readonly clip: GatheredClip & { readonly tracks?: WholeAssets['tracks'] },
    others: Readonly<Record<string, Other>>,
    private readonly dials: DialValues = {},
    private readonly pairs?: PartStore,
    most = MOST_IN_MEMORY,
  ) {
    this.own = new Reader(place, facts, most);
    this.finders = { motion: new PairFinder((frame) => this.own.at(frame), pairs) };
    this.pins = footagePins(look, clip.pins).flatMap(([key, pin]) => {
      const other = others[key];
      return other ? [{ key, pin, other, reader: new Reader(other.place, other.facts, most) }] : [];
    });
  }

  /** What a frame of the clip is made from; assets are made where they are missing. */
  async at(frame: number): Promise<SourceFrames> {
    return (await this.atAll([frame]))[0]!;
  }
  /** The same of several frames that are shown together: all stay valid until the next call. */
  async atAll(wanted: readonly number[]): Promise<SourceFrames[]> {
    const all: Gathered[] = [];
    for (const frame of wanted)
      all.push(
        await this.gathered(frame, {
          frame: (at) => this.own.at(at),
          other: (reader) => (at) => reader.at(at),
          part: (asset, at) => this.finders[asset].at(at),
          // Read all first: early ones may be moved to files before the last is read.
          prepare: async ({ frames }) => {
            for (const at of frames) await this.own.at(at);
          },
        }),
      );
    const parts = byAsset((asset) => all.flatMap((g) => g.parts[asset]));
    // After measuring motion, the next frame is likely needed next.
    this.own.keepOnly(
      new Set([...all.flatMap((g) => g.frames), ...parts.motion.map((m) => m + 1)]),
    );
    for (const asset of FRAME_ASSET_IDS)
      if (parts[asset].length > 0) this.finders[asset].keepOnly(new Set(parts[asset]));
    for (const { key, reader } of this.pins)
      reader.keepOnly(new Set(all.flatMap((g) => [...g.beside.get(key)!])));
    return all.map((g) => g.sources);
  }

  /** The same without samples or decoding, for keys. Undefined if an asset must be made first. */
  async expected(frame: number): Promise<SourceFrames | undefined> {
    const { sources, missing } = await this.gathered(frame, {
      frame: (at) => this.own.outline(at),
      other: (reader) => (at) => reader.outline(at),
      part: (asset, at) => this.finders[asset].kept(at),
    });
    return missing.length > 0 ? undefined : sources;
  }
  private gathered(
    frame: number,
    {
      other,
      ...own
    }: Pick<GatherSource, 'frame' | 'part' | 'prepare'> & {
      readonly other: (reader: Reader) => PinSource['frame'];
    },
  ): Promise<Gathered> {
    const source: GatherSource = {
      ...own,
      whole: (_, look, at) => this.speedsUpTo(look, at),
      tracks: () => this.clip.tracks,
      pins: this.pins.map(({ key, pin, other: { facts, clip }, reader }) => ({
        key,
        pin,
        facts,
        frame: other(reader),
        shown: () => ({ ...clip, pixelAspect: facts.pixelAspect }),
      })),
    };
    return gather([this.look], this.clip, frame, source, { dials: this.dials });
  }

  /**
   * Speeds of the footage as far back from a frame as copies by distance reach; measured if
   * unknown.
   */
  private speedsUpTo(look: LookDocument, frame: number): Promise<Speeds> {
    const clip = underLook(this.clip, look, this.dials);
    const back = Math.ceil((LONGEST_WAY_BACK * clip.rate[0]) / clip.rate[1]) + 1;
    const ends = [Math.max(0, frame - back), frame].map((f) => Math.floor(momentAt(clip, f)));
    return this.finder(true).over(
      Math.max(0, Math.min(...ends) - 1),
      Math.min(clip.frames - 2, Math.max(...ends) + 1),
    );
  }
  /** All speeds of the footage that are known from measurements. */
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
      measures
        ? (await this.finders.motion.at(frame)).pair()
        : await this.finders.motion.known(frame);
    return (this.speedFinder = new SpeedFinder(pair, this.pairs, within));
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
