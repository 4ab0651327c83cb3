/** Bodies of requests, as classes that validate them. */
import 'reflect-metadata';
import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
  ArrayMinSize,
  IsArray,
  IsBoolean,
  IsIn,
  IsInt,
  IsNotEmpty,
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
  type ClipDecisions,
  DECISION_IDS,
  DECISIONS,
  type Effort,
  EFFORTS,
  FORMAT_IDS,
  type FormatId,
  isPlaceValue,
  KEPT_GAPS,
  type KeptGaps,
  type Mark,
  mayBeNone,
  MOST_MARKS,
  MOST_SMOOTH,
  PLACE_KIND_IDS,
  type PlaceKindId,
  COUNTED,
  MOST_OF_A_BAR,
} from '../../core';

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
const MOST_CUTS = 5000;

/** A request to make footage progressive. */
export class NewProgressive {
  /** Frames made from each pair of fields. */
  @IsIn([1, 2]) each!: 1 | 2;
}
/** A request to bring a sequence in again. */
export class NewGaps {
  /** What stands where pictures are missing. */
  @IsIn(KEPT_GAPS) gaps!: KeptGaps;
}
/** A request to make an asset. */
export class AssetFrom {
  /** The frame to start with. */
  @IsInt() @Min(0) @Max(10_000_000) from!: number;
}
const LAST_FRAME = 10_000_000;
const isMark = (v: unknown): boolean => {
  if (typeof v !== 'object' || v === null) return false;
  const { frame, ...place } = v as Mark;
  return Number.isInteger(frame) && frame >= 0 && frame <= LAST_FRAME && isPlaceValue(place);
};
/** A list of marks. */
const IsMarks = (none: string): PropertyDecorator => {
  const all = [
    IsArray(),
    ArrayMinSize(1, { message: none }),
    ArrayMaxSize(MOST_MARKS),
    ValidateBy(
      { name: 'isMark', validator: { validate: isMark } },
      {
        each: true,
        message:
          'a mark is a frame with a point (x, y), a line (x2, y2), an oval (rx, ry, turn) or the nodes of an outline',
      },
    ),
  ];
  return (target, key) => all.forEach((check) => check(target, key));
};
/** A new trace. */
export class NewTrace {
  @IsString() @IsNotEmpty({ message: 'a trace needs a name' }) @MaxLength(60) name!: string;
  /** What is marked. Default: a point. */
  @IsOptional() @IsIn(PLACE_KIND_IDS) kind?: PlaceKindId;
  @IsBoolean() follow!: boolean;
  @IsOptional() @IsInt() @Min(0) @Max(MOST_SMOOTH) smooth?: number;
  @IsMarks('a trace needs a mark') marks!: Mark[];
  /** Its id, where it was taken away and comes back. */
  @IsOptional() @IsUUID() id?: string;
}
/** Changes of a trace. */
export class TracePart {
  @IsOptional()
  @IsString()
  @IsNotEmpty({ message: 'a trace needs a name' })
  @MaxLength(60)
  name?: string;
  @IsOptional() @IsBoolean() follow?: boolean;
  @IsOptional() @IsInt() @Min(0) @Max(MOST_SMOOTH) smooth?: number;
  @IsOptional() @IsMarks('a trace needs a mark: take the trace away instead') marks?: Mark[];
}
/** What is said of a sound's beats. */
export class BeatsPart {
  @IsIn(COUNTED) counted!: (typeof COUNTED)[number];
  @IsBoolean() odd!: boolean;
  @IsInt() @Min(1) @Max(MOST_OF_A_BAR) bar!: number;
  @IsInt() @Min(0) @Max(MOST_OF_A_BAR - 1) begins!: number;
}
/** Changes of a sound. */
export class SoundPart {
  @IsOptional()
  @IsString()
  @IsNotEmpty({ message: 'a sound needs a name' })
  @MaxLength(60)
  name?: string;
  @IsOptional() @IsBoolean() removed?: boolean;
  @IsOptional() @IsObject() @ValidateNested() @Type(() => BeatsPart) beats?: BeatsPart;
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
/** Any part of the decisions about a clip: each is checked as it is declared. */
class ClipPart {}
for (const id of DECISION_IDS) {
  const present = (part: Partial<ClipDecisions>): boolean =>
    part[id] !== undefined && !(mayBeNone(id) && part[id] === null);
  for (const check of [ValidateIf(present), ...DECISIONS[id].checks]) check(ClipPart.prototype, id);
}
class OneClipEdit {
  @IsUUID() clip!: string;
  /** The values to be replaced. If the clip has others, someone else changed it meanwhile. */
  @IsObject() @ValidateNested() @Type(() => ClipPart) was!: Partial<ClipDecisions>;
  @IsObject() @ValidateNested() @Type(() => ClipPart) to!: Partial<ClipDecisions>;
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
export class CutDelivery {
  @IsIn(FORMAT_IDS) format!: FormatId;
  @IsInt() @Min(2) @Max(8192) width!: number;
  @IsInt() @Min(2) @Max(8192) height!: number;
  /** Write coverage beside the picture, for formats that can. */
  @IsOptional() @IsBoolean() coverage?: boolean;
  /** For H.264: encoding time against file size. */
  @IsOptional() @IsIn(EFFORTS) effort?: Effort;
}
/** A request for a delivery of clips one by one. */
export class NewDelivery extends CutDelivery {
  @IsArray()
  @ArrayMinSize(1, { message: 'choose at least one clip' })
  @ArrayMaxSize(5000)
  @IsUUID('all', { each: true })
  clips!: string[];
}
/** A cut in place of a revision. */
export class CutPart {
  /** By the schema of cuts. */
  @IsObject() document!: object;
  /** The revision that it was made from; 0 for the first. */
  @IsInt() @Min(0) revision!: number;
}
/** A version of a cut. */
export class NewCutVersion {
  @IsString() @IsNotEmpty({ message: 'a version needs a name' }) @MaxLength(80) name!: string;
}
/** A question where a sound lies in another. */
export class AlignmentAsk {
  /** The clip whose own sound it is, or the sound. */
  @IsOptional() @IsUUID() clip?: string;
  @IsOptional() @IsUUID() sound?: string;
  /** The sound in which it lies. */
  @IsUUID() to!: string;
}
/** A request to bake a cut for playing. */
export class CutToBake {
  @IsInt() @Min(16) @Max(4096) width!: number;
  @IsInt() @Min(16) @Max(4096) height!: number;
  /** The project frame to begin with. */
  @IsInt() @Min(0) @Max(10_000_000) from!: number;
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
