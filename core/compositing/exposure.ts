/**
 * Shutter exposure: the mean of a picture over the positions it takes while the shutter is open.
 */
import type { ImageNode } from '../graph';
import { inDomain, meanOf } from '../image';

/** The mean of pictures of one size, in premultiplied linear light; opaque if all of them are. */
export const exposed = (pictures: readonly ImageNode[]): ImageNode =>
  meanOf(
    pictures.map((p) => inDomain(p, 'light')),
    'light',
  );
