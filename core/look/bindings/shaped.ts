/** A place as the value of a point parameter or, with a shape, of an ellipse parameter. */
import { CENTRE, type Ellipse, type ParameterValue, type Point } from '../../parameters';
import type { Setting } from '../document';

/** The place itself, or the shape centred on it; shares of the frame. */
export const shaped = (shape: Ellipse | undefined, at: Point): ParameterValue =>
  shape ? [...at, shape[2], shape[3], shape[4]] : at;

/**
 * The setting that replaces a lost place: the shape in the middle, or undefined (the default) for a
 * point.
 */
export const inTheMiddle = (shape: Ellipse | undefined): Setting | undefined =>
  shape && { value: shaped(shape, CENTRE) };
