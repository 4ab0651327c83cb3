/** What is computed from a clip's footage, to a page. */
import { FRAME_ASSET_IDS } from '../../core';
import type { ClipView } from '../data/views';

/** The kinds that are made, as words for keys of pictures. */
export const assetsMade = ({ assets }: Pick<ClipView, 'assets'>): string =>
  FRAME_ASSET_IDS.filter((a) => assets[a]?.state === 'done').join(' ');
/** Name of the track of a trace, once it is made. */
export const trackMade = (
  { traces }: Pick<ClipView, 'traces'>,
  trace: string,
): string | undefined => traces.find((t) => t.id === trace && t.state === 'done')?.of;
