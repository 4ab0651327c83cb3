/**
 * Tape as numbers, without pictures: grades and line systems as data (`grade`), filters along a
 * line (`filters`).
 */
export * from './grade';
export * from './filters';
