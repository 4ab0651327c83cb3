/** Bodies of requests, as classes that validate them. */
import 'reflect-metadata';
import {
  BETWEEN,
  type Between,
  FASTEST,
  LONGEST_HOLD,
  MOST_PLACES,
  RETIME_WAYS,
  type RetimeWay,
  SLOWEST,
} from '../../core/time';
import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
  ArrayMinSize,
  IsArray,
  IsBoolean,
  IsIn,
  IsInt,
  IsNotEmpty,
  IsNumber,
  IsObject,
  IsOptional,
  IsString,
  IsUUID,
  Max,
  MaxLength,
  Min,
  ValidateBy,
  ValidateIf,
  ValidateNested,
} from 'class-validator';
import {
  BalanceNumbers,
  isPinValue,
  MOST_PINS,
  ReframeNumbers,
  type ClipPins,
  ENCODINGS,
  type EncodingId,
  type Fit,
  FIELDS,
  type Fields,
  FLAG_WORDS,
  MATRICES,
  type MatrixId,
  type Siting,
  SITINGS,
  type CutDecisions,
} from '../../core';
import type { AcceptedFlags, TrimsByLook } from '../../server/database/columns';
import { type Effort, EFFORTS, FORMATS, type FormatId } from '../../server/render/write';

/** A new project. */
export class NewProject {
  @IsString() @IsNotEmpty({ message: 'a project needs a name' }) @MaxLength(80) name!: string;
  @IsInt() @Min(16) @Max(8192) width!: number;
  @IsInt() @Min(16) @Max(8192) height!: number;
  @IsInt() @Min(1) @Max(240000) rateNum!: number;
  @IsInt() @Min(1) @Max(1001) rateDen!: number;
}
/** Changes of a project. */
export class ProjectPart {
  @IsOptional()
  @IsString()
  @IsNotEmpty({ message: 'a project needs a name' })
  @MaxLength(80)
  name?: string;
  /** Removed or restored. */
  @IsOptional() @IsBoolean() removed?: boolean;
}
/** Changes of a version. */
export class VersionPart {
  /** Removed or restored. */
  @IsBoolean() removed!: boolean;
}
/** A new import. */
export class NewImport {
  @IsString() @IsNotEmpty() @MaxLength(200) name!: string;
  @IsArray()
  @ArrayMinSize(1, { message: 'no files were chosen' })
  @ArrayMaxSize(20000)
  @IsString({ each: true })
  @MaxLength(200, { each: true })
  files!: string[];
  @IsOptional() @IsIn(['clip', 'plate']) role?: 'clip' | 'plate';
}
const COLOUR_SIZE = 3;
const isDialValue = (v: unknown): boolean =>
  typeof v === 'boolean' ||
  (typeof v === 'number' && Number.isFinite(v)) ||
  (Array.isArray(v) &&
    v.length === COLOUR_SIZE &&
    v.every((x) => typeof x === 'number' && Number.isFinite(x)));
const isRecord = (v: unknown, value: (x: unknown) => boolean, most = 200): boolean =>
  typeof v === 'object' &&
  v !== null &&
  !Array.isArray(v) &&
  Object.keys(v).length <= most &&
  Object.values(v).every(value);
const TRIMS = {
  name: 'trims',
  validator: {
    validate: (v: unknown) => isRecord(v, (byDial) => isRecord(byDial, isDialValue)),
    defaultMessage: () => 'trims must be, by look and by dial, numbers, colours or switches',
  },
};

const PINS = {
  name: 'pins',
  validator: {
    validate: (v: unknown) =>
      isRecord(v, (all) => Array.isArray(all) && all.length <= MOST_PINS && all.every(isPinValue)),
    defaultMessage: () =>
      'pins must be, by name, lists of frames, of places or lines in shares of the picture, or of footage with its start and speed',
  },
};
const ACCEPTED = {
  name: 'accepted',
  validator: {
    validate: (v: unknown) =>
      isRecord(v, (a) => {
        const { reason, worst } = (a ?? {}) as Record<string, unknown>;
        return (
          typeof reason === 'string' &&
          reason.length > 0 &&
          reason.length <= 300 &&
          Number.isFinite(worst)
        );
      }) && Object.keys(v as object).every((kind) => kind in FLAG_WORDS),
    defaultMessage: () => 'a flag is accepted with a reason of 1 to 300 letters',
  },
};

class PlaceNumbers {
  @IsInt() @Min(0) @Max(10_000_000) frame!: number;
  @IsNumber()
  @Min(SLOWEST, { message: `a speed is ${SLOWEST} to ${FASTEST} per cent` })
  @Max(FASTEST)
  speed!: number;
  @IsIn(RETIME_WAYS) to!: RetimeWay;
  @IsOptional() @IsNumber() @Min(0) @Max(LONGEST_HOLD) hold?: number;
}
class InOutNumbers {
  @IsInt() @Min(0) in!: number;
  @IsInt() @Min(0) out!: number;
}
const IN_OUT = {
  name: 'in and out',
  validator: {
    validate: (v: unknown) => ((v ?? {}) as InOutNumbers).in <= ((v ?? {}) as InOutNumbers).out,
    defaultMessage: () => 'a clip’s in lies before its out',
  },
};
const MOST_CUTS = 5000;
const CUTS_SAID = {
  name: 'cuts',
  validator: {
    validate: (v: unknown) =>
      isRecord(v, (what) => what === 'cut' || what === 'none', MOST_CUTS) &&
      Object.keys(v as object).every((frame) => /^\d{1,8}$/.test(frame)),
    defaultMessage: () => 'a cut is a frame of the footage, and there is one or none',
  },
};
class RetimeNumbers {
  @IsArray()
  @ArrayMinSize(1)
  @ArrayMaxSize(MOST_PLACES)
  @IsObject({ each: true })
  @ValidateBy({
    name: 'ordered',
    validator: {
      validate: (v: unknown) =>
        Array.isArray(v) &&
        (v as PlaceNumbers[]).every((p, i, all) => i === 0 || p.frame > all[i - 1]!.frame),
      defaultMessage: () => 'the places of a retime stand in order, each on a frame of its own',
    },
  })
  @ValidateNested({ each: true })
  @Type(() => PlaceNumbers)
  places!: PlaceNumbers[];
  @IsBoolean() backwards!: boolean;
  @IsIn(BETWEEN) between!: Between;
}
class PlateNumbers {
  @IsNumber() @Min(0) @Max(0.9) black!: number;
  @IsNumber() @Min(0.1) @Max(1) white!: number;
}

/** A request to make footage progressive. */
export class NewProgressive {
  /** Frames made from each pair of fields. */
  @IsIn([1, 2]) each!: 1 | 2;
}
/** A request to measure motion. */
export class MotionFrom {
  /** The frame to start with. */
  @IsInt() @Min(0) @Max(10_000_000) from!: number;
}
const KEPT_AS = ['page', 'yuv420p', 'gbrp16le'] as const;
/** A request to bake frames. */
export class FramesToBake {
  @IsObject() document!: object;
  @IsInt() @Min(0) @Max(10_000_000) first!: number;
  @IsInt() @Min(0) @Max(10_000_000) last!: number;
  @IsInt() @Min(2) @Max(8192) width!: number;
  @IsInt() @Min(2) @Max(8192) height!: number;
  /** The form of frames: a page's bytes, or samples for MP4, or for FFV1 and PNG. */
  @IsIn(KEPT_AS) keeps!: (typeof KEPT_AS)[number];
}
/** Cache keys of baked frames. */
export class KeptNames {
  @IsArray()
  @ArrayMaxSize(20_000)
  @IsString({ each: true })
  @MaxLength(200, { each: true })
  names!: string[];
}
class SamplingNames {
  @IsOptional() @IsIn(MATRICES) matrix?: MatrixId;
  @IsOptional() @IsIn(SITINGS) siting?: Siting;
  @IsOptional() @IsIn(FIELDS) fields?: Fields;
}

/** Any part of the decisions about a clip. */
class ClipPart {
  @IsOptional()
  @IsString()
  @IsNotEmpty({ message: 'a clip needs a name' })
  @MaxLength(120)
  name?: string;
  @IsOptional() @IsIn(ENCODINGS) encoding?: EncodingId;
  @IsOptional()
  @ValidateIf((p: ClipPart) => p.sampling !== null)
  @IsObject()
  @ValidateNested()
  @Type(() => SamplingNames)
  sampling?: SamplingNames | null;
  @IsOptional() @ValidateIf((p: ClipPart) => p.version !== null) @IsUUID() version?: string | null;
  @IsOptional() @IsBoolean() follows?: boolean;
  @IsOptional() @ValidateBy(TRIMS) trims?: TrimsByLook;
  @IsOptional() @ValidateBy(PINS) pins?: ClipPins;
  @IsOptional()
  @ValidateIf((p: ClipPart) => p.balance !== null)
  @IsObject()
  @ValidateNested()
  @Type(() => BalanceNumbers)
  balance?: BalanceNumbers | null;
  @IsOptional()
  @ValidateIf((p: ClipPart) => p.plate !== null)
  @IsObject()
  @ValidateNested()
  @Type(() => PlateNumbers)
  plate?: PlateNumbers | null;
  @IsOptional()
  @ValidateIf((p: ClipPart) => p.reframe !== null)
  @IsObject()
  @ValidateNested()
  @Type(() => ReframeNumbers)
  reframe?: ReframeNumbers | null;
  @IsOptional()
  @ValidateIf((p: ClipPart) => p.inOut !== null)
  @IsObject()
  @ValidateBy(IN_OUT)
  @ValidateNested()
  @Type(() => InOutNumbers)
  inOut?: InOutNumbers | null;
  @IsOptional() @ValidateBy(CUTS_SAID) cutsSaid?: CutDecisions;
  @IsOptional()
  @ValidateIf((p: ClipPart) => p.retime !== null)
  @IsObject()
  @ValidateNested()
  @Type(() => RetimeNumbers)
  retime?: RetimeNumbers | null;
  @IsOptional() @IsIn(['fit', 'fill']) fit?: Fit;
  @IsOptional() @ValidateBy(ACCEPTED) accepted?: AcceptedFlags;
  @IsOptional() @IsIn(['open', 'in work', 'agreed']) status?: 'open' | 'in work' | 'agreed';
  @IsOptional() @IsString() @MaxLength(500) note?: string;
  @IsOptional() @IsIn(['clip', 'plate']) role?: 'clip' | 'plate';
  @IsOptional() @IsString() @MaxLength(60) scene?: string;
}
class OneClipEdit {
  @IsUUID() clip!: string;
  /** The values to be replaced. If the clip has others, someone else changed it meanwhile. */
  @IsObject() @ValidateNested() @Type(() => ClipPart) was!: ClipPart;
  @IsObject() @ValidateNested() @Type(() => ClipPart) to!: ClipPart;
}
/** Changes of several clips. */
export class ClipEdits {
  @IsArray()
  @ArrayMinSize(1, { message: 'choose at least one clip' })
  @ArrayMaxSize(5000)
  @IsObject({ each: true })
  @ValidateNested({ each: true })
  @Type(() => OneClipEdit)
  clips!: OneClipEdit[];
}
/** A request to split a clip. */
export class SplitBefore {
  /** Frames of the footage. */
  @IsArray()
  @ArrayMinSize(1)
  @ArrayMaxSize(MOST_CUTS)
  @IsInt({ each: true })
  @Min(0, { each: true })
  frames!: number[];
}
/** A reference to keep. */
export class NewReference {
  @IsString() @IsNotEmpty({ message: 'a reference needs a name' }) @MaxLength(80) name!: string;
  @IsUUID() clip!: string;
  @IsInt() @Min(0) frame!: number;
  @ValidateIf((r: NewReference) => r.version !== null) @IsUUID() version!: string | null;
  @IsObject() document!: object;
  /** A PNG in base64. */
  @IsString() @MaxLength(16_000_000) picture!: string;
}
/** A new look. */
export class NewLook {
  @IsObject() document!: object;
}
/** A new version of a look. */
export class NewVersion {
  @IsObject() document!: object;
  @IsInt() @Min(0) basedOn!: number;
  /**
   * The clips that follow the look, as shown to the user: those that move to this version, and
   * those that stay.
   */
  @IsArray() @ArrayMaxSize(5000) @IsUUID('all', { each: true }) follow!: string[];
  @IsArray() @ArrayMaxSize(5000) @IsUUID('all', { each: true }) stay!: string[];
}
/** A request for a delivery. */
export class NewDelivery {
  @IsArray()
  @ArrayMinSize(1, { message: 'choose at least one clip' })
  @ArrayMaxSize(5000)
  @IsUUID('all', { each: true })
  clips!: string[];
  @IsIn(FORMATS) format!: FormatId;
  @IsInt() @Min(2) @Max(8192) width!: number;
  @IsInt() @Min(2) @Max(8192) height!: number;
  /** Write coverage beside the picture, for formats that can. */
  @IsOptional() @IsBoolean() coverage?: boolean;
  /** For H.264: encoding time against file size. */
  @IsOptional() @IsIn(EFFORTS) effort?: Effort;
}
/** A request for inspections. */
export class NewInspections {
  @IsArray()
  @ArrayMinSize(1, { message: 'choose at least one clip' })
  @ArrayMaxSize(5000)
  @IsUUID('all', { each: true })
  clips!: string[];
  /** Include those that were stopped or failed. */
  @IsBoolean() again!: boolean;
}
