/** How a parameter is set in a look document, and what keys are like there. */
import { type Ellipse, type ParameterValue } from '../parameters';

export const KEY = /^[a-z0-9][a-z0-9-]{0,39}$/;
export const keyRule = { message: 'must be a key of small letters, digits and dashes' };

/**
 * Another number or colour of the look (`layer/step/parameter`), and how far this one lies from it.
 */
export interface Link {
  readonly follows: string;
  /** Of a number: added to it. */
  readonly offset?: number;
  /**
   * Of a colour: −100 (black) … 100 (white), and how far its hue is turned, in degrees (180: the
   * opposite).
   */
  readonly shade?: number;
  readonly hue?: number;
}
/**
 * The middle of a matte that is drawn, by its path (`layer/matte` or `layer/step/matte`); of a
 * shape: its centre. Of another matte the middle is measured, of all of its owner's mattes
 * together, where that is planned no later.
 */
export interface CentreOf {
  readonly centre: string;
  readonly shape?: Ellipse;
}
/**
 * A parameter's value: a constant, a dial and the range it drives, a pin that each clip sets (of a
 * shape: its centre), another parameter it follows, the middle of a matte, or the colour that
 * stands out from each clip's main hue.
 */
export type Setting =
  | { readonly value: ParameterValue }
  | { readonly pin: string; readonly shape?: Ellipse }
  | Link
  | CentreOf
  | { readonly clip: 'standing-out' }
  | { readonly dial: string; readonly from?: number; readonly to?: number };
