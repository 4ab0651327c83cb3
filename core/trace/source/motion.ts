/**
 * Motion between two planes of luma, in WebAssembly. `core/trace` calls it; `npm run trace-kernels`
 * compiles it into `core/trace/motion-wasm.ts`. Written in AssemblyScript. Planes are f32, given by
 * the address of their first pixel, rows `stride` pixels apart. All arithmetic is single precision
 * in a fixed order, so every machine gives the same bits.
 */
export { setPad, doubled } from './planes';
export { searchPatches } from './patches';
export { refine } from './refine';
export { doubts, between } from './between';
