/**
 * How pictures are composited: blend modes, placement, plates prepared for a mode, and confinement
 * to what a clip covers.
 */
export { blend, BLEND_IDS, BLEND_MODES, type BlendId, blendPixel, clear } from './blend';
export { exposed } from './exposure';
export { masked, withStrength } from './masked';
export { copyPlaced, place, PLACEMENT, type PlacementValues, wayBetween } from './placement';
export { grounded, type Neutral } from './plate';
export { within } from './within';
