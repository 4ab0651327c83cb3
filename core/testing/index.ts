/**
 * What the tests of several rooms use: random pictures, back ends held to each other, any values,
 * CIELAB distances.
 */
export * from './any-values';
export * from './comparing';
export * from './colour-difference';
export * from './clip-times';
