/** A clip's frames as looks see them: picture, points, time, and the footage of pins. */
import {
  FRAME_ASSETS,
  type FrameAssetId,
  type FrameParts,
  type PlacedParts,
  type WholeAssets,
} from '../assets';
import {
  bedrockOf,
  betweenOf,
  type ClipFacts,
  fitIn,
  greyUnder,
  lookFrame,
  type Percentiles,
  type PinFootage,
  placesOf,
  type Size,
  retimeOf,
  timeOf,
  tracedPins,
  tracesNamed,
} from '../clip';
import { clear } from '../compositing';
import { LUMA, type RawFrame } from '../image';
import {
  type DialValues,
  FADES_OVER,
  type FollowedPlaces,
  type LookDocument,
  underLook,
} from '../look';
import type { FrameIndex } from '../time';
import { anyPlace, isInEveryShot, placeOn, presenceOn } from '../trace';
import type { ClipFrame } from './scene';
import { retimedFrame } from './retimed';

/** The requested frame size, and the look whose own frame lies in it. */
export interface Asked extends Size {
  readonly look?: LookDocument | null | undefined;
  /** Dial values that replace the look's own. */
  readonly dials?: DialValues | undefined;
}

/** A decoded frame of a clip, with those of its footage pins at the same moment. */
export interface SourceFrame {
  readonly own: RawFrame;
  readonly others: PinFootage;
  /** Parts of assets that the look asks for and that were made. */
  readonly parts?: FrameParts | undefined;
  /** What was found in the whole footage, if the look asks for it; the same for all frames. */
  readonly found?: WholeAssets | undefined;
}
/** The available frames of a clip, as `requirements` asked for them. */
export type SourceFrames = ReadonlyMap<FrameIndex, SourceFrame>;

/**
 * A frame of a clip, ready for planning a look on it at a size. Throws if `sources` lacks the frame
 * itself.
 */
export function clipFrame(
  sources: SourceFrames,
  facts: ClipFacts,
  frame: FrameIndex,
  { look, dials, ...target }: Asked,
): ClipFrame {
  const { found } = sources.values().next().value ?? {};
  const own = { ...underLook(facts, look, dials), ...(found && { found }) };
  const framed = lookFrame(look?.frame, target),
    size = framed ?? target;
  const time = timeOf({ ...own, pins: own.pins ?? {} });
  const traced = tracedPins(own.pins ?? {}),
    cuts = own.cuts ?? [];
  const askOf = (pin: string) => look?.pins?.find((p) => p.key === pin),
    trackOf = (trace: string) => own.found?.tracks?.[trace];
  /** Pins whose places are not always there: by the look's ask, or since some shot has none. */
  const fading = new Set(
    traced.filter(
      (pin) =>
        askOf(pin)?.lost === 'fade' ||
        tracesNamed(own.pins, [pin]).some((trace) => {
          const track = trackOf(trace);
          return track !== undefined && !isInEveryShot(track, cuts);
        }),
    ),
  );
  const made = new Map<FrameIndex, ClipFrame>();
  const at = (index: FrameIndex): ClipFrame | undefined => {
    const known = made.get(index);
    if (known) return known;
    const source = sources.get(index);
    if (!source) return undefined;
    const { own: raw, others, parts } = source;
    const shape = { width: raw.format.width * own.pixelAspect, height: raw.format.height };
    const clip = { ...own, fit: fitIn(look?.frame, own.fit, shape) };
    const placesAt = (moment: number) =>
      placesOf(raw.format, clip, size, (trace, pin) => {
        const track = trackOf(trace);
        // In a shot that has none it is not there (`present`), but its kind stays.
        return track && (placeOn(track, moment, own.cuts, askOf(pin)?.lost) ?? anyPlace(track));
      });
    /** How far the places of pins that fade are there. */
    const presentAt = (moment: number): FollowedPlaces['present'] =>
      Object.fromEntries(
        [...fading].map((pin) => [
          pin,
          own.pins![pin]!.map((v) => {
            const track = 'trace' in v ? trackOf(v.trace) : undefined;
            if (!track) return 1;
            const { lost, over = FADES_OVER } = askOf(pin) ?? {};
            if (lost === 'fade') return presenceOn(track, moment, cuts, over);
            return placeOn(track, moment, cuts) ? 1 : 0;
          }),
        ]),
      );
    const placed: { [K in FrameAssetId]?: PlacedParts[K] } = {};
    const fresh: ClipFrame = {
      bedrock: bedrockOf(raw, clip, size),
      content: clip.content,
      frame: index,
      time,
      encoding: clip.encoding,
      places: placesAt(index),
      followed:
        traced.length > 0
          ? {
              ...{ pins: new Set(traced), fading },
              after: (n) => ({ places: placesAt(index + n), present: presentAt(index + n) }),
            }
          : undefined,
      whole: clip.whole
        ? { ...clip.whole, tones: balancedTones(clip.whole.tones, clip) }
        : undefined,
      footage: Object.fromEntries(
        Object.entries(others).map(([pin, o]) => [
          pin,
          o ? bedrockOf(o.raw, o.clip, size) : clear(size.width, size.height),
        ]),
      ),
      plates: Object.fromEntries(
        Object.entries(others).flatMap(([pin, o]) => (o?.clip.plate ? [[pin, o.clip.plate]] : [])),
      ),
      before: (how) =>
        bedrockOf(
          raw,
          { ...clip, balance: null, ...(how === 'recorded' && { encoding: 'srgb' as const }) },
          size,
        ),
      framed,
      at,
      part: (asset) => {
        const part = parts?.[asset],
          { exists, placed: place } = FRAME_ASSETS[asset];
        if (!part || !exists(index, own)) return undefined;
        const { fit, reframe, lines } = clip;
        return (placed[asset] ??= place(part, `${clip.content}:${index}`, {
          fit,
          reframe,
          lines,
          shape: shape.width / shape.height,
          size,
        }));
      },
    };
    made.set(index, fresh);
    return fresh;
  };
  const map = retimeOf(own);
  const follows = (pin: string): boolean =>
    look?.pins?.some((p) => p.key === pin && p.kind === 'matte') ?? false;
  const shown = (
    map ? retimedFrame(at, { map, between: betweenOf(own), time, follows, cuts: own.cuts }) : at
  )(frame);
  if (!shown) throw new Error(`frame ${frame} is not at hand`);
  return shown;
}

/** Percentiles of luma after the clip's balance. */
function balancedTones(tones: Percentiles, { balance, encoding }: ClipFacts): Percentiles {
  if (!balance) return tones;
  const grey = (t: number): number =>
    greyUnder(t, balance, encoding).reduce((y, v, i) => y + LUMA[i]! * v, 0);
  return Object.fromEntries(
    Object.entries(tones).map(([k, t]) => [k, grey(t as number)]),
  ) as unknown as Percentiles;
}
