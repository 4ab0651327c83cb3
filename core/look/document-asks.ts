/** The parts of a look that face the clips: dials, goals, suitability, pins, and the frame. */
import 'reflect-metadata';
import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
  ArrayMinSize,
  IsArray,
  IsBoolean,
  IsDefined,
  IsIn,
  IsNotEmpty,
  IsNumber,
  IsObject,
  IsOptional,
  IsString,
  Matches,
  Max,
  MaxLength,
  Min,
  ValidateNested,
} from 'class-validator';

import { PLACE_KIND_IDS } from '../places';
import { KEY, keyRule } from './document-setting';

/**
 * Measures of a rendered picture that a goal can be set for, in per cent: three percentiles of luma
 * (5th, 50th, 95th), chroma, shares.
 */
export const GOAL_MEASURES = [
  'dark',
  'middle',
  'bright',
  'saturation',
  'crushed',
  'clipped',
] as const;
/** One of `GOAL_MEASURES`. */
export type GoalMeasure = (typeof GOAL_MEASURES)[number];
/** Measures of a clip's own statistics that suitability can be tested on, in per cent. */
export const SUIT_MEASURES = [
  'dark',
  'middle',
  'bright',
  'contrast',
  'saturation',
  'noise',
  'motion',
] as const;
/** One of `SUIT_MEASURES`. */
export type SuitMeasure = (typeof SUIT_MEASURES)[number];
/** Directions of a suitability test. */
export const RELATIONS = ['above', 'below'] as const;
/**
 * Inspection flags that a look can declare as intended: its own bars, lifted blacks, clipped light.
 * Flashes cannot be declared.
 */
export const MEANABLE = [
  'crushed',
  'clipped',
  'outside',
  'lifted-black',
  'over-saturated',
  'bands',
  'bare-edge',
] as const;
/** One of `MEANABLE`. */
export type Meanable = (typeof MEANABLE)[number];

/** A target that a dial should reach on each clip. */
export class Goal {
  @IsIn(GOAL_MEASURES) of!: GoalMeasure;
  @IsIn(RELATIONS) is!: (typeof RELATIONS)[number];
  @IsNumber() @Min(-50) @Max(150) value!: number;
}
/** What footage must be like for the look to work on it. */
export class Suit {
  @IsIn(SUIT_MEASURES) of!: SuitMeasure;
  @IsIn(RELATIONS) is!: (typeof RELATIONS)[number];
  @IsNumber() @Min(-50) @Max(150) value!: number;
}

/** Kinds of dials. */
export const DIAL_KINDS = ['number', 'colour', 'switch'] as const;

/** A dial of a look. */
export class Dial {
  @Matches(KEY, keyRule) key!: string;
  @IsString() @IsNotEmpty() @MaxLength(40) label!: string;
  @IsIn(DIAL_KINDS) kind!: (typeof DIAL_KINDS)[number];
  @IsOptional() @IsNumber() min?: number;
  @IsOptional() @IsNumber() max?: number;
  @IsOptional() @IsString() @MaxLength(12) unit?: string;
  @IsDefined() value!: number | boolean | readonly [number, number, number];
  /** Number dials only. */
  @IsOptional() @IsObject() @ValidateNested() @Type(() => Goal) goal?: Goal;
}

/**
 * Kinds of pins. Unset pins default to: the middle of the clip, what each kind of place says, the
 * whole frame, the clip itself.
 */
export const PIN_KINDS = ['cue', ...PLACE_KIND_IDS, 'matte', 'footage'] as const;
/**
 * What becomes of what hangs on a place while its trace is lost: it is held, fades away and comes
 * back, or the place goes on the way it went.
 */
export const LOST_WAYS = ['hold', 'fade', 'go-on'] as const;
/** One of `LOST_WAYS`. */
export type LostWay = (typeof LOST_WAYS)[number];
/** Frames over which what hangs on a lost place fades, where a look does not say. */
export const FADES_OVER = 4;
/** Sides of a cut that answer a pin of footage: what goes, and what comes. */
export const SIDES = ['before', 'after'] as const;
/** One of `SIDES`. */
export type Side = (typeof SIDES)[number];
/** A pin that a look asks each clip for. */
export class PinAsk {
  @Matches(KEY, keyRule) key!: string;
  @IsString() @IsNotEmpty() @MaxLength(40) label!: string;
  @IsIn(PIN_KINDS) kind!: (typeof PIN_KINDS)[number];
  /** Whether a clip may set several; what is bound to the pin is then repeated for each. */
  @IsBoolean() many!: boolean;
  /** Where a followed place is lost. Default: it is held. */
  @IsOptional() @IsIn(LOST_WAYS) lost?: LostWay;
  /** Frames over which it fades. Default: `FADES_OVER`. */
  @IsOptional() @IsNumber() @Min(1) @Max(250) over?: number;
  /** For footage: the side of a transition that answers it. A look that asks for one is a transition. */
  @IsOptional() @IsIn(SIDES) side?: Side;
}

/** A dial's value. */
export type DialValue = Dial['value'];
/** Dial values that replace the look's own, by key. */
export type DialValues = Readonly<Record<string, DialValue>>;

/** How a look's frame lies in the delivered frame. */
export const LIES = ['bars', 'fill'] as const;
/** One of `LIES`. */
export type LookFrameLies = (typeof LIES)[number];

/** A frame shape different from the project's, and how it lies in the delivered frame. */
export class LookFrame {
  /** Width and height, in any unit. */
  @IsArray()
  @ArrayMinSize(2)
  @ArrayMaxSize(2)
  @IsNumber({}, { each: true })
  @Min(1, { each: true })
  @Max(100, { each: true })
  shape!: [number, number];
  /** `bars`: all of the frame is visible, between bars. `fill`: it covers the delivered frame. */
  @IsIn(LIES) lies!: LookFrameLies;
  /** Radius of the corners, in lines. */
  @IsNumber() @Min(0) @Max(540) rounded!: number;
  /**
   * `fill`: clips wider than the frame fill it and are cropped at the sides. Default: each clip is
   * fitted as it says itself.
   */
  @IsOptional() @IsIn(['fill']) clips?: 'fill';
}
