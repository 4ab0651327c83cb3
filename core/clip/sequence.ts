/** What is chosen for folders of pictures that lack some, or hold some of another size. */

/** What stands where pictures are missing: the one before, black, or the folder is refused. */
export const GAPS = ['hold', 'black', 'refuse'] as const;
/** The choices by which the folder is not refused. */
export const KEPT_GAPS = ['hold', 'black'] as const satisfies readonly (typeof GAPS)[number][];
/** What may stand where pictures are missing, in footage. */
export type KeptGaps = (typeof KEPT_GAPS)[number];
/** What becomes of pictures of another size than most: fitted with bars, or refused. */
export const SIZES = ['fit', 'refuse'] as const;
/** How a folder of pictures becomes footage. */
export interface SequenceChoice {
  readonly gaps: (typeof GAPS)[number];
  readonly sizes: (typeof SIZES)[number];
}
/** Unless somebody chooses otherwise. */
export const USUAL_SEQUENCE: SequenceChoice = { gaps: 'hold', sizes: 'fit' };
