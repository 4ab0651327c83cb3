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
 * An instant: what it counts from, and how far from it. A clip's own cues, length and rate say on
 * which frame that is.
 */
export class InstantUse {
  @IsIn(ORIGINS) from!: Origin;
  /** The key of a cue pin. */
  @IsOptional() @Matches(KEY, keyRule) cue?: string;
  /** Of several cues; the first without. */
  @IsOptional() @IsIn(WHICH) which?: Which;
  /** Per cent of the clip's length. */
  @IsOptional() @IsNumber() @Min(0) @Max(100) share?: number;
  /** How far from there, before it where negative; 0 without. */
  @IsOptional() @IsObject() offset?: Setting;
  /** What the offset is counted in; seconds without. */
  @IsOptional() @IsIn(INSTANT_UNITS) unit?: InstantUnit;
}

/** How it gets from one value to the next; evenly without. */
export class EaseUse {
  @IsIn(EASE_KINDS) kind!: EaseKind;
  /** How strongly, 0…100. */
  @IsOptional() @IsObject() by?: Setting;
  /** Of `cubic`: its two inner points in shares of time and way. */
  @IsOptional()
  @IsArray()
  @ArrayMinSize(4)
  @ArrayMaxSize(4)
  @IsNumber({}, { each: true })
  handles?: EaseHandles;
}

/**
 * A stretch of the clip in which something acts, from one instant to another, both of them within.
 */
export class SpanUse {
  @IsObject() @ValidateNested() @Type(() => InstantUse) from!: InstantUse;
  @IsObject() @ValidateNested() @Type(() => InstantUse) to!: InstantUse;
  /** Over how long it comes and goes; at once without. */
  @IsOptional() @IsObject() coming?: Setting;
  @IsOptional() @IsObject() going?: Setting;
  /** What those are counted in; seconds without. */
  @IsOptional() @IsIn(TIME_UNITS) unit?: TimeUnit;
  @IsOptional() @IsObject() @ValidateNested() @Type(() => EaseUse) ease?: EaseUse;
}

/** A place of the clip's time, and how fast it runs there. */
export class RetimePlaceUse {
  /** In the clip's own time, not in what is made of it. */
  @IsObject() @ValidateNested() @Type(() => InstantUse) at!: InstantUse;
  /** Per cent of the clip's own. */
  @IsObject() speed!: Setting;
  /** How long it stands still there, in seconds; not at all without. */
  @IsOptional() @IsObject() hold?: Setting;
  /** On the way to the next place. */
  @IsIn(RETIME_WAYS) to!: RetimeWay;
}
/** How a look lets clips run, over whatever speed a clip has of its own. */
export class RetimeUse {
  @IsArray()
  @ArrayMinSize(1)
  @ArrayMaxSize(MOST_PLACES)
  @IsObject({ each: true })
  @ValidateNested({ each: true })
  @Type(() => RetimePlaceUse)
  places!: RetimePlaceUse[];
  /** From the last frame to the first. */
  @IsBoolean() backwards!: boolean;
  /** What stands where the clip has no frame of its own. */
  @IsIn(BETWEEN) between!: Between;
}

/** A value at an instant. */
export class KeyUse {
  @IsObject() @ValidateNested() @Type(() => InstantUse) at!: InstantUse;
  @IsDefined() value!: ParameterValue;
  /** On the way to the next key. */
  @IsOptional() @IsObject() @ValidateNested() @Type(() => EaseUse) ease?: EaseUse;
}

/** How a mover acts on a value, in the order in which several act. */
export const WAYS = ['replace', 'multiply', 'add'] as const;
export type Way = (typeof WAYS)[number];

/** Something that a mover moves: a path (see `parameterAt`), how, and how far. */
export class MoverTarget {
  @IsString() @MaxLength(160) path!: string;
  @IsIn(WAYS) how!: Way;
  /**
   * `add`: in the parameter's unit (places in lines); `multiply`: per cent; `replace`: the value at
   * its full. Keys need none.
   */
  @IsOptional() @IsObject() amount?: Setting;
  /** What of the mover moves it, where it has several parts. */
  @IsOptional() @IsString() part?: string;
}

/** As many keys, and as many instants, as one mover can have. */
export const MOST_KEYS = 2000;
export const KEYS = 'keys';
/** Anything that makes parameters change over time. */
export class Mover {
  @Matches(KEY, keyRule) key!: string;
  @IsString() @IsNotEmpty() @MaxLength(80) name!: string;
  @IsBoolean() on!: boolean;
  /** `keys`, or a kind of the list of movers. */
  @IsString() @IsNotEmpty() kind!: string;
  @IsObject() parameters!: Record<string, Setting>;
  /** What it counts from, by the instant's id; the clip's start without. */
  @IsOptional() @IsObject() instants?: Record<string, InstantUse[]>;
  @IsOptional()
  @IsArray()
  @ArrayMinSize(1)
  @ArrayMaxSize(MOST_KEYS)
  @IsObject({ each: true })
  @ValidateNested({ each: true })
  @Type(() => KeyUse)
  keys?: KeyUse[];
  /** What becomes of it where the clip ends before it does; it is cut short without. */
  @IsOptional() @IsIn(FITTINGS) fits?: Fitting;
  /** How colours are mixed between keys; evenly to the eye without. */
  @IsOptional() @IsIn(MIXINGS) mixing?: Mixing;
  @IsArray()
  @ArrayMaxSize(64)
  @IsObject({ each: true })
  @ValidateNested({ each: true })
  @Type(() => MoverTarget)
  targets!: MoverTarget[];
}
