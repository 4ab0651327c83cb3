/** The look document's time: instants, eases, spans, retiming, keys and movers. */
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
import { type Mixing, MIXINGS, type ParameterValue } from '../parameters';
import {
  type Between,
  BETWEEN,
  type EaseHandles,
  EASE_KINDS,
  type EaseKind,
  type Fitting,
  FITTINGS,
  INSTANT_UNITS,
  type InstantUnit,
  MOST_PLACES,
  type Origin,
  ORIGINS,
  RETIME_WAYS,
  type RetimeWay,
  TIME_UNITS,
  type TimeUnit,
  type Which,
  WHICH,
} from '../time';

import { KEY, keyRule, type Setting } from './document-setting';

/**
 * An instant: an origin and an offset from it. The frame it falls on depends on the clip's cues,
 * length and rate.
 */
export class InstantUse {
  @IsIn(ORIGINS) from!: Origin;
  /** Key of the cue pin. */
  @IsOptional() @Matches(KEY, keyRule) cue?: string;
  /** Which of several cues. Default: the first. */
  @IsOptional() @IsIn(WHICH) which?: Which;
  /** Per cent of the clip's length. */
  @IsOptional() @IsNumber() @Min(0) @Max(100) share?: number;
  /** Offset from the origin; negative is earlier. Default: 0. */
  @IsOptional() @IsObject() offset?: Setting;
  /** Unit of the offset. Default: seconds. */
  @IsOptional() @IsIn(INSTANT_UNITS) unit?: InstantUnit;
}

/** Easing between two values. Default: linear. */
export class EaseUse {
  @IsIn(EASE_KINDS) kind!: EaseKind;
  /** Strength of the easing, 0…100. */
  @IsOptional() @IsObject() by?: Setting;
  /** For `cubic`: the two inner control points, in shares of time and value. */
  @IsOptional()
  @IsArray()
  @ArrayMinSize(4)
  @ArrayMaxSize(4)
  @IsNumber({}, { each: true })
  handles?: EaseHandles;
}

/** A stretch of the clip in which something acts; both ends are included. */
export class SpanUse {
  @IsObject() @ValidateNested() @Type(() => InstantUse) from!: InstantUse;
  @IsObject() @ValidateNested() @Type(() => InstantUse) to!: InstantUse;
  /** Duration of fading in and out. Default: none. */
  @IsOptional() @IsObject() coming?: Setting;
  @IsOptional() @IsObject() going?: Setting;
  /** Unit of those. Default: seconds. */
  @IsOptional() @IsIn(TIME_UNITS) unit?: TimeUnit;
  @IsOptional() @IsObject() @ValidateNested() @Type(() => EaseUse) ease?: EaseUse;
}

/** A place in the clip's time, with the speed there. */
export class RetimePlaceUse {
  /** In the clip's own time, before retiming. */
  @IsObject() @ValidateNested() @Type(() => InstantUse) at!: InstantUse;
  /** Per cent of the clip's own speed. */
  @IsObject() speed!: Setting;
  /** Seconds of standing still. Default: none. */
  @IsOptional() @IsObject() hold?: Setting;
  /** How speed changes towards the next place. */
  @IsIn(RETIME_WAYS) to!: RetimeWay;
}
/** How a look retimes clips, on top of a clip's own speed. */
export class RetimeUse {
  @IsArray()
  @ArrayMinSize(1)
  @ArrayMaxSize(MOST_PLACES)
  @IsObject({ each: true })
  @ValidateNested({ each: true })
  @Type(() => RetimePlaceUse)
  places!: RetimePlaceUse[];
  /** Plays from the last frame to the first. */
  @IsBoolean() backwards!: boolean;
  /** How frames that the clip does not have are made. */
  @IsIn(BETWEEN) between!: Between;
}

/** A value at an instant. */
export class KeyUse {
  @IsObject() @ValidateNested() @Type(() => InstantUse) at!: InstantUse;
  @IsDefined() value!: ParameterValue;
  /** Easing towards the next key. */
  @IsOptional() @IsObject() @ValidateNested() @Type(() => EaseUse) ease?: EaseUse;
}

/** How a mover changes a value; movers apply in this order. */
export const WAYS = ['replace', 'multiply', 'add'] as const;
/** One of `WAYS`. */
export type Way = (typeof WAYS)[number];

/** What a mover moves: a path (see `parameterAt`), how, and by how much. */
export class MoverTarget {
  @IsString() @MaxLength(160) path!: string;
  @IsIn(WAYS) how!: Way;
  /**
   * `add`: in the parameter's unit (places in lines). `multiply`: per cent. `replace`: the value at
   * full effect. Keys need none.
   */
  @IsOptional() @IsObject() amount?: Setting;
  /** Which output of the mover is used, for movers with several. */
  @IsOptional() @IsString() part?: string;
}

/** Most keys, and most instants, of one mover. */
export const MOST_KEYS = 2000;
/** Kind of the mover that has keys. */
export const KEYS = 'keys';
/** Something that changes parameters over time. */
export class Mover {
  @Matches(KEY, keyRule) key!: string;
  @IsString() @IsNotEmpty() @MaxLength(80) name!: string;
  @IsBoolean() on!: boolean;
  /** `keys`, or the id of a kind of mover. */
  @IsString() @IsNotEmpty() kind!: string;
  @IsObject() parameters!: Record<string, Setting>;
  /** Instants by id. Default: the clip's start. */
  @IsOptional() @IsObject() instants?: Record<string, InstantUse[]>;
  @IsOptional()
  @IsArray()
  @ArrayMinSize(1)
  @ArrayMaxSize(MOST_KEYS)
  @IsObject({ each: true })
  @ValidateNested({ each: true })
  @Type(() => KeyUse)
  keys?: KeyUse[];
  /** What happens if the clip ends before the mover does. Default: it is cut off. */
  @IsOptional() @IsIn(FITTINGS) fits?: Fitting;
  /** How colours are mixed between keys. Default: perceptually. */
  @IsOptional() @IsIn(MIXINGS) mixing?: Mixing;
  @IsArray()
  @ArrayMaxSize(64)
  @IsObject({ each: true })
  @ValidateNested({ each: true })
  @Type(() => MoverTarget)
  targets!: MoverTarget[];
}
