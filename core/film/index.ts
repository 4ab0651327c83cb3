/**
 * Film in double precision and without pictures: stocks as data (`stocks`), their response to light
 * (`response`), scene light from a clip's light (`scene`), grain as a field of discs
 * (`grain-tile`). Steps make tables from it.
 */
export * from './stock';
export { STOCKS, stockOf, printFor } from './stocks';
export { AS_MADE, Film, type Processing } from './response';
export { log10d, measuredGamma, negativeDensity, pow10d, reversalDensity } from './curve';
export { isDisplayCoded, sceneLight } from './scene';
export { APERTURE, grainTile, pixelSigma, throughCircle, throughSquare, TILE } from './grain-tile';
