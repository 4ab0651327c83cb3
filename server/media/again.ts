/** Footage that is made from existing footage. */
import type { SequenceChoice } from '../../core';
import type { Progressive } from './progressive';

/** Existing footage (by its hash) and what is made from it. */
export type Again = { readonly hash: string } & (
  | ({ readonly made: 'progressive' } & Progressive)
  | ({ readonly made: 'sequence' } & SequenceChoice)
);
