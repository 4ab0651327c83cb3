/**
 * The kernel language: expressions over pixels (`node`, `expr`), their lowering (`lower`), and the back
 * ends: the reference in double and single precision (`reference`), WebAssembly simd (`simd`) and
 * WebGL2 (`glsl`). Steps use `expr` alone.
 */
export * from './node';
export * from './expr';
export { sample } from './sample';
export * from './exact';
export * from './tables';
export { Remembered } from './remembered';
export { lower } from './lower';
export { evaluate, type Precision, type ReferenceImage } from './reference';
export { emit, ARGS, type CompiledShape } from './simd';
export { ATLAS_WIDTH, emitGlsl, type GlslCounts } from './glsl';
