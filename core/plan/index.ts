/**
 * From a look, a clip and a frame to a graph of image nodes, in two phases: `requirements` says
 * which frames of the clip must be at hand, `plan` makes the graph over them.
 */
export { type Asked, clipFrame, type SourceFrame, type SourceFrames } from './clip-frame';
export { plan } from './compositor';
export type { ClipFrame, Plan } from './scene';
export { LONGEST_WAY_BACK } from './travel';
export { frameKeyOf } from './frame-key';
export { answered, type Idle, IDLE_WORDS, questions } from './contribution';
export {
  asksForMotion,
  asksForSpeeds,
  looksElsewhere,
  needs,
  type Needs,
  type Reach,
  reachOf,
  requirements,
} from './requirements';
