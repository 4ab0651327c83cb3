/**
 * Time: rates, timecode and slots; instants and their origins; eases and keys; movers, one file per
 * kind; spans; layer time. One rounding rule (halves up). All are functions of frame and seed
 * alone.
 */
export * from './rate';
export * from './slots';
export * from './clip-time';
export * from './instant';
export * from './ease';
export * from './keys';
export { frameBeyond } from './beyond';
export * from './span';
export {
  excess,
  type Fitted,
  fitted,
  fittedKeys,
  type Fitting,
  FITTING_WORDS,
  FITTINGS,
  keysExcess,
  lengthOfMover,
} from './fitting';
export * from './retime';
export {
  framesAround,
  isTimeless,
  LAYER_TIME,
  type LayerTime,
  sourceFrame,
  sourceMoment,
} from './cadence';
export { type MoverContext, type MoverKind, moverOf, MOVERS } from './movers';
