/**
 * Computation only: no DOM, no Node, no database. It runs in workers, on the server and in the
 * terminal.
 */
export * from './parameters';
export * from './graph';
export * from './assets';
export * from './places';
export * from './clip';
export * from './sound';
export * from './compositing';
export * from './look';
export * from './steps';
export {
  COMBINATIONS,
  type Combination,
  matteOf,
  matteParameters,
  MATTES,
  type MatteKind,
} from './mattes';
export * from './image';
export * from './plan';
export {
  kindOfTrace,
  type Mark,
  MARKED,
  marksOf,
  MOST_MARKS,
  MOST_SMOOTH,
  placeOn,
  sureOf,
  type TraceGiven,
  type Track,
  type TrackPlace,
  TRACK_FILES,
  trackFrom,
  trackText,
} from './trace';
export * from './measure';
export * from './decisions';
export * from './delivery';
export * from './cut';
