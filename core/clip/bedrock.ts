/** Where every view and every render begins: a clip's frame, fitted and balanced. */
import type { ImageNode } from '../graph';
import {
  type EncodingId,
  type Fit,
  fitInto,
  type FrameFormat,
  frameToLight,
  type RawFrame,
  type Reframe,
} from '../image';
import { type Balance, balanced, balancedCodes } from './balance';
import type { PlatePoints } from './description';
import type { Size } from './look-frame';
import { type ClipPins, pointsInFrame, type PointsInFrame } from './pins';

export interface ClipPicture {
  readonly encoding: EncodingId;
  readonly fit: Fit;
  /** What of it lies in the middle of the frame, and how large. */
  readonly reframe?: Reframe | null | undefined;
  /** Width ÷ height of one pixel. */
  readonly pixelAspect: number;
  /** The footage's own rows, where its frames are read from a proxy. */
  readonly lines?: number;
  readonly balance: Balance | null;
  readonly pins?: ClipPins;
  /** Its own black and white, where it serves as a plate. */
  readonly plate?: PlatePoints | null | undefined;
}

/** The clip's points in a look frame of a size. */
export const pointsOf = (
  format: Pick<FrameFormat, 'width' | 'height'>,
  clip: ClipPicture,
  width: number,
  height: number,
): PointsInFrame =>
  pointsInFrame(clip.pins ?? {}, {
    clip: [format.width * clip.pixelAspect, format.height],
    frame: [width, height],
    fit: clip.fit,
    reframe: clip.reframe,
    lines: clip.lines,
  });

/** The clip's frame in the look frame at a working size. */
export const bedrockOf = (
  raw: RawFrame,
  { encoding, balance, pixelAspect: aspect, fit, reframe, lines }: ClipPicture,
  size: Size,
): ImageNode =>
  balanced(
    fitInto(
      frameToLight(raw, encoding, (codes) => balancedCodes(codes, balance)),
      size.width,
      size.height,
      { fit, reframe, lines, aspect },
    ),
    balance,
  );
