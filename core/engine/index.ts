/**
 * Runs graphs: `Engine` on simd over threads (`helpWith` is what they run), `GlslEngine` on WebGL2.
 */
export {
  Computer,
  OutOfMemory,
  type PastRoom,
  type PastStore,
  type Planes,
  Cancelled,
  type Stats,
} from './computer';
export { Engine, type EngineOptions } from './engine';
export { GlslEngine, type Texture } from './glsl';
export { Memory, type Image } from './memory';
export { helpWith } from './pool';
export { expressions, groupOf, materialised, type Group } from './fusion';
