/** Footage that stands beside a clip while it is rendered: the frames of its footage pins, read on as they are needed. */
import {
  asPinned,
  type ClipPicture,
  footageFrame,
  footagePins,
  type FootagePin,
  type HostClip,
  type LookDocument,
  type OtherFrame,
  type PinFootage,
  type RawFrame,
} from '../../core';
import { frames } from './decode';
import type { Footage } from './footage';
import type { Place } from './probe';

/** Frames further on than this are sought, nearer ones read up to. */
const NEAR = 48;

/** One piece of footage, read forwards. */
class Reader {
  private stream: AsyncGenerator<RawFrame> | undefined;
  private next = 0;
  private latest: { readonly frame: number; readonly raw: RawFrame } | undefined;

  constructor(
    readonly place: Place,
    readonly facts: Footage,
  ) {}

  async at(frame: number): Promise<RawFrame> {
    if (this.latest?.frame === frame) return this.latest.raw;
    if (!this.stream || frame < this.next || frame > this.next + NEAR) {
      await this.stream?.return(undefined);
      this.stream = frames(this.place, this.facts, frame, this.facts.frames - 1);
      this.next = frame;
    }
    for (;;) {
      const { value, done } = await this.stream.next();
      if (done) throw new Error(`frame ${frame} of the footage beside cannot be read`);
      this.latest = { frame: this.next++, raw: value };
      if (this.latest.frame === frame) return value;
    }
  }
  async close(): Promise<void> {
    await this.stream?.return(undefined);
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

/** The footage of a clip's pins, by the pin's key. */
export class FootageReader {
  private readonly readers: readonly { readonly key: string; readonly pin: FootagePin; readonly other: Other; readonly reader: Reader }[];

  constructor(
    look: LookDocument | null | undefined,
    private readonly clip: HostClip,
    others: Readonly<Record<string, Other>>,
  ) {
    this.readers = footagePins(look, clip.pins).flatMap(([key, pin]) => {
      const other = others[key];
      return other ? [{ key, pin, other, reader: new Reader(other.place, other.facts) }] : [];
    });
  }

  /** What stands beside a frame of the clip. */
  async at(frame: number): Promise<PinFootage> {
    const found: Record<string, OtherFrame | null> = {};
    for (const { key, pin, other, reader } of this.readers) {
      const wanted = footageFrame(pin, frame, this.clip, other.facts);
      if (wanted === null) found[key] = null;
      else
        found[key] = {
          raw: await reader.at(wanted),
          clip: { ...asPinned(other.clip, pin), pixelAspect: other.facts.pixelAspect },
        };
    }
    return found;
  }
  async close(): Promise<void> {
    for (const { reader, other } of this.readers) {
      await reader.close();
      await other.leave?.();
    }
  }
}
