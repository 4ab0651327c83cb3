/** Shared by the Shelf's parts: the dials whose ends are shown, and actions on a look. */
import type { LookDocument } from '../../../core';

/** Most dials whose ends are shown. */
const MOST_DIALS = 6;
/** The number dials of a look without strength. */
export const dialsOf = (look: LookDocument) =>
  look.dials.filter((d) => d.kind === 'number' && d.key !== 'strength').slice(0, MOST_DIALS);

/** Actions on a look. */
export interface LookActs {
  readonly onOpen: (look: string) => void;
  readonly onTrouble: (t: string) => void;
  readonly onCopy: (d: LookDocument) => void;
  readonly onGone: () => void;
}
