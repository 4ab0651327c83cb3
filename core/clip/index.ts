/**
 * What a clip is before any look: description, framing, balance, pins, accompanying footage, and
 * the bedrock (a decoded frame in the look's frame, balanced).
 */
export { balanced, type Balance, balanceValues, greyUnder } from './balance';
export { bedrockOf, type ClipPicture, placesOf } from './bedrock';
export * from './description';
export * from './footage';
export { balanceFrom, NEUTRAL_BALANCE, type ThreeWay, threeWayOf } from './lift-gamma-gain';
export {
  fitIn,
  type FrameShape,
  inTarget,
  type InTarget,
  lookFrame,
  placeInLookFrame,
  placeInTarget,
  type Size,
} from './look-frame';
export * from './pins';
export { BalanceNumbers, isPinValue, MOST_PINS, ReframeNumbers } from './validate-pins';
export * from './sequence';
export { soundLeftOut } from './sound';
