/** Delivery formats, one file each: their samples, files, sound, and the words for them. */
import type { EncodingId } from '../image';
import type { DeliveryFormat, Depth, Samples } from './declare';
import { mkv } from './mkv';
import { mp4 } from './mp4';
import { png } from './png';
import { webm } from './webm';

export {
  type DeliveryFormat,
  type Depth,
  type Effort,
  EFFORTS,
  type Encoded,
  type PictureFormat,
  type Samples,
  type VideoFormat,
} from './declare';

const ALL = [mp4, mkv, webm, png] as const;
/** Id of a delivery format. */
export type FormatId = (typeof ALL)[number]['id'];
/** All delivery formats, as they are offered. */
export const DELIVERY_FORMATS: readonly (DeliveryFormat & { readonly id: FormatId })[] = ALL;
/** Their ids. */
export const FORMAT_IDS: readonly FormatId[] = ALL.map((f) => f.id);
/** The format of an id. */
export const deliveryFormat = (id: FormatId): DeliveryFormat & { readonly id: FormatId } =>
  DELIVERY_FORMATS.find((f) => f.id === id)!;

/**
 * The samples of a format in an encoding. `coverage`: stored beside the picture where the format
 * can; otherwise the picture is composited over black.
 */
export function samplesFor(
  id: FormatId,
  encoding: EncodingId,
  coverage = false,
  depth: Depth = 16,
): Samples {
  const format = deliveryFormat(id);
  return format.samples(encoding, coverage && format.covers, depth);
}
/** Why a format cannot hold what is asked for, with what to choose; undefined if it can. */
export function cannotHold(
  id: FormatId,
  encoding: EncodingId,
  coverage: boolean,
): string | undefined {
  const format = deliveryFormat(id);
  return coverage && !format.covers
    ? `${id} cannot carry coverage: choose another file, or leave coverage out`
    : format.cannotHold?.(encoding, coverage);
}
/** Why a format cannot have a size, with what to choose; undefined if it can. */
export const cannotMeasure = (
  id: FormatId,
  { width, height }: { readonly width: number; readonly height: number },
): string | undefined =>
  deliveryFormat(id).even && (width % 2 || height % 2)
    ? `${id} needs an even width and height, not ${width}x${height}`
    : undefined;
