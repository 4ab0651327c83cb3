/**
 * How pictures are laid on one another: blend modes, placement, plates grounded for a mode, and
 * what a clip covers.
 */
export { blend, BLEND_IDS, BLEND_MODES, type BlendId, blendPixel, clear } from './blend';
export { exposed } from './exposure';
export { masked, withStrength } from './masked';
export { copyPlaced, place, PLACEMENT, wayBetween } from './placement';
export { grounded, type Neutral } from './plate';
export { within } from './within';
