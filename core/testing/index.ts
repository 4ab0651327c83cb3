/**
 * Helpers for the tests of several rooms: random pictures, comparison of back ends, random values,
 * CIELAB distances, times of clips, decoded frames.
 */
export * from './any-values';
export * from './comparing';
export * from './colour-difference';
export * from './clip-times';
export * from './gray-frame';
