/** The look document: what is saved, exchanged and validated. Lists run from the bedrock up. */
import 'reflect-metadata';
import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
  ArrayUnique,
  Equals,
  IsArray,
  IsBoolean,
  IsIn,
  IsInt,
  IsNotEmpty,
  IsObject,
  IsOptional,
  IsString,
  Matches,
  Max,
  MaxLength,
  Min,
  ValidateNested,
} from 'class-validator';
import { BLEND_IDS, type BlendId } from '../compositing';
import { type Combination, COMBINATIONS } from '../mattes';

import { Dial, LookFrame, MEANABLE, type Meanable, PinAsk, Suit } from './document-asks';
import { InstantUse, Mover, RetimeUse, SpanUse } from './document-time';
import { KEY, keyRule, type Setting } from './document-setting';

export * from './document-asks';
export * from './document-time';
export type { CentreOf, Link, Setting } from './document-setting';

export const LOOK_SCHEMA = 3;

/**
 * What a layer's picture begins with. `layer`, `group`, `footage` and `look` say in `from` which;
 * `shot` is the clip without its balance, `recorded` its bare code values, shown as they are.
 */
export const SOURCES = [
  'clip',
  'shot',
  'recorded',
  'below',
  'fill',
  'layer',
  'group',
  'footage',
  'look',
] as const;
export type SourceId = (typeof SOURCES)[number];

/** A matte of a layer or a step, joined with those before it. */
export class MatteUse {
  @Matches(KEY, keyRule) key!: string;
  @IsString() @IsNotEmpty() matte!: string;
  @IsBoolean() on!: boolean;
  @IsIn(COMBINATIONS) combine!: Combination;
  @IsBoolean() invert!: boolean;
  /** The layer or the pin it is made from, for kinds that need one. */
  @IsOptional() @Matches(KEY, keyRule) from?: string;
  @IsObject() parameters!: Record<string, Setting>;
  /** The further places of the pin it is bound to, once a clip's are put in; no document has it. */
  also?: readonly Record<string, Setting>[];
}

export class StepUse {
  @Matches(KEY, keyRule) key!: string;
  @IsString() @IsNotEmpty() step!: string;
  @IsBoolean() on!: boolean;
  /** The layer it looks at, where its parameters say that it looks at one. */
  @IsOptional() @Matches(KEY, keyRule) from?: string;
  /** How much of the step is mixed with its own input, 0…100. */
  @IsObject() mix!: Setting;
  @IsObject() parameters!: Record<string, Setting>;
  /** Where it acts; everywhere without. */
  @IsOptional()
  @IsArray()
  @ArrayMaxSize(12)
  @IsObject({ each: true })
  @ValidateNested({ each: true })
  @Type(() => MatteUse)
  mattes?: MatteUse[];
  /** When it acts; always without. */
  @IsOptional() @IsObject() @ValidateNested() @Type(() => SpanUse) span?: SpanUse;
}

export class Layer {
  @Matches(KEY, keyRule) key!: string;
  @IsString() @MaxLength(80) name!: string;
  @IsBoolean() on!: boolean;
  @IsIn(SOURCES) source!: SourceId;
  @IsOptional() @Matches(KEY, keyRule) from?: string;
  /** Of another look: where its dials stand, as it has them without. */
  @IsOptional() @IsObject() dials?: Record<string, Setting>;
  /** Of another look: what it is laid on; the clip without. */
  @IsOptional() @IsIn(['below']) over?: 'below';
  @IsIn(BLEND_IDS) blend!: BlendId;
  /** 0…100. */
  @IsObject() opacity!: Setting;
  @IsArray()
  @ArrayMaxSize(64)
  @IsObject({ each: true })
  @ValidateNested({ each: true })
  @Type(() => StepUse)
  steps!: StepUse[];
  /** What of it is laid down; all of it without. */
  @IsOptional()
  @IsArray()
  @ArrayMaxSize(12)
  @IsObject({ each: true })
  @ValidateNested({ each: true })
  @Type(() => MatteUse)
  mattes?: MatteUse[];
  /** Where it lies, by the parameters of placement; as it is without. */
  @IsOptional() @IsObject() placement?: Record<string, Setting>;
  /** When its source is seen, by the parameters of layer time; at the frame itself without. */
  @IsOptional() @IsObject() time?: Record<string, Setting>;
  /** What its speed and cadence count from; the clip's start without. */
  @IsOptional() @IsObject() @ValidateNested() @Type(() => InstantUse) timeFrom?: InstantUse;
  /** When it acts; always without. */
  @IsOptional() @IsObject() @ValidateNested() @Type(() => SpanUse) span?: SpanUse;
}

/**
 * A stack of its own that layers can have as their source: change it once, and all of them change.
 */
export class Group {
  @Matches(KEY, keyRule) key!: string;
  @IsString() @IsNotEmpty() @MaxLength(80) name!: string;
  @IsArray()
  @ArrayMaxSize(64)
  @IsObject({ each: true })
  @ValidateNested({ each: true })
  @Type(() => Layer)
  layers!: Layer[];
}

/** The version of a look in a catalogue that a document is a copy of. */
export class LookVersion {
  @IsString() @IsNotEmpty() @MaxLength(80) look!: string;
  @IsInt() @Min(1) version!: number;
}
/**
 * Another look that layers can have as their source: a copy of all of it, so that this one stays
 * what it is.
 */
export class InnerLook {
  @Matches(KEY, keyRule) key!: string;
  @IsObject() @ValidateNested() @Type(() => LookDocument) document!: LookDocument;
  @IsOptional() @IsObject() @ValidateNested() @Type(() => LookVersion) of?: LookVersion;
  /** Whether it goes on to that look's newer versions when they are saved. */
  @IsOptional() @IsBoolean() follows?: boolean;
}

export class LookDocument {
  @Equals(LOOK_SCHEMA, {
    message: `must be ${LOOK_SCHEMA}: this version of the application reads no other`,
  })
  schema!: number;
  @IsString() @IsNotEmpty() @MaxLength(80) name!: string;
  @IsInt() @Min(0) @Max(0xffffffff) seed!: number;
  /** Whether the clip itself lies at the foot; off, the layers stand on nothing. */
  @IsBoolean() bedrock!: boolean;
  /**
   * Whether it may cover more of the frame than the clip does; without, what it adds stays within
   * the clip.
   */
  @IsOptional() @IsBoolean() fills?: boolean;
  @IsArray()
  @ArrayMaxSize(64)
  @IsObject({ each: true })
  @ValidateNested({ each: true })
  @Type(() => Layer)
  layers!: Layer[];
  @IsOptional()
  @IsArray()
  @ArrayMaxSize(16)
  @IsObject({ each: true })
  @ValidateNested({ each: true })
  @Type(() => Group)
  groups?: Group[];
  /** Other looks that its layers begin with. Their frames and retimes do not count here. */
  @IsOptional()
  @IsArray()
  @ArrayMaxSize(8)
  @IsObject({ each: true })
  @ValidateNested({ each: true })
  @Type(() => InnerLook)
  looks?: InnerLook[];
  @IsArray()
  @ArrayMaxSize(32)
  @IsObject({ each: true })
  @ValidateNested({ each: true })
  @Type(() => Dial)
  dials!: Dial[];
  @IsOptional()
  @IsArray()
  @ArrayMaxSize(12)
  @IsObject({ each: true })
  @ValidateNested({ each: true })
  @Type(() => Suit)
  suits?: Suit[];
  /** Flags that it raises on purpose: they are shown as meant, and do not count. */
  @IsOptional() @IsArray() @ArrayUnique() @IsIn(MEANABLE, { each: true }) means?: Meanable[];
  @IsOptional()
  @IsArray()
  @ArrayMaxSize(16)
  @IsObject({ each: true })
  @ValidateNested({ each: true })
  @Type(() => PinAsk)
  pins?: PinAsk[];
  /** The shape it composes in; the project's without. */
  @IsOptional() @IsObject() @ValidateNested() @Type(() => LookFrame) frame?: LookFrame;
  /** What moves in it. */
  @IsOptional()
  @IsArray()
  @ArrayMaxSize(64)
  @IsObject({ each: true })
  @ValidateNested({ each: true })
  @Type(() => Mover)
  movers?: Mover[];
  /** When it acts; outside, the bedrock is seen. */
  @IsOptional() @IsObject() @ValidateNested() @Type(() => SpanUse) span?: SpanUse;
  /** How it lets clips run; as they do without. */
  @IsOptional() @IsObject() @ValidateNested() @Type(() => RetimeUse) retime?: RetimeUse;
}

/**
 * What of a look concerns clips before anything is computed: the pins it asks for, and the frame it
 * composes in.
 */
export type Asking = Pick<LookDocument, 'pins' | 'frame'>;

export const STRENGTH = 'strength';
export const strengthDial = (value = 100): Dial => ({
  key: STRENGTH,
  label: 'Strength',
  kind: 'number',
  min: 0,
  max: 100,
  unit: '%',
  value,
});

/** A look with no layers. */
export const emptyLook = (name: string, seed = 1): LookDocument => ({
  schema: LOOK_SCHEMA,
  name,
  seed,
  bedrock: true,
  layers: [],
  dials: [strengthDial()],
});
