/**
 * What the Shelf's parts know of looks: the dials that are shown from end to end, and what can be
 * done with one.
 */
import type { LookDocument } from '../../../core';

/** The dials whose ends are shown. */
const MOST_DIALS = 6;
/** The number dials of a look but its strength. */
export const dialsOf = (look: LookDocument) =>
  look.dials.filter((d) => d.kind === 'number' && d.key !== 'strength').slice(0, MOST_DIALS);

export interface LookActs {
  readonly onOpen: (look: string) => void;
  readonly onTrouble: (t: string) => void;
  readonly onCopy: (d: LookDocument) => void;
  readonly onGone: () => void;
}
