/** The options of `render`, and the values they give. All throw `Usage`. */
import { readFileSync } from 'node:fs';
import type { Option } from 'commander';
import {
  type Balance,
  CDL_SPACES,
  EFFORTS,
  type CdlSpace,
  type EncodingId,
  ENCODINGS,
  GAPS,
  type InOut,
  isEncoding,
  type Reframe,
  type SequenceChoice,
  SIZES,
  USUAL_SEQUENCE,
} from '../core';
import { inOneLine, parseCdl } from '../core/formats';
import { BETWEEN, FASTEST, LONGEST_HOLD, type Rate, type Retime, SLOWEST } from '../core/time';
import type { Footage } from '../server/media/footage';
import { flag, one, Usage, value, type Words } from './args';
import { LOOK_OPTIONS, PIN_OPTIONS } from './look';

/** Options of `render`. */
export const RENDER_OPTIONS: readonly Option[] = [
  ...LOOK_OPTIONS,
  ...PIN_OPTIONS,
  value('in', 'footage', 'a video, a picture or a folder of pictures'),
  value('out', 'place', 'a .mkv, .mp4 or .webm file, or a folder for pictures'),
  value('frames', 'first-last', 'of what comes out, from 0; all without'),
  value('size', 'WxH', 'of the frame; the footage’s own without'),
  value('fit', 'way', 'fit (whole, with bars) or fill (cropped)'),
  value(
    'reframe',
    'x,y,closer',
    'what lies in the middle, per cent across and down, and how much larger',
  ),
  value('in-out', 'first-last', 'the frames of the footage that are the clip'),
  value('cuts', 'frames', 'those with which another shot begins, such as 31,47; found without'),
  value('retime', 'places', 'frame:speed[:seconds],… in per cent, and “backwards”'),
  value('between', 'way', `what stands between frames: ${BETWEEN.join(', ')}`),
  value('chance', 'n', 'by which dust, grain and flutter fall; 0 without'),
  value('encoding', 'name', 'of the footage’s code values, where the guess is wrong'),
  value('out-encoding', 'name', 'of what is written; the footage’s own without'),
  value('balance', 'file', 'a correction: .cc, .ccc or .cdl'),
  value('balance-on', 'values', `what it acts on: ${Object.keys(CDL_SPACES).join(', ')}`),
  value('balance-hold', 'on|off', 'whether it holds values to 0…1'),
  value('rate', 'n', 'frames a second of a folder of pictures: 25, 24000/1001, 23.976'),
  value('gaps', 'what', `where pictures of a folder are missing: ${GAPS.join(', ')}`),
  value('sizes', 'what', `of a folder’s pictures that differ: ${SIZES.join(', ')}`),
  value('depth', '8|16', 'bits of a picture frame’s samples'),
  value('effort', 'how', `of H.264: ${EFFORTS.join(', ')}`),
  value('threads', 'n', 'as many as there are cores without'),
  flag('coverage', 'with what the look covers, as alpha'),
  flag('quiet', 'without counting frames'),
];

/**
 * The first correction of a decision list file. Default: on the clip's code values, clamped to 0…1.
 */
export function balanceFrom(w: Words): Balance | null {
  const path = one(w, 'balance'),
    on = one(w, 'balance-on') ?? 'clip',
    hold = one(w, 'balance-hold') ?? 'on';
  if (!(on in CDL_SPACES))
    throw new Usage(`--balance-on must be one of ${Object.keys(CDL_SPACES).join(', ')}`);
  if (hold !== 'on' && hold !== 'off') throw new Usage('--balance-hold must be on or off');
  if (path === undefined) return null;
  let text: string;
  try {
    text = readFileSync(path, 'utf8');
  } catch {
    throw new Usage(`--balance ${path} cannot be read: give a .cc, .ccc or .cdl file`);
  }
  const read = parseCdl(text);
  if ('fault' in read) throw new Usage(inOneLine(path, read.fault));
  const { slope, offset, power, saturation } = read.value[0]!;
  return { slope, offset, power, saturation, on: on as CdlSpace, hold: hold === 'on' };
}

/** The encoding that an option names. */
export function encodingNamed(w: Words, name: string): EncodingId | undefined {
  const id = one(w, name);
  if (id !== undefined && !isEncoding(id))
    throw new Usage(`there is no encoding "${id}"; there are ${ENCODINGS.join(', ')}`);
  return id as EncodingId | undefined;
}
/**
 * A size from `WxH`. Default: the footage's in square pixels, enlarged along the axis whose pixels
 * are longer, so that no row or column is given up. `even`: of even sides.
 */
export function sizeOf(
  text: string | undefined,
  { format, pixelAspect }: Pick<Footage, 'format' | 'pixelAspect'>,
  even = false,
): [number, number] {
  if (text === undefined) {
    if (pixelAspect === 1) return [format.width, format.height];
    const to = (v: number): number => (even ? 2 * Math.round(v / 2) : Math.round(v));
    return pixelAspect > 1
      ? [to(format.width * pixelAspect), format.height]
      : [format.width, to(format.height / pixelAspect)];
  }
  return sizeNamed(text);
}
/** A size as it is typed. */
export function sizeNamed(text: string): [number, number] {
  const m = /^(\d+)x(\d+)$/.exec(text);
  const [width, height] = [Number(m?.[1]), Number(m?.[2])];
  if (!m || width < 1 || height < 1 || width > 8192 || height > 8192)
    throw new Usage('--size must be like 960x540, each side from 1 to 8192');
  return [width, height];
}
/** A reframe from `x,y` or `x,y,closer`, in per cent. */
export function reframeOf(text: string | undefined): Reframe | null {
  if (text === undefined) return null;
  const [x, y, closer = 100, ...more] = text.split(',').map(Number);
  const inside = (v: number | undefined, least: number, most: number) =>
    v !== undefined && v >= least && v <= most;
  if (
    more.length > 0 ||
    !inside(x, -100, 200) ||
    !inside(y, -100, 200) ||
    !inside(closer, 10, 1000)
  )
    throw new Usage(
      '--reframe must be like 40,50 (what lies in the middle of the frame, per cent across and down) or 40,50,120 (and how much larger, per cent)',
    );
  return { x: x! / 100, y: y! / 100, closer };
}
/**
 * A retime from `frame:speed` and `frame:speed:hold` (frames of the footage, per cent, seconds),
 * several separated by commas; `backwards` reverses it.
 */
export function retimeFrom(text: string | undefined, between: string | undefined): Retime | null {
  if (text === undefined) return null;
  const how = BETWEEN.find((b) => b === (between ?? 'motion'));
  if (!how) throw new Usage(`--between must be one of ${BETWEEN.join(', ')}`);
  const words = text.split(','),
    backwards = words.includes('backwards');
  const places = words
    .filter((w) => w !== 'backwards')
    .map((w) => {
      const [frame, speed, hold = 0, ...more] = w.split(':').map(Number);
      const good =
        more.length === 0 &&
        Number.isInteger(frame) &&
        frame! >= 0 &&
        speed! >= SLOWEST &&
        speed! <= FASTEST &&
        hold >= 0 &&
        hold <= LONGEST_HOLD;
      if (!good)
        throw new Usage(
          `--retime must be like 0:100,48:25 (frame of the clip, per cent of its speed: ${SLOWEST} to ${FASTEST}), not "${w}"`,
        );
      return { frame: frame!, speed: speed!, to: 'smooth' as const, hold };
    });
  if (places.length === 0) places.push({ frame: 0, speed: 100, to: 'smooth', hold: 0 });
  if (places.some((p, i) => i > 0 && p.frame <= places[i - 1]!.frame))
    throw new Usage('--retime names its frames in order');
  return { places, backwards, between: how };
}
/** First and last frame from `first-last`. Default: all of `count` frames. */
export function rangeOf(
  text: string | undefined,
  count: number,
  name: 'frames' | 'in-out' = 'frames',
): [number, number] {
  if (text === undefined) return [0, count - 1];
  const m = /^(\d+)(?:-(\d+))?$/.exec(text);
  const first = Number(m?.[1]),
    last = Number(m?.[2] ?? m?.[1]);
  if (!m || last < first) throw new Usage(`--${name} must be like 0-23`);
  if (last >= count)
    throw new Usage(`--${name} ends at ${last}, but the footage has frames 0-${count - 1}`);
  return [first, last];
}
/** In and out of the clip; null for all of the footage. */
export function inOutFrom(text: string | undefined, count: number): InOut | null {
  if (text === undefined) return null;
  const [first, out] = rangeOf(text, count, 'in-out');
  return { in: first, out };
}
/** Frames of the footage at which another shot begins; undefined where they are to be found. */
export function cutsFrom(text: string | undefined, count: number): number[] | undefined {
  if (text === undefined) return undefined;
  if (text === 'none') return [];
  const cuts = text.split(',').map(Number);
  if (cuts.some((c) => !Number.isInteger(c) || c < 1 || c >= count))
    throw new Usage(`--cuts must be frames like 40,95, from 1 to ${count - 1}, or none`);
  return cuts.sort((a, b) => a - b);
}
/** Common names of rates that are no whole numbers. */
const NAMED: Readonly<Record<string, Rate>> = {
  '23.976': [24000, 1001],
  '23.98': [24000, 1001],
  '29.97': [30000, 1001],
  '47.952': [48000, 1001],
  '59.94': [60000, 1001],
  '119.88': [120000, 1001],
};
/** Frames a second from `25`, `24000/1001`, `23.976` or `12.5`. */
export function rateFrom(text: string | undefined): Rate | undefined {
  if (text === undefined) return undefined;
  const [, n, d] = /^(\d{1,7})(?:\/(\d{1,7}))?$/.exec(text) ?? [];
  const decimal = /^\d{1,3}\.\d{1,3}$/.test(text) ? Math.round(Number(text) * 1000) : undefined;
  const rate: Rate | undefined =
    NAMED[text] ?? (n ? [Number(n), Number(d ?? 1)] : decimal ? [decimal, 1000] : undefined);
  const perSecond = rate ? rate[0] / rate[1] : NaN;
  if (!(perSecond >= 1 && perSecond <= 240))
    throw new Usage(
      `--rate must be frames a second from 1 to 240, like 25, 24000/1001 or 23.976, not "${text}"`,
    );
  return rate;
}
/** What becomes of a folder's missing pictures, and of those of another size. */
export function sequenceFrom(w: Words): SequenceChoice {
  const gaps = one(w, 'gaps') ?? USUAL_SEQUENCE.gaps,
    sizes = one(w, 'sizes') ?? USUAL_SEQUENCE.sizes;
  const chosen = { gaps: GAPS.find((g) => g === gaps), sizes: SIZES.find((s) => s === sizes) };
  if (!chosen.gaps) throw new Usage(`--gaps must be one of ${GAPS.join(', ')}`);
  if (!chosen.sizes) throw new Usage(`--sizes must be one of ${SIZES.join(', ')}`);
  return chosen as SequenceChoice;
}

/** An integer within limits. */
export function whole(
  name: string,
  text: string | undefined,
  least: number,
  most: number,
): number | undefined {
  if (text === undefined) return undefined;
  const n = Number(text);
  if (!Number.isInteger(n) || n < least || n > most)
    throw new Usage(`--${name} must be a whole number from ${least} to ${most}`);
  return n;
}
