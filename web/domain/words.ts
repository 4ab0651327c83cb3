/** Numbers as text. */
import { ENCODINGS, encodingOf } from '../../core/image';
import { lengthOf } from '../../core';
import { rateLabel, type Rate } from '../../core/time';
import type { ClipView } from '../data/views';

/** Encodings as options. */
export const ENCODING_CHOICES = ENCODINGS.map((id) => ({ id, label: encodingOf(id).label }));
/** A number of bytes as text. */
export const bytes = (n: number): string =>
  n > 1e9
    ? `${(n / 1e9).toFixed(1)} GB`
    : n > 1e6
      ? `${(n / 1e6).toFixed(1)} MB`
      : `${Math.max(1, Math.round(n / 1e3))} kB`;
/** A duration as text, from frames and a rate. */
export const seconds = (frames: number, r: Rate): string =>
  `${((frames * r[1]) / r[0]).toFixed(1)} s`;
/** Size, rate and duration of a clip as text. */
export const clipFacts = (c: ClipView): string =>
  `${c.format.width}×${c.format.height} · ${rateLabel(c.rate)} · ${c.kind === 'still' ? 'still' : seconds(lengthOf(c), c.rate)}`;
/** Name of an encoding. */
export const encodingLabel = (id: ClipView['encoding']): string => encodingOf(id).label;
export { rateLabel };
