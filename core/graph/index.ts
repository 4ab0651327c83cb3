/**
 * The graph that looks become and engines run: image nodes with content keys, and the hash that
 * makes keys and seeds. It knows no look, no clip and no step; every room above speaks in these
 * nodes.
 */
export * from './nodes';
export { Hasher, seedOf } from './hash';
export * from './chance';
