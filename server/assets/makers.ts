/** How workers make the parts of each kind of asset. */
import type { FrameAssetId } from '../../core';
import type { Original } from '../footage/original';
import type { Place } from '../media/place';
import type { PartStore } from '../media/parts';
import { makeMotion } from './motion';

/** Work on an asset of footage. */
export interface AssetWork {
  readonly facts: Original['facts'];
  readonly place: Place;
  readonly store: PartStore;
  /** The frame that somebody looks at: parts near it come first. */
  readonly from: number;
  /** Frames of which the part is made. */
  readonly made: ReadonlySet<number>;
  /** Reports the number of parts made and of all; false if they are no longer wanted. */
  readonly report: (made: number, of: number) => Promise<boolean>;
}
/** Makes missing parts; false as soon as they are no longer wanted. */
export type AssetMaker = (work: AssetWork) => Promise<boolean>;

/** The maker of each kind. */
export const MAKERS: Readonly<Record<FrameAssetId, AssetMaker>> = { motion: makeMotion };
