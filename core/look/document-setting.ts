/** How a parameter is set in a look document, and the syntax of keys. */
import { type Ellipse, type ParameterValue } from '../parameters';

/** Syntax of keys. */
export const KEY = /^[a-z0-9][a-z0-9-]{0,39}$/;
/** The message for keys that do not match. */
export const keyRule = { message: 'must be a key of small letters, digits and dashes' };

/**
 * A link to another number or colour of the look (`layer/step/parameter`), and the difference from
 * it.
 */
export interface Link {
  readonly follows: string;
  /** For a number: added to it. */
  readonly offset?: number;
  /**
   * For a colour: −100 (black) … 100 (white), and a rotation of its hue in degrees (180: the
   * opposite).
   */
  readonly shade?: number;
  readonly hue?: number;
}
/**
 * The centre of a matte, by its path (`layer/matte` or `layer/step/matte`). For a shape it follows
 * from its parameters. For other mattes it is measured in the picture, over all mattes of the
 * owner, if the owner is planned before.
 */
export interface CentreOf {
  readonly centre: string;
  readonly shape?: Ellipse;
}
/** Instants of a clip at which a place may be taken once, for what would tremble if it followed. */
export const ONCE = ['start', 'middle', 'end'] as const;
/** Numbers of an oval that a parameter may take: lines of the frame, and degrees. */
export const OVAL_SIZES = ['width', 'height', 'turn'] as const;
/** A place of a pin, which each clip sets. */
export interface PinSetting {
  readonly pin: string;
  /** For a shape: the shape around a point, and until a clip sets an oval. */
  readonly shape?: Ellipse;
  /** For a number: what it takes of an oval. */
  readonly of?: (typeof OVAL_SIZES)[number];
  /** For a shape or a number by an oval: per cent of the oval's size. Default: 100. */
  readonly times?: number;
  /** For a number: its value until a clip sets an oval. */
  readonly without?: number;
  /** The instant of the clip at which a followed place is taken. Default: at every frame. */
  readonly once?: (typeof ONCE)[number];
  /** Which of several places; set while a look is bound to a clip. */
  readonly nth?: number;
}
/**
 * A parameter's value: a constant, a dial with the range it drives, a pin that each clip sets (for
 * a shape: its centre, or all of it by an oval), a link to another parameter, the centre of a matte, or the colour that
 * contrasts with each clip's main hue.
 */
export type Setting =
  | { readonly value: ParameterValue }
  | PinSetting
  | Link
  | CentreOf
  | { readonly clip: 'standing-out' }
  | { readonly dial: string; readonly from?: number; readonly to?: number };
