/**
 * All steps, by family. A new one is a file and a line here; no other code knows a step by name.
 * `declare` defines what a step is, `lowerStep` turns one into operations.
 */
import { cdl } from './colour/cdl';
import { contrast } from './colour/contrast';
import { exposure } from './colour/exposure';
import { hueBands } from './colour/hue-bands';
import { hueTurn } from './colour/hue-turn';
import { invert } from './colour/invert';
import { keepHue } from './colour/keep-hue';
import { levels } from './colour/levels';
import { lut } from './colour/lut';
import { monochrome } from './colour/monochrome';
import { saturation } from './colour/saturation';
import { threeWay } from './colour/three-way';
import { threshold } from './colour/threshold';
import { toneCurves } from './colour/tone-curves';
import { toneRanges } from './colour/tone-ranges';
import { toneTint } from './colour/tone-tint';
import { vibrance } from './colour/vibrance';
import { whiteBalance } from './colour/white-balance';
import type { Step } from './declare';
import { blur } from './edge/blur';
import { contour } from './edge/contour';
import { litRim } from './edge/lit-rim';
import { sharpen } from './edge/sharpen';
import { streakBlur } from './edge/streak-blur';
import { caustics } from './fill/caustics';
import { lettering } from './fill/lettering';
import { linearGradient } from './fill/linear-gradient';
import { manyPointGradient } from './fill/many-point-gradient';
import { noise } from './fill/noise-fill';
import { radialGradient } from './fill/radial-gradient';
import { plainColour } from './fill/plain-colour';
import { stripes } from './fill/stripes';
import { densityFlicker } from './film/density-flicker';
import { diffusion } from './film/diffusion';
import { dustAndScratches } from './film/dust-and-scratches';
import { filmBurn } from './film/film-burn';
import { filmResponse } from './film/film-response';
import { gate } from './film/gate';
import { gateWeave } from './film/gate-weave';
import { grain } from './film/grain';
import { halation } from './film/halation';
import { jumpRegistration } from './film/jump-registration';
import { lightLeak } from './film/light-leak';
import { bloom } from './light/bloom';
import { crossingLight } from './light/crossing-light';
import { flare } from './light/flare';
import { glow } from './light/glow';
import { starRays } from './light/star-rays';
import { vignette } from './light/vignette';
import { channelDrift } from './tape/channel-drift';
import { dropouts } from './tape/dropouts';
import { dubbing } from './tape/dubbing';
import { headSwitch } from './tape/head-switch';
import { lineJitter } from './tape/line-jitter';
import { scanlines } from './tape/scanlines';
import { tapeNoise } from './tape/tape-noise';
import { tapeSignal } from './tape/tape-signal';
import { trackingBand } from './tape/tracking-band';
import { motionBlur } from './time/motion-blur';
import { trail } from './time/trail';
import { churn } from './warp/churn';
import { fold } from './warp/fold';
import { lensBend } from './warp/lens-bend';
import { refract } from './warp/refract';
import { ripple } from './warp/ripple';
import { swell } from './warp/swell';

/** All steps, in the order of the menu. */
export const STEPS: readonly Step[] = [
  exposure,
  whiteBalance,
  contrast,
  toneRanges,
  threeWay,
  toneCurves,
  saturation,
  vibrance,
  hueBands,
  hueTurn,
  keepHue,
  monochrome,
  toneTint,
  cdl,
  lut,
  levels,
  threshold,
  invert,
  glow,
  bloom,
  starRays,
  flare,
  vignette,
  crossingLight,
  contour,
  sharpen,
  blur,
  streakBlur,
  litRim,
  filmResponse,
  halation,
  diffusion,
  grain,
  gateWeave,
  jumpRegistration,
  dustAndScratches,
  lightLeak,
  filmBurn,
  densityFlicker,
  gate,
  tapeSignal,
  tapeNoise,
  dropouts,
  trackingBand,
  lineJitter,
  headSwitch,
  dubbing,
  scanlines,
  channelDrift,
  ripple,
  churn,
  lensBend,
  swell,
  fold,
  refract,
  trail,
  motionBlur,
  plainColour,
  linearGradient,
  radialGradient,
  manyPointGradient,
  stripes,
  noise,
  caustics,
  lettering,
];

const byId = new Map(STEPS.map((s) => [s.id, s]));
/** The step with this id. */
export const stepOf = (id: string): Step | undefined => byId.get(id);

export * from './declare';
export { lowerStep } from './lower';
export { lowerSteps, isRamp, type Use } from './curve-folding';
export { linearColour } from './colour-values';
export { hueDegrees, pickedNumber } from './picked';
export {
  CDL_SPACES,
  cdlEncoding,
  cdlFormula,
  cdlKind,
  cdlList,
  type CdlNumbers,
  type CdlSpace,
  cdlVariant,
} from './colour/cdl';
export { type FilmValues, filmFor } from './film/film-response';
export { grainPicture } from './film/grain-picture';
export { sigmaOf } from './film/stage';
export { curveInDouble, type ColourFunction, processInDouble } from './process-double';
export { coloured, hueOf } from './colour/hues';
export { tapeOf } from './tape/raster';
