/** What a piece of footage is: everything that decoding needs, found once and kept. */
import type { EncodingId, FrameFormat, Sampling } from '../../core';
import type { Rate } from '../../core/time';

export interface Footage {
  readonly kind: 'video' | 'still' | 'sequence';
  /** SHA-256 of the file; of the files' hashes for a sequence. */
  readonly hash: string;
  readonly bytes: number;
  readonly codec: string;
  readonly container: string;
  /** As shown: after rotation. */
  readonly format: FrameFormat;
  /** ffmpeg's name for the planar form that is asked for. */
  readonly pixelFormat: string;
  /** Width ÷ height of one pixel. */
  readonly pixelAspect: number;
  readonly rate: Rate;
  readonly frames: number;
  /** Source frame of each output frame, for footage of uneven rate. */
  readonly slots?: readonly number[];
  readonly sound: {
    readonly codec: string;
    readonly channels: number;
    readonly rate: number;
  } | null;
  readonly guess: EncodingId;
  /** Nothing in the file says how its colours are coded. */
  readonly untagged?: boolean;
  /**
   * The matrix its proxies are coded with; BT.709 of those that were made before they kept the
   * footage's own.
   */
  readonly proxyMatrix?: 'own';
  /** What is doubtful about the file, in words. */
  readonly warnings?: readonly string[];
  /** Presentation time in seconds and hash (MD5) of each source frame. */
  readonly index: { readonly times: readonly number[]; readonly hashes: readonly string[] };
}

/** A file could not be taken as footage: says why and what to do, for the person who brought it. */
export class NotFootage extends Error {}

/** Footage whose samples are read as people say, where the file's tags are wrong or missing. */
export const readAs = (f: Footage, sampling: Sampling | null | undefined): Footage =>
  sampling ? { ...f, format: { ...f.format, ...sampling } } : f;

/** The source frame that an output frame shows. */
export const sourceFrame = (f: Footage, frame: number): number => f.slots?.[frame] ?? frame;
