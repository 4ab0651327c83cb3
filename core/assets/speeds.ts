import type { WholeAsset } from './declare';
import { motion } from './motion';

/**
 * Speed of the motion from each frame of footage to the next (`speedOf`), in lines; null where it
 * was not measured.
 */
export type Speeds = readonly (number | null)[];

/** Speeds of footage, of all of it or of what a matte covers. */
export const speeds: WholeAsset & { readonly id: 'speeds' } = {
  id: 'speeds',
  per: 'footage',
  method: motion.method,
  from: motion.id,
};
