/**
 * Helpers for the tests of several rooms: random pictures, comparison of back ends, random values,
 * CIELAB distances.
 */
export * from './any-values';
export * from './comparing';
export * from './colour-difference';
export * from './clip-times';
