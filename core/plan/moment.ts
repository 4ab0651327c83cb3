/** A clip's frame as looks see it: the picture, its points, its time, and the footage of its pins beside it. */
import { type ClipPins, type FootagePin, type LookDocument } from '../look';
import { powd } from '../kernel/exact';
import { LUMA, type Percentiles } from '../measure/statistics';
import type { RawFrame } from '../image';
import { frameAt, startOf, type Rate } from '../time';
import { clear } from './blend';
import { type Balance, bedrockOf, type ClipPicture, pointsOf } from './bedrock';
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

/** A frame of a clip in the look frame at a working size; `others` by the pin that asks for them. */
export function momentOf(raw: RawFrame, clip: ClipFacts, frame: number, width: number, height: number, others: Others = {}): ClipMoment {
  return {
    bedrock: bedrockOf(raw, clip, width, height),
    content: clip.content,
    frame,
    seconds: startOf(frame, clip.rate),
    points: pointsOf(raw.format, clip, width, height),
    whole: clip.whole ? { ...clip.whole, tones: balancedTones(clip.whole.tones, clip.balance) } : undefined,
    footage: Object.fromEntries(Object.entries(others).map(([pin, o]) => [pin, o ? bedrockOf(o.raw, o.clip, width, height) : clear(width, height)])),
    plates: Object.fromEntries(Object.entries(others).flatMap(([pin, o]) => (o?.clip.plate ? [[pin, o.clip.plate]] : []))),
  };
}

/** Luma by shares as the clip's balance leaves greys: slope, offset and power, channel by channel. */
function balancedTones(tones: Percentiles, balance: Balance | null): Percentiles {
  if (!balance) return tones;
  const { slope, offset, power } = balance;
  const grey = (t: number): number => LUMA.reduce((y, w, i) => y + w * powd(Math.max(0, t * slope[i]! + offset[i]!), power[i]!), 0);
  return Object.fromEntries(Object.entries(tones).map(([k, t]) => [k, grey(t as number)])) as unknown as Percentiles;
}

/** The footage (or files of mattes) that a look asks a clip for and the clip has set, by the pin's key. */
export const footagePins = (look: LookDocument | null | undefined, pins: ClipPins | undefined): [string, FootagePin][] =>
  (look?.pins ?? []).flatMap((p): [string, FootagePin][] => {
    const value = p.kind === 'footage' || p.kind === 'matte' ? pins?.[p.key]?.[0] : undefined;
    return value && 'hash' in value ? [[p.key, value]] : [];
  });

const modulo = (v: number, n: number): number => ((v % n) + n) % n;
/** Which frame of other footage stands beside a clip's moment: from the pin's start at its speed; none where it has ended. */
export function footageFrame({ start, speed, beyond = 'again' }: FootagePin, seconds: number, rate: Rate, frames: number): number | null {
  const at = start + frameAt(seconds * speed, rate);
  if (beyond === 'hold') return Math.max(0, Math.min(frames - 1, at));
  if (beyond === 'end') return at < 0 || at >= frames ? null : at;
  if (beyond === 'again' || frames === 1) return modulo(at, frames);
  // There and back without the frames at either end twice.
  const there = modulo(at, 2 * frames - 2);
  return there < frames ? there : 2 * frames - 2 - there;
}
