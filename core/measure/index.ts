/**
 * Measurements of pictures: scopes, statistics, goals and inspection, from planes of numbers.
 * Ordinary TypeScript, for workers.
 */
export {
  type CodePlanes,
  type Figures,
  figuresOf,
  LEVELS,
  type Region,
  type Scopes,
  scopesOf,
  SCOPE_RANGE,
  VECTOR_SIDE,
  WAVE_COLUMNS,
} from './scopes';
export { FIELD_VIEWS, type FieldView, fieldShown } from './field-views';
export { difference, marked, MATTE_VIEWS, matteShown, type MatteView } from './compare';
export { toOklab } from './oklab';
export {
  BALANCE_DEFAULTS,
  balanceTo,
  type BalanceOptions,
  commonGround,
  type Ground,
  groundOf,
} from './balance';
export { type ClipStatistics, type Sample, statisticsOf } from './statistics';
export { platePointsOf } from './plate';
export { holeOf } from './hole';
export { sampledFrames, sampleOf, sampleOfLight } from './sampling';
export { type Spread, spreadOf, TRAITS, type Traits, traitsOf } from './spread';
export {
  type Flag,
  FLAG_WORDS,
  INSPECTION_METHOD,
  type FlagKind,
  flagMuch,
  type Inspected,
  Inspection,
  INSPECTION_LIMITS,
  type InspectionLimits,
} from './inspection';
export { inspectedFrame } from './inspecting';
export { bandedShare, bareEdge, blackOf, strongShare } from './checks';
export { flashFrame, type FlashFrame } from './flash-cells';
export {
  FLASH_LIMITS,
  FlashDetector,
  type FlashFinding,
  flashesOf,
  type FlashLimits,
} from './flashes';
export {
  goalFigures,
  type GoalFigures,
  goalWords,
  isReached,
  meanFigures,
  measureWord,
  reach,
  type Reached,
  suitFigures,
  unsuitedFor,
  type Unsuited,
} from './goals';
export {
  CUT_PICTURE,
  type CutDecisions,
  CutFinder,
  cutsDecided,
  cutsUndecided,
  SHORTEST_SHOT,
} from './cuts';
