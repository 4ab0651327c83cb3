/** Gathers what a frame of a clip under looks is made from, wherever it comes from. */
import {
  FRAME_ASSET_IDS,
  type FrameAssetId,
  type FrameParts,
  type Parts,
  WHOLE_ASSET_IDS,
  type WholeAssetId,
  type WholeAssets,
} from '../assets';
import {
  type ClipPicture,
  type FootagePin,
  footageFrame,
  type OtherFrame,
  asPinned,
  tracesNamed,
} from '../clip';
import type { RawFrame } from '../image';
import type { DialValues, LookDocument } from '../look';
import type { FrameIndex, Rate } from '../time';
import type { SourceFrame, SourceFrames } from './clip-frame';
import { asksFor, byAsset, type GatheredClip, needs } from './requirements';

type Soon<T> = T | Promise<T>;

/** The footage of a pin. */
export interface PinSource {
  readonly key: string;
  readonly pin: FootagePin;
  readonly facts: { readonly rate: Rate; readonly frames: number };
  readonly frame: (at: FrameIndex) => Soon<RawFrame>;
  /** The description of the footage with a frame of it; the pin's own settings come on top. */
  readonly shown: (raw: RawFrame) => ClipPicture;
}

/** Where frames and assets come from: files, a server, or outlines for keys. */
export interface GatherSource {
  /** A frame of the clip's own footage. */
  readonly frame: (at: FrameIndex) => Soon<RawFrame>;
  /** A part of an asset; undefined if it is not made and must not be. */
  readonly part: <K extends FrameAssetId>(asset: K, at: FrameIndex) => Soon<Parts[K] | undefined>;
  /** What was found in the whole footage, for a frame of the clip under a look. */
  readonly whole: <K extends WholeAssetId>(
    asset: K,
    look: LookDocument,
    frame: FrameIndex,
  ) => Soon<WholeAssets[K]>;
  /** The tracks of traces, of those that are there. */
  readonly tracks?: (traces: readonly string[]) => Soon<WholeAssets['tracks']>;
  readonly pins: readonly PinSource[];
  /** Told of everything that will be asked for, before it is. */
  readonly prepare?: (wanted: Wanted) => Soon<void>;
}

/** What is asked for, in order of time. */
export interface Wanted {
  readonly frames: readonly FrameIndex[];
  readonly parts: Readonly<Record<FrameAssetId, readonly FrameIndex[]>>;
}
/** What was gathered. */
export interface Gathered extends Wanted {
  readonly sources: SourceFrames;
  /** Frames of other footage that were asked for, by pin. */
  readonly beside: ReadonlyMap<string, ReadonlySet<FrameIndex>>;
  /** Kinds of which a part is not made yet. */
  readonly missing: readonly FrameAssetId[];
}

const inOrder = (all: Iterable<FrameIndex>): FrameIndex[] =>
  [...new Set(all)].sort((a, b) => a - b);

/**
 * Everything that a frame of a clip is made from, under one look or several of which each is
 * planned. `also`: parts that are wanted besides.
 */
export async function gather(
  looks: readonly (LookDocument | null | undefined)[],
  clip: GatheredClip,
  frame: FrameIndex,
  source: GatherSource,
  { dials = {}, also }: { dials?: DialValues; also?: Partial<Wanted['parts']> } = {},
): Promise<Gathered> {
  const found = await wholeFor(looks, clip, frame, source);
  const asked = looks.map((look) => needs(look, { ...clip, found }, frame, dials));
  const wanted: Wanted = {
    frames: inOrder(asked.flatMap((a) => a.frames)),
    parts: byAsset((a) => inOrder([...asked.flatMap((n) => n.parts[a]), ...(also?.[a] ?? [])])),
  };
  await source.prepare?.(wanted);
  const sources = new Map<FrameIndex, SourceFrame>(),
    beside = new Map(source.pins.map(({ key }) => [key, new Set<FrameIndex>()])),
    missing = new Set<FrameAssetId>();
  const host = { ...clip, pins: clip.pins ?? {} };
  for (const at of wanted.frames) {
    const own = await source.frame(at);
    const parts: { -readonly [K in FrameAssetId]?: Parts[K] | undefined } = {};
    const take = async <K extends FrameAssetId>(asset: K): Promise<void> => {
      if (!wanted.parts[asset].includes(at)) return;
      const part = await source.part(asset, at);
      if (part === undefined) missing.add(asset);
      else parts[asset] = part;
    };
    for (const asset of FRAME_ASSET_IDS) await take(asset);
    const others: Record<string, OtherFrame | null> = {};
    for (const { key, pin, facts, frame: read, shown } of source.pins) {
      const there = footageFrame(pin, at, host, facts);
      if (there !== null) beside.get(key)!.add(there);
      const raw = there === null ? null : await read(there);
      others[key] = raw && { raw, clip: asPinned(shown(raw), pin) };
    }
    sources.set(at, { own, others, parts: parts satisfies FrameParts, found });
  }
  return { ...wanted, sources, beside, missing: [...missing] };
}

/** What looks ask for of the whole footage; the first of several looks that asks decides of what. */
async function wholeFor(
  looks: readonly (LookDocument | null | undefined)[],
  { pins }: GatheredClip,
  frame: FrameIndex,
  source: GatherSource,
): Promise<WholeAssets | undefined> {
  const found: { -readonly [K in keyof WholeAssets]: WholeAssets[K] } = {};
  for (const asset of WHOLE_ASSET_IDS) {
    const look = looks.find((l) => l && asksFor(asset, l));
    if (look) found[asset] = await source.whole(asset, look, frame);
  }
  const traces = tracesNamed(
    pins,
    looks.flatMap((l) => (l?.pins ?? []).map((p) => p.key)),
  );
  if (traces.length > 0) found.tracks = await source.tracks?.(traces);
  return Object.keys(found).length > 0 ? found : undefined;
}
