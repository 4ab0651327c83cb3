/**
 * The bedrock: a clip's frame, fitted into the look frame and balanced. Every view and every render
 * starts here.
 */
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
import { type ClipPins, placesInFrame, type PlacesInFrame, type TracedPlace } from './pins';

/** How a clip's code values become a picture in the look frame. */
export interface ClipPicture {
  readonly encoding: EncodingId;
  readonly fit: Fit;
  /** Which part of the clip lies in the middle of the frame, and at what size. */
  readonly reframe?: Reframe | null | undefined;
  /** Width ÷ height of one pixel. */
  readonly pixelAspect: number;
  /** Rows of the original footage, when the frame at hand comes from a smaller proxy. */
  readonly lines?: number;
  readonly balance: Balance | null;
  readonly pins?: ClipPins;
  /** Black and white points, when the clip is used as a plate. */
  readonly plate?: PlatePoints | null | undefined;
}

/** The places that the clip's pins set, in the look frame, for a frame of this size. */
export const placesOf = (
  format: Pick<FrameFormat, 'width' | 'height'>,
  clip: ClipPicture,
  { width, height }: Size,
  traced?: TracedPlace,
): PlacesInFrame =>
  placesInFrame(
    clip.pins ?? {},
    {
      clip: [format.width * clip.pixelAspect, format.height],
      frame: [width, height],
      fit: clip.fit,
      reframe: clip.reframe,
      lines: clip.lines,
    },
    traced,
  );

/** The bedrock of one decoded frame, at the working size, in linear light. */
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
