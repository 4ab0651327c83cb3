/** Runs graphs on simd over threads. `Engine` for those who compute, `helpWith` for the threads that help. */
export { Engine, Stale, type EngineOptions, type Tally } from './engine';
export { Memory, type Image } from './memory';
export { helpWith } from './pool';
export { expressions, groupOf, materialised, type Group } from './fusion';
