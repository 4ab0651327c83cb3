/** What is found in footage by tracking: motion vectors. */
export { between, type Between, type Pair } from './between';
export { packPair, packedSize, settled, unpackPair } from './field-file';
export { MOTION_METHOD, motionOfFrames, speedBetween, trackedFrame } from './footage-motion';
export { insideOf, SPEED_PERCENTILE, speedOf } from './speed';
export { type Tracked, tracked } from './motion';
export { type Vectors } from './vectors';
export { fullLuma } from './raw-luma';
export {
  Follower,
  followable,
  followed,
  type FollowedSpot,
  POINTS_METHOD,
  type Sizes,
  sizesOf,
  type Spot,
} from './points';
export { TRACK_FILES, type TrackFile, trackFrom, trackSchema, trackText } from './track-file';
export {
  type BareMark,
  anyPlace,
  isInEveryShot,
  kindOfTrace,
  type Mark,
  MARKED,
  marksOf,
  MOST_MARKS,
  placeOn,
  presenceOn,
  shotAround,
  sureOf,
  type TraceGiven,
  type Track,
  trackByHand,
  type TrackPlace,
} from './track';
export { MOST_SMOOTH } from './smooth';
export { trackFollowed } from './track-followed';
