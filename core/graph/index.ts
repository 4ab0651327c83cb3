/**
 * The graph between looks and engines: image nodes with content keys, and the hash that makes keys
 * and seeds. This room knows no look, no clip and no step; all rooms above use its nodes.
 */
export * from './nodes';
export { Hasher, seedOf } from './hash';
export * from './chance';
