/** What a look offers and asks for: dials, goals, what suits it, pins, and its frame. */
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

import { KEY, keyRule } from './document-setting';

/**
 * What of a picture under a look a goal can be set for, in per cent: three tones of its luma (5th,
 * 50th, 95th percentile), chroma, shares.
 */
export const GOAL_MEASURES = [
  'dark',
  'middle',
  'bright',
  'saturation',
  'crushed',
  'clipped',
] as const;
export type GoalMeasure = (typeof GOAL_MEASURES)[number];
/** What of a clip's own statistics a look can ask for, in per cent. */
export const SUIT_MEASURES = [
  'dark',
  'middle',
  'bright',
  'contrast',
  'saturation',
  'noise',
  'motion',
] as const;
export type SuitMeasure = (typeof SUIT_MEASURES)[number];
export const RELATIONS = ['above', 'below'] as const;
/**
 * What of a picture an inspection flags and a look can mean: its own bars, lifted blacks, light
 * that clips. Flashes cannot be meant away.
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
export type Meanable = (typeof MEANABLE)[number];

/** A figure that a dial should reach on each clip. */
export class Goal {
  @IsIn(GOAL_MEASURES) of!: GoalMeasure;
  @IsIn(RELATIONS) is!: (typeof RELATIONS)[number];
  @IsNumber() @Min(-50) @Max(150) value!: number;
}
/** What footage must be like for the look to hold on it. */
export class Suit {
  @IsIn(SUIT_MEASURES) of!: SuitMeasure;
  @IsIn(RELATIONS) is!: (typeof RELATIONS)[number];
  @IsNumber() @Min(-50) @Max(150) value!: number;
}

export const DIAL_KINDS = ['number', 'colour', 'switch'] as const;

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
 * Where it is not set: the middle of the clip, the centre of the frame, a level line through it,
 * the whole frame, the clip itself.
 */
export const PIN_KINDS = ['cue', 'point', 'line', 'matte', 'footage'] as const;
/** What a look needs to know about each clip. */
export class PinAsk {
  @Matches(KEY, keyRule) key!: string;
  @IsString() @IsNotEmpty() @MaxLength(40) label!: string;
  @IsIn(PIN_KINDS) kind!: (typeof PIN_KINDS)[number];
  /** Whether a clip may set several: what is bound to it is repeated for each. */
  @IsBoolean() many!: boolean;
}

export type DialValue = Dial['value'];
/** Values that stand in for the look's own, by dial. */
export type DialValues = Readonly<Record<string, DialValue>>;

export const LIES = ['bars', 'fill'] as const;
export type LookFrameLies = (typeof LIES)[number];

/** A shape other than the project's to compose in, and how it lies in what is delivered. */
export class LookFrame {
  /** Width and height, in any unit. */
  @IsArray()
  @ArrayMinSize(2)
  @ArrayMaxSize(2)
  @IsNumber({}, { each: true })
  @Min(1, { each: true })
  @Max(100, { each: true })
  shape!: [number, number];
  /** Whole between bars, or filling it. */
  @IsIn(LIES) lies!: LookFrameLies;
  /** The radius of its corners, in lines. */
  @IsNumber() @Min(0) @Max(540) rounded!: number;
  /**
   * With `fill`, clips that are wider than it fill it, and lose what stands out at the sides;
   * without, each as it is fitted itself.
   */
  @IsOptional() @IsIn(['fill']) clips?: 'fill';
}
