/** The look document: what is saved, exchanged and validated. Lists run from the bedrock up. */
import 'reflect-metadata';
import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
  Equals,
  IsArray,
  IsBoolean,
  IsDefined,
  IsIn,
  IsInt,
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
import { BLEND_IDS, type BlendId } from '../plan/blend';
import type { ParameterValue } from '../steps';

export const LOOK_SCHEMA = 1;

/** A parameter's value: a constant, or a dial and the range it drives. */
export type Setting = { readonly value: ParameterValue } | { readonly dial: string; readonly from?: number; readonly to?: number };
export const SOURCES = ['clip', 'below', 'fill'] as const;
export type SourceId = (typeof SOURCES)[number];

const KEY = /^[a-z0-9][a-z0-9-]{0,39}$/;
const keyRule = { message: 'must be a key of small letters, digits and dashes' };

export class StepUse {
  @Matches(KEY, keyRule) key!: string;
  @IsString() @IsNotEmpty() step!: string;
  @IsBoolean() on!: boolean;
  /** How much of the step is mixed with its own input, 0…100. */
  @IsObject() mix!: Setting;
  @IsObject() parameters!: Record<string, Setting>;
}

export class Layer {
  @Matches(KEY, keyRule) key!: string;
  @IsString() @MaxLength(80) name!: string;
  @IsBoolean() on!: boolean;
  @IsIn(SOURCES) source!: SourceId;
  @IsIn(BLEND_IDS) blend!: BlendId;
  /** 0…100. */
  @IsObject() opacity!: Setting;
  @IsArray() @ArrayMaxSize(64) @IsObject({ each: true }) @ValidateNested({ each: true }) @Type(() => StepUse) steps!: StepUse[];
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
}

export class LookDocument {
  @Equals(LOOK_SCHEMA, { message: `must be ${LOOK_SCHEMA}: this version of the application reads no other` }) schema!: number;
  @IsString() @IsNotEmpty() @MaxLength(80) name!: string;
  @IsInt() @Min(0) @Max(0xffffffff) seed!: number;
  /** Whether the clip itself lies at the foot; off, the layers stand on nothing. */
  @IsBoolean() bedrock!: boolean;
  @IsArray() @ArrayMaxSize(64) @IsObject({ each: true }) @ValidateNested({ each: true }) @Type(() => Layer) layers!: Layer[];
  @IsArray() @ArrayMaxSize(32) @IsObject({ each: true }) @ValidateNested({ each: true }) @Type(() => Dial) dials!: Dial[];
}

export const STRENGTH = 'strength';
export const strengthDial = (value = 100): Dial => ({ key: STRENGTH, label: 'Strength', kind: 'number', min: 0, max: 100, unit: '%', value });

/** A look with no layers. */
export const emptyLook = (name: string, seed = 1): LookDocument => ({
  schema: LOOK_SCHEMA,
  name,
  seed,
  bedrock: true,
  layers: [],
  dials: [strengthDial()],
});
