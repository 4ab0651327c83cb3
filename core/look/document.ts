/** The look document: what is saved, exchanged and validated. Lists run from the bottom up. */
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

export { KEY, keyRule } from './document-setting';
export * from './document-asks';
export * from './document-time';
export { ONCE, OVAL_SIZES } from './document-setting';
export type { CentreOf, Link, PinSetting, Setting } from './document-setting';

/** Version of the schema that this version of the application reads and writes. */
export const LOOK_SCHEMA = 4;

/**
 * What a layer's picture starts from. For `layer`, `group`, `footage` and `look`, `from` says
 * which. `shot` is the clip without its balance; `recorded` is its bare code values, shown as they
 * are.
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
/** One of `SOURCES`. */
export type SourceId = (typeof SOURCES)[number];

/** A matte of a layer or step, combined with those before it. */
export class MatteUse {
  @Matches(KEY, keyRule) key!: string;
  @IsString() @IsNotEmpty() matte!: string;
  @IsBoolean() on!: boolean;
  @IsIn(COMBINATIONS) combine!: Combination;
  @IsBoolean() invert!: boolean;
  /** Key of the layer or pin it is made from, for kinds that need one. */
  @IsOptional() @Matches(KEY, keyRule) from?: string;
  @IsObject() parameters!: Record<string, Setting>;
  /**
   * Settings for further places of the pin it is bound to. Only set after binding, never in a
   * document.
   */
  also?: readonly Record<string, Setting>[];
  /** The places that each set of settings fades with, while their traces are lost; as `also`. */
  fades?: readonly (Fading | undefined)[];
}
/** A place of a pin, by its number among several, with which something fades. */
export interface Fading {
  readonly pin: string;
  readonly nth: number;
}

/** A step in a layer. */
export class StepUse {
  @Matches(KEY, keyRule) key!: string;
  @IsString() @IsNotEmpty() step!: string;
  @IsBoolean() on!: boolean;
  /** Key of the layer it reads, if its parameters say that it reads one. */
  @IsOptional() @Matches(KEY, keyRule) from?: string;
  /** Per cent of the step's result mixed with its input, 0…100. */
  @IsObject() mix!: Setting;
  @IsObject() parameters!: Record<string, Setting>;
  /** Where it acts. Default: everywhere. */
  @IsOptional()
  @IsArray()
  @ArrayMaxSize(12)
  @IsObject({ each: true })
  @ValidateNested({ each: true })
  @Type(() => MatteUse)
  mattes?: MatteUse[];
  /** When it acts. Default: always. */
  @IsOptional() @IsObject() @ValidateNested() @Type(() => SpanUse) span?: SpanUse;
  /** The place that it fades with. Only set after binding, never in a document. */
  fades?: Fading;
}

/** A layer. */
export class Layer {
  /** The place that it fades with. Only set after binding, never in a document. */
  fades?: Fading;
  @Matches(KEY, keyRule) key!: string;
  @IsString() @MaxLength(80) name!: string;
  @IsBoolean() on!: boolean;
  @IsIn(SOURCES) source!: SourceId;
  @IsOptional() @Matches(KEY, keyRule) from?: string;
  /** For another look: values of its dials. Default: its own. */
  @IsOptional() @IsObject() dials?: Record<string, Setting>;
  /** For another look: what it is applied to. Default: the clip. */
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
  /** Which parts of it are composited. Default: all. */
  @IsOptional()
  @IsArray()
  @ArrayMaxSize(12)
  @IsObject({ each: true })
  @ValidateNested({ each: true })
  @Type(() => MatteUse)
  mattes?: MatteUse[];
  /** Position, by the parameters of placement. Default: as it is. */
  @IsOptional() @IsObject() placement?: Record<string, Setting>;
  /** Time of its source, by the parameters of layer time. Default: the frame itself. */
  @IsOptional() @IsObject() time?: Record<string, Setting>;
  /** Origin of its speed and cadence. Default: the clip's start. */
  @IsOptional() @IsObject() @ValidateNested() @Type(() => InstantUse) timeFrom?: InstantUse;
  /** When it acts. Default: always. */
  @IsOptional() @IsObject() @ValidateNested() @Type(() => SpanUse) span?: SpanUse;
}

/** A stack that several layers can have as their source: a change of it changes all of them. */
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
 * Another look as the source of layers. It is copied as a whole, so that this look stays what it
 * is.
 */
export class InnerLook {
  @Matches(KEY, keyRule) key!: string;
  @IsObject() @ValidateNested() @Type(() => LookDocument) document!: LookDocument;
  @IsOptional() @IsObject() @ValidateNested() @Type(() => LookVersion) of?: LookVersion;
  /** Whether it is updated when newer versions of that look are saved. */
  @IsOptional() @IsBoolean() follows?: boolean;
}

/** A look. */
export class LookDocument {
  @Equals(LOOK_SCHEMA, {
    message: `must be ${LOOK_SCHEMA}: this version of the application reads no other`,
  })
  schema!: number;
  @IsString() @IsNotEmpty() @MaxLength(80) name!: string;
  @IsInt() @Min(0) @Max(0xffffffff) seed!: number;
  /** Whether the clip itself lies at the bottom. If not, the layers stand on transparency. */
  @IsBoolean() bedrock!: boolean;
  /**
   * Whether it may cover more of the frame than the clip does. Default: what it adds is confined to
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
  /** Other looks that its layers start from. Their frames and retimes are ignored. */
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
  /** Inspection flags that it raises on purpose: they are shown as intended and not counted. */
  @IsOptional() @IsArray() @ArrayUnique() @IsIn(MEANABLE, { each: true }) means?: Meanable[];
  @IsOptional()
  @IsArray()
  @ArrayMaxSize(16)
  @IsObject({ each: true })
  @ValidateNested({ each: true })
  @Type(() => PinAsk)
  pins?: PinAsk[];
  /** The frame it composes in. Default: the project's. */
  @IsOptional() @IsObject() @ValidateNested() @Type(() => LookFrame) frame?: LookFrame;
  /** What moves in it. */
  @IsOptional()
  @IsArray()
  @ArrayMaxSize(64)
  @IsObject({ each: true })
  @ValidateNested({ each: true })
  @Type(() => Mover)
  movers?: Mover[];
  /** When it acts. Outside, the bedrock is shown. */
  @IsOptional() @IsObject() @ValidateNested() @Type(() => SpanUse) span?: SpanUse;
  /** How it retimes clips. Default: not at all. */
  @IsOptional() @IsObject() @ValidateNested() @Type(() => RetimeUse) retime?: RetimeUse;
}

/** What a look asks of clips before anything is computed: its pins and its frame. */
export type Asking = Pick<LookDocument, 'pins' | 'frame'>;

/** Key of the dial that every look has first. */
export const STRENGTH = 'strength';
/** The strength dial, 0…100 %. */
export const strengthDial = (value = 100): Dial => ({
  key: STRENGTH,
  label: 'Strength',
  kind: 'number',
  min: 0,
  max: 100,
  unit: '%',
  value,
});

/** A look without layers. */
export const emptyLook = (name: string, seed = 1): LookDocument => ({
  schema: LOOK_SCHEMA,
  name,
  seed,
  bedrock: true,
  layers: [],
  dials: [strengthDial()],
});
