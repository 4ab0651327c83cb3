/**
 * What is computed once from footage, kept, and asked for by looks: one file a kind. Jobs, storage,
 * what a page shows of their state, and what is gathered for a frame follow from it.
 */
import type { FrameAsset } from './declare';
import type { Track } from '../trace';
import { motion } from './motion';
import { type Speeds, speeds } from './speeds';

export type { AssetWords, FrameAsset, Framed, WholeAsset } from './declare';
export { inBetween, type Motion, motionIn, type PairAtHand } from './motion';
export type { Speeds } from './speeds';

const KINDS = { motion };
type Kinds = typeof KINDS;
/** Id of a kind in parts. */
export type FrameAssetId = keyof Kinds;
/** What a part of a frame is, by kind. */
export type Parts = { readonly [K in FrameAssetId]: ReturnType<Kinds[K]['unpack']> };
/** The same in the look's frame. */
export type PlacedParts = { readonly [K in FrameAssetId]: ReturnType<Kinds[K]['standIn']> };
/** Kinds in parts, one a frame. */
export const FRAME_ASSETS: {
  readonly [K in FrameAssetId]: FrameAsset<Parts[K], PlacedParts[K]> & { readonly id: K };
} = KINDS;
/** Kinds that are one value for all of the footage. */
export const WHOLE_ASSETS = { speeds } as const;
/** Id of a kind for all of the footage. */
export type WholeAssetId = keyof typeof WHOLE_ASSETS;
/** Id of any kind. */
export type AssetId = FrameAssetId | WholeAssetId;
/** Ids of the kinds in parts. */
export const FRAME_ASSET_IDS = Object.keys(FRAME_ASSETS) as FrameAssetId[];
/** Ids of the kinds for all of the footage. */
export const WHOLE_ASSET_IDS = Object.keys(WHOLE_ASSETS) as WholeAssetId[];

/** What was found in all of the footage, by kind. */
export interface WholeAssets {
  readonly speeds?: Speeds | undefined;
  /** Tracks of the traces that the clip's pins name, by the traces' ids. */
  readonly tracks?: Readonly<Record<string, Track>> | undefined;
}
/** The parts of a frame that are at hand. */
export type FrameParts = { readonly [K in FrameAssetId]?: Parts[K] | undefined };
