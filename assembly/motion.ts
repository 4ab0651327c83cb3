/**
 * Motion between two planes of luma, in WebAssembly: `core/trace` calls it, `npm run assembly`
 * compiles it into `core/trace/motion-wasm.ts`. AssemblyScript; planes are f32, named by the
 * address of their first pixel, rows `stride` pixels apart. Everything is in single precision and
 * in one order, so the same bits come out on every machine.
 */
export { setPad, doubled } from './planes';
export { searchPatches } from './patches';
export { refine } from './refine';
export { doubts, between } from './between';
