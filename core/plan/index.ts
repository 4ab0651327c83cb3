/** From a look, a clip and a frame to a graph of operations. `graph` is what it is made of; `stack` builds it. */
export * from './graph';
export { Hasher, seedOf } from './hash';
