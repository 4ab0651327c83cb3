/** From a look, a clip and a frame to a graph of operations. `graph` is what it is made of; `stack` builds it. */
export * from './graph';
export { Hasher, seedOf } from './hash';
export { blend, BLEND_IDS, BLEND_MODES, type BlendId, blendPixel, clear } from './blend';
export { balanced, type Balance, balanceValues, greyUnder } from './balance';
export { bedrockOf, type ClipPicture, pointsOf } from './bedrock';
export { balanceFrom, NEUTRAL_BALANCE, type ThreeWay, threeWayOf } from './by-hand';
export { type Asked, asPinned, type ClipFacts, footageFrame, footagePins, type Hosting, momentOf, type OtherFrame, type Others } from './moment';
export { fitIn, inTarget, type InTarget, lookFrame, placeInLookFrame, placeInTarget, type Size } from './framed';
export { plan, type ClipMoment, type Plan, type WholeClip } from './stack';
export { place, PLACEMENT } from './placement';
export { grounded, type Neutral } from './plate';
export { answered, type Idle, IDLE_WORDS, questions } from './contribution';
