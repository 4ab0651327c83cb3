/** The look document: classes, parsing, validation, values at given dials, and edits. */
export * from './document';
export { beyondBounds, isTooDeep } from './bounds';
export * from './fault';
export * from './validate';
export { amountOf, RETIME_HOLD, RETIME_SPEED } from './validate-time';
export { underLook } from './retime';
export * from './resolve';
export * from './at-frame';
export * from './evaluation';
export {
  firstStrike,
  moverEvents,
  nextActing,
  type OnClip,
  stepEvents,
  type StepEvents,
} from './acting';
export * from './paths';
export * from './trims';
export * from './bind-pins';
export { answers, asksPlace, placesFor, setBy } from './pin-kinds';
export { bindingOf, dialNamed, pinNamed } from './bindings';
export * from './settings';
export { isAskedWithin, liesWithin } from './inner';
export { keptMover, pieceOf, pieceOfMover, pieceOfStep, withKeptMover, withPiece } from './piece';
export {
  centresFrom,
  followed,
  hasCycle,
  matteAt,
  matteWithCentre,
  offsetFrom,
  ownerOf,
  standingOut,
} from './following';
export { agedValues, type EaseId, EASES } from './ageing';
export { upToDate } from './migrations';
export { lookSchema } from './schema';
export { changesBetween } from './changes';
export * as edit from './edit';
export { SHIPPED, SHIPPED_PIECES, shippedLook } from './shipped';
