import { inWords, type LookDocument, readLook } from '../../core';
import { Problem } from './answer';

/** A look document from a request, validated. Throws `Problem`. */
export function documentOf(plain: object): LookDocument {
  const read = readLook(plain);
  if ('faults' in read)
    throw new Problem(422, 'Not a look that can be used', inWords(read.faults), {
      faults: read.faults,
    });
  return read.look;
}
