/** The cut: clips in order against the music, their transitions, and the mix of their sounds. */
export * from './document';
export { readCut, type ReadCut } from './validate';
export {
  firstShowing,
  framesFor,
  inOrder as placesInOrder,
  lastsFor,
  latestAt,
  lengthOfCut,
  overlapOf,
  standingAt,
  type Stretch,
} from './times';
export { type CutClip, spareOf, type Standing, standing, standingFacts } from './standing';
export {
  type Answered,
  type Cut,
  cutPicture,
  type CutShot,
  cutShots,
  withAnswers,
} from './picture';
export { fadeShare, gainOf, type Heard, mixed, type Mixed } from './mix';
export { inLine, LINE_LENGTHS, lineAt, type LineLength, linesOf } from './lines';
export { isTransition, type Transition, transitionNamed, TRANSITIONS } from './transitions';
export * as cutting from './edit';
