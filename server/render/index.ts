/** Rendering: an engine on this machine's cores, frames to samples, samples to files. */
export * from './threads';
export * from './render';
export * from './write';
export * from './cut-pictures';
