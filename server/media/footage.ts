/** Facts about a piece of footage: everything that decoding needs, found once and stored. */
import type { EncodingId, FrameFormat, Sampling, SequenceChoice } from '../../core';
import type { Rate } from '../../core/time';

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
  /** Number of pictures that a sequence lacks between its first and its last. */
  readonly gaps?: number;
  /** Frames at its end that the file says it holds and that cannot be read. */
  readonly missing?: number;
  /** Doubts about the file, as text. */
  readonly warnings?: readonly string[];
  /** Presentation time (s) and MD5 hash of each source frame. */
  readonly index: { readonly times: readonly number[]; readonly hashes: readonly string[] };
}

/** Number of its tracks of sound. */
export const tracksOf = ({ sound }: Pick<Footage, 'sound'>): number =>
  sound ? (sound.tracks ?? 1) : 0;

/** Facts without the index of frames, which is large and needed for decoding alone. */
export type FootageFacts = Omit<Footage, 'index'> & {
  /** Frames in the source. */
  readonly sourceFrames: number;
};
/** Footage as it is stored: facts and index apart. */
export interface StoredFootage {
  readonly facts: FootageFacts;
  readonly index: Footage['index'];
}
/** Footage apart, to be stored. */
export function stored({ index, ...facts }: Footage): StoredFootage {
  return { facts: { ...facts, sourceFrames: index.hashes.length }, index };
}
/** Stored footage as one. */
export function whole({ facts, index }: StoredFootage): Footage {
  const { sourceFrames: _, ...rest } = facts;
  return { ...rest, index };
}

/** A file cannot be used as footage; the message says why and what to do. */
export class NotFootage extends Error {}

/** Footage with corrections of wrong or missing tags. */
export const readAs = <F extends Pick<Footage, 'format'>>(
  f: F,
  sampling: Sampling | null | undefined,
): F => (sampling ? { ...f, format: { ...f.format, ...sampling } } : f);

/** The source frame of an output frame. */
export const sourceFrame = (f: Footage, frame: number): number => f.slots?.[frame] ?? frame;
