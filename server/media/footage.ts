/** Facts about a piece of footage: everything that decoding needs, found once and stored. */
import type { EncodingId, FrameFormat, Sampling } from '../../core';
import type { Rate } from '../../core/time';
import type { SequenceChoice } from './sequence';

/** A piece of footage. */
export interface Footage {
  readonly kind: 'video' | 'still' | 'sequence';
  /** SHA-256 of the file; for a sequence, of the files' hashes. */
  readonly hash: string;
  readonly bytes: number;
  readonly codec: string;
  readonly container: string;
  /** As displayed, after rotation. */
  readonly format: FrameFormat;
  /** The pixel format (ffmpeg's name) to decode to. */
  readonly pixelFormat: string;
  /** Width ÷ height of one pixel. */
  readonly pixelAspect: number;
  readonly rate: Rate;
  readonly frames: number;
  /** Source frame of each output frame, for footage with an uneven rate. */
  readonly slots?: readonly number[];
  readonly sound: {
    readonly codec: string;
    readonly channels: number;
    readonly rate: number;
    /** Number of tracks, where there are several: the first is used. */
    readonly tracks?: number;
  } | null;
  readonly guess: EncodingId;
  /** The file has no colour tags. */
  readonly untagged?: boolean;
  /** Matrix of its proxies: the footage's own, or BT.709 for older ones. */
  readonly proxyMatrix?: 'own';
  /** What became of missing pictures of a sequence, and of those of another size. */
  readonly sequence?: SequenceChoice;
  /** Doubts about the file, as text. */
  readonly warnings?: readonly string[];
  /** Presentation time (s) and MD5 hash of each source frame. */
  readonly index: { readonly times: readonly number[]; readonly hashes: readonly string[] };
}

/** A file cannot be used as footage; the message says why and what to do. */
export class NotFootage extends Error {}

/** Footage with corrections of wrong or missing tags. */
export const readAs = (f: Footage, sampling: Sampling | null | undefined): Footage =>
  sampling ? { ...f, format: { ...f.format, ...sampling } } : f;

/** The source frame of an output frame. */
export const sourceFrame = (f: Footage, frame: number): number => f.slots?.[frame] ?? frame;
