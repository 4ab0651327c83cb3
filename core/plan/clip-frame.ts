/** A clip's frame as looks see it: the picture, its points, its time, and the footage of its pins beside it. */
import { bedrockOf, type ClipFacts, fitIn, greyUnder, lookFrame, type PinFootage, type Percentiles, pointsOf, type Size } from '../clip';
import { clear } from '../compositing';
import { LUMA, type RawFrame } from '../image';
import type { LookDocument } from '../look';
import { startOf } from '../time';
import type { ClipFrame } from './compositor';

/** The frame that is asked for, and the look whose own frame lies in it. */
export interface Asked extends Size {
  readonly look?: Pick<LookDocument, 'frame'> | null | undefined;
}

/** A frame of a clip as a look begins with it, to be seen at a size; `others` by the pin that asks for them. */
export function clipFrame(raw: RawFrame, own: ClipFacts, frame: number, { look, ...target }: Asked, others: PinFootage = {}): ClipFrame {
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
