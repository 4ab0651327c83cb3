/**
 * Plans a look on a frame of a clip as a graph of image nodes, in two phases. `requirements` tells
 * which frames of the clip are needed; `plan` makes the graph once they are available.
 */
export { type Asked, clipFrame, type SourceFrame, type SourceFrames } from './clip-frame';
export { gather, type Gathered, type GatherSource, type PinSource } from './gather';
export { plan } from './plan';
export type { ClipFrame, Plan } from './scene';
export { LONGEST_WAY_BACK } from './travel';
export { frameKeyOf } from './frame-key';
export { answered, type Idle, IDLE_WORDS, questions } from './contribution';
export {
  asksFor,
  assetsAsked,
  byAsset,
  type GatheredClip,
  looksElsewhere,
  needs,
  type Needs,
  type Reach,
  reachOf,
  requirements,
} from './requirements';
