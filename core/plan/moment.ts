/** A clip's frame as looks see it: the picture, its points, its time, and the footage of its pins beside it. */
import type { Asking, ClipPins, FootagePin, LookDocument } from '../look';
import { LUMA, type Percentiles } from '../measure/statistics';
import type { RawFrame } from '../image';
import { frameAt, startOf, type Rate } from '../time';
import { clear } from './blend';
import { fitIn, lookFrame, type Size } from './framed';
import { greyUnder } from './balance';
import { bedrockOf, type ClipPicture, pointsOf } from './bedrock';
import type { ClipMoment, WholeClip } from './stack';

/** What of a clip its pictures under a look depend on. */
export interface ClipFacts extends ClipPicture {
  /** The footage's content hash. */
  readonly content: string;
  readonly rate: Rate;
  readonly whole?: WholeClip | null | undefined;
}
/** A frame of other footage, and how it is to be read; none once it has ended. */
export interface OtherFrame {
  readonly raw: RawFrame;
  readonly clip: ClipPicture;
}
export type Others = Readonly<Record<string, OtherFrame | null>>;

/** The frame that is asked for, and the look whose own frame lies in it. */
export interface Asked extends Size {
  readonly look?: Pick<LookDocument, 'frame'> | null | undefined;
}

/** A frame of a clip as a look begins with it, to be seen at a size; `others` by the pin that asks for them. */
export function momentOf(raw: RawFrame, own: ClipFacts, frame: number, { look, ...target }: Asked, others: Others = {}): ClipMoment {
  const shape = { width: raw.format.width * own.pixelAspect, height: raw.format.height };
  const clip = { ...own, fit: fitIn(look?.frame, own.fit, shape) };
  const framed = lookFrame(look?.frame, target),
    size = framed ?? target;
  return {
    bedrock: bedrockOf(raw, clip, size),
    content: clip.content,
    frame,
    seconds: startOf(frame, clip.rate),
    encoding: clip.encoding,
    points: pointsOf(raw.format, clip, size.width, size.height),
    whole: clip.whole ? { ...clip.whole, tones: balancedTones(clip.whole.tones, clip) } : undefined,
    footage: Object.fromEntries(Object.entries(others).map(([pin, o]) => [pin, o ? bedrockOf(o.raw, o.clip, size) : clear(size.width, size.height)])),
    plates: Object.fromEntries(Object.entries(others).flatMap(([pin, o]) => (o?.clip.plate ? [[pin, o.clip.plate]] : []))),
    framed,
  };
}

/** Luma by shares as the clip's balance leaves greys. */
function balancedTones(tones: Percentiles, { balance, encoding }: ClipFacts): Percentiles {
  if (!balance) return tones;
  const grey = (t: number): number => greyUnder(t, balance, encoding).reduce((y, v, i) => y + LUMA[i]! * v, 0);
  return Object.fromEntries(Object.entries(tones).map(([k, t]) => [k, grey(t as number)])) as unknown as Percentiles;
}

/** The footage (or files of mattes) that a look asks a clip for and the clip has set, by the pin's key. */
export const footagePins = (look: Asking | null | undefined, pins: ClipPins | undefined): [string, FootagePin][] =>
  (look?.pins ?? []).flatMap((p): [string, FootagePin][] => {
    const value = p.kind === 'footage' || p.kind === 'matte' ? pins?.[p.key]?.[0] : undefined;
    return value && 'hash' in value ? [[p.key, value]] : [];
  });

/** The clip beside which footage stands: how long it is, and its cues. */
export interface Hosting {
  readonly rate: Rate;
  readonly frames: number;
  readonly pins: ClipPins;
}
/** How a pin's footage is read: as it is as a clip, but for what the pin says. */
export const asPinned = <T extends Omit<ClipPicture, 'pixelAspect'>>(clip: T, { balance, fit }: FootagePin): T => ({
  ...clip,
  ...(balance && { balance }),
  ...(fit && { fit, reframe: null }),
});

const modulo = (v: number, n: number): number => ((v % n) + n) % n;
/** The frame of the clip from which a pin's footage counts. An unset cue is the middle. */
function countedFrom({ at }: FootagePin, { frames, pins }: Hosting): number {
  if (!at) return 0;
  if (at === 'end') return frames - 1;
  const cue = pins[at.cue]?.[0];
  return Math.min(frames - 1, cue && 'frame' in cue ? cue.frame : Math.floor(frames / 2));
}

/** Which frame of other footage stands beside a clip's frame: from the pin's start at its speed; none where it has ended. */
export function footageFrame(pin: FootagePin, frame: number, clip: Hosting, other: { readonly rate: Rate; readonly frames: number }): number | null {
  const { start, speed, beyond = 'again' } = pin,
    { frames } = other;
  const at = start + frameAt(startOf(frame - countedFrom(pin, clip), clip.rate) * speed, other.rate);
  if (beyond === 'hold') return Math.max(0, Math.min(frames - 1, at));
  if (beyond === 'end') return at < 0 || at >= frames ? null : at;
  if (beyond === 'again' || frames === 1) return modulo(at, frames);
  // There and back without the frames at either end twice.
  const there = modulo(at, 2 * frames - 2);
  return there < frames ? there : 2 * frames - 2 - there;
}
