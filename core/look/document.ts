/** The look document: what is saved, exchanged and validated. Lists run from the bedrock up. */
import 'reflect-metadata';
import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
  ArrayMinSize,
  ArrayUnique,
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
import { BLEND_IDS, type BlendId } from '../compositing';
import { type Combination, COMBINATIONS } from '../mattes';
import { type Ellipse, type Mixing, MIXINGS, type ParameterValue } from '../parameters';
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

export const LOOK_SCHEMA = 3;

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

const KEY = /^[a-z0-9][a-z0-9-]{0,39}$/;
const keyRule = { message: 'must be a key of small letters, digits and dashes' };

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
