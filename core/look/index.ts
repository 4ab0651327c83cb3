/** The look document: its classes, reading and validating, its values at given dials, and its changes. */
export * from './document';
export { beyondBounds } from './bounds';
export * from './validate';
export * from './resolve';
export * from './trims';
export * from './bind-pins';
export * from './settings';
export { pieceOf, withPiece } from './piece';
export { beside, centresFrom, followed, hasCycle, matteAt, matteWithCentre, ownerOf, standingOut } from './following';
export { agedValues, type EaseId, EASES } from './ageing';
export { upToDate } from './migrations';
export { lookSchema } from './schema';
export * as edit from './edit';
export { SHIPPED, SHIPPED_PIECES, shippedLook } from './shipped';
