/** What is seen while a shutter is open: the mean of where a picture lies meanwhile. */
import type { ImageNode } from '../graph';
import { inDomain, meanOf } from '../image';

/**
 * The mean of pictures of one size, in light, multiplied by coverage; where all are whole it is
 * whole.
 */
export const exposed = (pictures: readonly ImageNode[]): ImageNode =>
  meanOf(
    pictures.map((p) => inDomain(p, 'light')),
    'light',
  );
