/** Validation of pins; the endpoint that changes clips uses it. */
import { plainToInstance } from 'class-transformer';
import {
  ArrayMaxSize,
  ArrayMinSize,
  IsArray,
  IsBoolean,
  IsIn,
  IsNumber,
  IsOptional,
  Max,
  Min,
  validateSync,
} from 'class-validator';
import { type Fit, FITS } from '../image';
import type { Colour } from '../parameters';
import { hasOnly, isPlaceValue } from '../places';
import { CDL_SPACES, type CdlSpace } from '../steps';
import { BEYOND, type Beyond, type PinValue } from './pins';

/** Largest number of values of one pin. */
export const MOST_PINS = 64;

/** A balance in a request: the ten numbers of an ASC CDL, and the space they act in. */
export class BalanceNumbers {
  @IsArray()
  @ArrayMinSize(3)
  @ArrayMaxSize(3)
  @IsNumber({}, { each: true })
  @Min(0, { each: true })
  @Max(8, { each: true })
  slope!: Colour;
  @IsArray()
  @ArrayMinSize(3)
  @ArrayMaxSize(3)
  @IsNumber({}, { each: true })
  @Min(-2, { each: true })
  @Max(2, { each: true })
  offset!: Colour;
  @IsArray()
  @ArrayMinSize(3)
  @ArrayMaxSize(3)
  @IsNumber({}, { each: true })
  @Min(0.05, { each: true })
  @Max(8, { each: true })
  power!: Colour;
  @IsNumber() @Min(0) @Max(4) saturation!: number;
  @IsOptional() @IsIn(Object.keys(CDL_SPACES)) on?: CdlSpace;
  @IsOptional() @IsBoolean() hold?: boolean;
}
/** A reframe in a request. */
export class ReframeNumbers {
  /** Places a little outside the picture are allowed. */
  @IsNumber() @Min(-1) @Max(2) x!: number;
  @IsNumber() @Min(-1) @Max(2) y!: number;
  @IsNumber() @Min(10) @Max(1000) closer!: number;
}
const isUuid = (v: unknown): boolean =>
  typeof v === 'string' && /^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/.test(v);
const isKind = (v: unknown, Kind: new () => object): boolean =>
  typeof v === 'object' &&
  v !== null &&
  validateSync(plainToInstance(Kind, v), { whitelist: true, forbidNonWhitelisted: true }).length ===
    0;
const isBalance = (v: unknown): boolean => isKind(v, BalanceNumbers);
const isMoment = (v: unknown): boolean =>
  v === 'end' ||
  (typeof v === 'object' &&
    v !== null &&
    hasOnly(v, ['cue']) &&
    typeof (v as { cue: unknown }).cue === 'string' &&
    (v as { cue: string }).cue.length <= 40);
/** Optional fields of a footage pin, with their checks. */
const MORE: Readonly<Record<string, (v: unknown) => boolean>> = {
  beyond: (v) => BEYOND.includes(v as Beyond),
  balance: isBalance,
  fit: (v) => FITS.includes(v as Fit),
  reframe: (v) => isKind(v, ReframeNumbers),
  at: isMoment,
};
/** Whether a value is a valid pin: a frame, a place, a trace, or footage with start and speed. */
export const isPinValue = (v: unknown): v is PinValue => {
  if (typeof v !== 'object' || v === null) return false;
  const { frame, hash, start, speed } = v as Record<string, unknown>;
  if (hasOnly(v, ['trace'])) return isUuid((v as { trace: unknown }).trace);
  if (hasOnly(v, ['frame'])) return Number.isInteger(frame) && (frame as number) >= 0;
  if (isPlaceValue(v)) return true;
  const more = Object.keys(MORE).filter((key) => key in v);
  if (
    !hasOnly(v, ['hash', 'start', 'speed', ...more]) ||
    !more.every((key) => MORE[key]!((v as Record<string, unknown>)[key]))
  )
    return false;
  return (
    typeof hash === 'string' &&
    /^[0-9a-f]{8,128}$/.test(hash) &&
    Number.isInteger(start) &&
    typeof speed === 'number' &&
    speed > 0 &&
    speed <= 64
  );
};
