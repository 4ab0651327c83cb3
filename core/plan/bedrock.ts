/** Where every view and every render begins: a clip's frame, fitted and balanced. */
import { type ClipPins, pointsInFrame, type PointsInFrame } from '../look';
import { fitInto, type Fit, type FrameFormat, frameToLight, type EncodingId, type RawFrame, type Reframe } from '../image';
import { applyStep, type Colour, stepOf, type Values } from '../steps';
import type { PlatePoints } from '../measure/plate';
import type { Size } from './framed';
import type { Picturing } from './graph';

/** A clip's own correction before any look: a colour decision list, in the encoded domain. */
export interface Balance {
  readonly slope: Colour;
  readonly offset: Colour;
  readonly power: Colour;
  readonly saturation: number;
}

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

const CHANNELS = ['red', 'green', 'blue'] as const;
/** A balance as the values of the step *CDL*. */
export const balanceValues = ({ slope, offset, power, saturation }: Balance): Values => ({
  ...Object.fromEntries(
    Object.entries({ slope, offset, power }).flatMap(([what, three]) => CHANNELS.map((c, i) => [`${what}-${c}`, three[i]!] as const)),
  ),
  saturation,
  hold: false,
});

/** The picture with a clip's balance on it. */
export function balanced(picture: Picturing, balance: Balance | null): Picturing {
  if (!balance) return picture;
  const at = { frame: 0, seed: 0, width: picture.width, height: picture.height };
  return applyStep(stepOf('cdl')!, picture, balanceValues(balance), 1, at);
}

/** The clip's points in a look frame of a size. */
export const pointsOf = (format: Pick<FrameFormat, 'width' | 'height'>, clip: ClipPicture, width: number, height: number): PointsInFrame =>
  pointsInFrame(clip.pins ?? {}, {
    clip: [format.width * clip.pixelAspect, format.height],
    frame: [width, height],
    fit: clip.fit,
    reframe: clip.reframe,
    lines: clip.lines,
  });

/** The clip's frame in the look frame at a working size. */
export const bedrockOf = (raw: RawFrame, { encoding, balance, pixelAspect: aspect, fit, reframe, lines }: ClipPicture, size: Size): Picturing =>
  balanced(fitInto(frameToLight(raw, encoding), size.width, size.height, { fit, reframe, lines, aspect }), balance);
