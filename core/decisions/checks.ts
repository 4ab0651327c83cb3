/** What decisions about clips may be: classes and validators for class-validator. */
import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
  ArrayMinSize,
  IsArray,
  IsBoolean,
  IsIn,
  IsInt,
  IsNumber,
  IsObject,
  IsOptional,
  Max,
  Min,
  ValidateBy,
  ValidateNested,
} from 'class-validator';
import { isPinValue, MOST_PINS } from '../clip';
import {
  FIELDS,
  type Fields,
  MATRICES,
  type MatrixId,
  type Sampling,
  type Siting,
  SITINGS,
} from '../image';
import { FLAG_WORDS } from '../measure';
import {
  BETWEEN,
  type Chance,
  type Between,
  FASTEST,
  LONGEST_HOLD,
  MOST_PLACES,
  type Retime,
  RETIME_WAYS,
  type RetimeWay,
  SLOWEST,
} from '../time';

const COLOUR_SIZE = 3,
  LAST_FRAME = 10_000_000,
  MOST_CUTS = 5000,
  MOST_REASON = 300;

const isDialValue = (v: unknown): boolean =>
  typeof v === 'boolean' ||
  Number.isFinite(v) ||
  (Array.isArray(v) && v.length === COLOUR_SIZE && v.every((x) => Number.isFinite(x)));
const isRecord = (v: unknown, value: (x: unknown) => boolean, most = 200): boolean =>
  typeof v === 'object' &&
  v !== null &&
  !Array.isArray(v) &&
  Object.keys(v).length <= most &&
  Object.values(v).every(value);
const isAcceptance = (v: unknown): boolean => {
  const { reason, worst } = (v ?? {}) as Record<string, unknown>;
  return (
    typeof reason === 'string' &&
    reason.length > 0 &&
    reason.length <= MOST_REASON &&
    Number.isFinite(worst)
  );
};
const validated = (
  name: string,
  validate: (v: unknown) => boolean,
  message: string,
): PropertyDecorator =>
  ValidateBy({ name, validator: { validate, defaultMessage: () => message } });

/** Dial values by dial. */
export const IsDialValues = validated(
  'dials',
  (v) => isRecord(v, isDialValue),
  'dials must be, by their key, numbers, colours or switches',
);
/** Dial values by look and by dial. */
export const IsTrims = validated(
  'trims',
  (v) => isRecord(v, (byDial) => isRecord(byDial, isDialValue)),
  'trims must be, by look and by dial, numbers, colours or switches',
);
/** Lists of pins by name. */
export const IsPins = validated(
  'pins',
  (v) =>
    isRecord(v, (all) => Array.isArray(all) && all.length <= MOST_PINS && all.every(isPinValue)),
  'pins must be, by name, lists of frames, of places or lines in shares of the picture, or of footage with its start and speed',
);
/** Flags accepted with a reason, by kind. */
export const IsAccepted = validated(
  'accepted',
  (v) => isRecord(v, isAcceptance) && Object.keys(v as object).every((kind) => kind in FLAG_WORDS),
  `a flag is accepted with a reason of 1 to ${MOST_REASON} letters`,
);
/** Cuts by the frame of the footage. */
export const IsCutDecisions = validated(
  'cuts',
  (v) =>
    isRecord(v, (what) => what === 'cut' || what === 'none', MOST_CUTS) &&
    Object.keys(v as object).every((frame) => /^\d{1,8}$/.test(frame)),
  'a cut is a frame of the footage, and there is one or none',
);
/** In before out. */
export const IsInBeforeOut = validated(
  'in and out',
  (v) => ((v ?? {}) as InOutNumbers).in <= ((v ?? {}) as InOutNumbers).out,
  'a clip’s in lies before its out',
);

/** The first and the last frame of a clip in its footage. */
export class InOutNumbers {
  @IsInt() @Min(0) in!: number;
  @IsInt() @Min(0) out!: number;
}
/** Largest number of a chance. */
export const MOST_CHANCE = 9999;
/** A clip's chance. */
export class ChanceNumbers implements Chance {
  @IsInt() @Min(0) @Max(MOST_CHANCE) number!: number;
  @IsInt() @Min(-LAST_FRAME) @Max(LAST_FRAME) from!: number;
}
/** Corrections of a file's tags. */
export class SamplingNames implements Sampling {
  @IsOptional() @IsIn(MATRICES) matrix?: MatrixId;
  @IsOptional() @IsIn(SITINGS) siting?: Siting;
  @IsOptional() @IsIn(FIELDS) fields?: Fields;
}
/** Black and white points of a plate. */
export class PlateNumbers {
  @IsNumber() @Min(0) @Max(0.9) black!: number;
  @IsNumber() @Min(0.1) @Max(1) white!: number;
}
class PlaceNumbers {
  @IsInt() @Min(0) @Max(LAST_FRAME) frame!: number;
  @IsNumber()
  @Min(SLOWEST, { message: `a speed is ${SLOWEST} to ${FASTEST} per cent` })
  @Max(FASTEST)
  speed!: number;
  @IsIn(RETIME_WAYS) to!: RetimeWay;
  @IsOptional() @IsNumber() @Min(0) @Max(LONGEST_HOLD) hold?: number;
}
/** A retime, its places in order. */
export class RetimeNumbers implements Retime {
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
