/** What a delivery format declares. */
import type { EncodingId } from '../image';

/**
 * Sample formats (ffmpeg's names): 8-bit 4:2:0, and planar RGB of 8 or 16 bits, each without and
 * with coverage; 10-bit 4:2:0 by BT.2020.
 */
export type Samples =
  'yuv420p' | 'yuv420p10le' | 'gbrp' | 'gbrp16le' | 'yuva420p' | 'gbrap' | 'gbrap16le';
/** Bits of a sample of planar RGB. */
export type Depth = 8 | 16;

/** Width and height in pixels. */
export interface Size {
  readonly width: number;
  readonly height: number;
}

/** Encoding time against file size. */
export const EFFORTS = ['quick', 'usual', 'small'] as const;
/** One of `EFFORTS`. */
export type Effort = (typeof EFFORTS)[number];

/** The samples that are encoded. */
export interface Encoded {
  readonly samples: Samples;
  readonly encoding: EncodingId;
  readonly size: Size;
  readonly effort: Effort;
}

interface AnyFormat {
  readonly id: string;
  /** Name and use. */
  readonly label: string;
  readonly help: string;
  /** Ending of the finished file. */
  readonly ending: string;
  /** Width and height must be even. */
  readonly even?: true;
  /** Browsers play it. */
  readonly plays?: true;
  /** It can carry coverage. */
  readonly covers: boolean;
  /** Efforts to choose from, as words; none if there is no choice. */
  readonly efforts?: Readonly<Record<Effort, string>>;
  /** The samples in an encoding; `coverage` only where it `covers`. */
  readonly samples: (encoding: EncodingId, coverage: boolean, depth: Depth) => Samples;
  /** Why it cannot hold what is asked for, with what to choose; undefined if it can. */
  readonly cannotHold?: (encoding: EncodingId, coverage: boolean) => string | undefined;
}
/** A video file: chunks are joined and encoded, with sound. */
export interface VideoFormat extends AnyFormat {
  readonly makes: 'video';
  /** Chunks are encoded as the file is, and their packets copied. */
  readonly lossless?: true;
  /** The encoder's arguments, without the container. */
  readonly encoder: (of: Encoded) => readonly string[];
  /** Name of the container, with its arguments. */
  readonly container: readonly string[];
  /** Codecs of sound that are copied if nothing is cut off. */
  readonly soundKept: readonly string[];
  /** The encoder's arguments for other sound. */
  readonly sound: readonly string[];
}
/** Numbered pictures, in one archive; its id is their ending. */
export interface PictureFormat extends AnyFormat {
  readonly makes: 'pictures';
  /** Pixel formats of the pictures by the samples they are made from. */
  readonly pixels: Partial<Readonly<Record<Samples, string>>>;
}
/** A delivery format. */
export type DeliveryFormat = VideoFormat | PictureFormat;
