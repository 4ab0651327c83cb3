/**
 * Pictures: encodings, conversion from decoded frames and to code values, resampling and fitting.
 */
export * from './encodings';
export { inDomain, onColour } from './convert';
export {
  blend2,
  blur,
  coarsely,
  enlarge,
  fitInto,
  type Fitting,
  halve,
  halveAcross,
  halveDown,
} from './resample';
export { type Gaussians, shapedBlur, transfer } from './shaped';
export { CENTRED, FITS, type Fit, type Framing, frameFit, type Reframe } from './framing';
export * from './frame';
export { type ChromaShare, FIELDS, type Fields, type Siting, SITINGS } from './chroma';
export { packedForPage, toCodes, toCoveredCodes, wholeRgb, yuv420 } from './output';
export { exposuresFor, meanOf } from './mean';
export { leaf } from './planes';
export { filled, type Outline } from './filled';
export {
  adaptation,
  BT709,
  D65,
  invert,
  type Matrix,
  multiply,
  type Primaries,
  toXyz,
} from './matrix';
