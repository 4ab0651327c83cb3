/** A place as the value of a point or, with a shape, of an ellipse about it. */
import { CENTRE, type Ellipse, type ParameterValue, type Point } from '../../parameters';
import type { Setting } from '../document';

/** The place itself, or the shape with its centre there; shares of the frame. */
export const shaped = (shape: Ellipse | undefined, at: Point): ParameterValue =>
  shape ? [...at, shape[2], shape[3], shape[4]] : at;

/**
 * What is left of a shape whose place has gone: itself in the middle; of a point (undefined) the
 * default.
 */
export const inTheMiddle = (shape: Ellipse | undefined): Setting | undefined =>
  shape && { value: shaped(shape, CENTRE) };
