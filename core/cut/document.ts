/**
 * The cut: rows of places in project frames, and sounds in samples at `SOUND_RATE`. A place names a
 * clip and holds its own in, length, speed and framing; the clip keeps look, pins, trims, balance.
 */
import 'reflect-metadata';
import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
  ArrayMinSize,
  Equals,
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
  Matches,
  Max,
  MaxLength,
  Min,
  ValidateBy,
  ValidateNested,
} from 'class-validator';
import { ReframeNumbers } from '../clip';
import { BLEND_IDS, type BlendId } from '../compositing';
import { IsDialValues, MOST_CHANCE, RetimeNumbers } from '../decisions';
import { type DialValues, KEY, keyRule } from '../look';
import { FITS, type Fit, type Reframe } from '../image';
import type { FrameIndex, Retime } from '../time';

/** Number of the schema. */
export const CUT_SCHEMA = 1;
/** Longest cut: four hours at 100 frames per second, and the same in samples. */
export const MOST_FRAMES = 1_440_000,
  MOST_SAMPLES = 691_200_000;
/** Most rows, places of a row, sounds, and markers. */
export const MOST_ROWS = 12,
  MOST_IN_ROW = 2000,
  MOST_SOUNDS = 500,
  MOST_MARKERS = 2000;
/** Levels of sounds, dB. */
export const QUIETEST = -60,
  LOUDEST = 12;
/** How a fade of sound runs. */
export const SOUND_CURVES = ['equal-power', 'linear'] as const;
/** One of `SOUND_CURVES`. */
export type SoundCurve = (typeof SOUND_CURVES)[number];

/** A look that a cut uses: a transition that ships, or a version of a look, with dials of its own. */
export class CutLook {
  /** Id of a shipped transition, or of a version. */
  @IsString() @IsNotEmpty() @MaxLength(64) look!: string;
  @IsOptional() @IsDialValues dials?: DialValues;
}

/** Keys of rows by keys of pins. */
const IsAnswers = ValidateBy({
  name: 'answers',
  validator: {
    validate: (v: unknown) =>
      typeof v === 'object' &&
      v !== null &&
      !Array.isArray(v) &&
      Object.entries(v).every(
        ([pin, row]) => KEY.test(pin) && typeof row === 'string' && KEY.test(row),
      ),
    defaultMessage: () => 'answers must be keys of rows, by the keys of pins',
  },
});

/** What a place's own sound does; absent where it is silent. */
export class PlaceSound {
  /** dB. */
  @IsNumber() @Min(QUIETEST) @Max(LOUDEST) level!: number;
}

/** A clip standing in a row. */
export class Place {
  @Matches(KEY, keyRule) key!: string;
  /** Id of its clip. */
  @IsUUID() clip!: string;
  /** Where it begins, in project frames. */
  @IsInt() @Min(0) @Max(MOST_FRAMES) at!: FrameIndex;
  /** Its length, in project frames. */
  @IsInt() @Min(1) @Max(MOST_FRAMES) frames!: number;
  /** The frame of the footage that it begins with. */
  @IsInt() @Min(0) in!: FrameIndex;
  /** Instead of the clip's; null for the original speed. Places count in frames of the footage. */
  @IsOptional() @IsObject() @ValidateNested() @Type(() => RetimeNumbers) retime?: Retime | null;
  @IsOptional() @IsIn(FITS) fit?: Fit;
  @IsOptional() @IsObject() @ValidateNested() @Type(() => ReframeNumbers) reframe?: Reframe;
  /** Number of its chance, instead of the clip's; and frames counted before its first. */
  @IsOptional() @IsInt() @Min(0) @Max(MOST_CHANCE) chance?: number;
  @IsOptional() @IsInt() @Min(-MOST_FRAMES) @Max(MOST_FRAMES) counts?: number;
  /** How it lies over what is below its row. Default: normal, all of it. */
  @IsOptional() @IsIn(BLEND_IDS) blend?: BlendId;
  @IsOptional() @IsNumber() @Min(0) @Max(100) opacity?: number;
  /** Project frames over which its picture comes and goes. */
  @IsOptional() @IsInt() @Min(0) @Max(MOST_FRAMES) comes?: number;
  @IsOptional() @IsInt() @Min(0) @Max(MOST_FRAMES) goes?: number;
  /** The look of its overlap with what stands before it in its row. Default: it covers that. */
  @IsOptional() @IsObject() @ValidateNested() @Type(() => CutLook) enters?: CutLook;
  @IsOptional() @IsObject() @ValidateNested() @Type(() => PlaceSound) sound?: PlaceSound;
  /** Rows above that answer its look's pins of footage, by the pins' keys; others are the clip's. */
  @IsOptional() @IsAnswers answers?: Readonly<Record<string, string>>;
}

/** Places one after another or overlapping; later ones lie above, and so do higher rows. */
export class Row {
  @Matches(KEY, keyRule) key!: string;
  @IsString() @MaxLength(60) name!: string;
  @IsArray()
  @ArrayMaxSize(MOST_IN_ROW)
  @IsObject({ each: true })
  @ValidateNested({ each: true })
  @Type(() => Place)
  places!: readonly Place[];
  /** It is not shown itself: it is there for pins of the rows below. */
  @IsOptional() @IsBoolean() material?: boolean;
}

/** A sound of the project standing in the cut. */
export class CutSound {
  @Matches(KEY, keyRule) key!: string;
  /** Id of the sound. */
  @IsUUID() sound!: string;
  /** Where it begins, and the sample of the sound that it begins with. */
  @IsInt() @Min(0) @Max(MOST_SAMPLES) at!: number;
  @IsInt() @Min(0) @Max(MOST_SAMPLES) from!: number;
  /** Its length in samples. */
  @IsInt() @Min(1) @Max(MOST_SAMPLES) samples!: number;
  /** dB. */
  @IsNumber() @Min(QUIETEST) @Max(LOUDEST) level!: number;
  /** −100 left … 100 right. */
  @IsOptional() @IsNumber() @Min(-100) @Max(100) pan?: number;
  @IsOptional() @IsBoolean() mute?: boolean;
  /** Samples over which it comes and goes, and how. Default: at once. */
  @IsOptional() @IsInt() @Min(0) @Max(MOST_SAMPLES) comes?: number;
  @IsOptional() @IsInt() @Min(0) @Max(MOST_SAMPLES) goes?: number;
  @IsOptional() @IsIn(SOUND_CURVES) curve?: SoundCurve;
}

/** A named frame. */
export class Marker {
  @Matches(KEY, keyRule) key!: string;
  @IsInt() @Min(0) @Max(MOST_FRAMES) at!: FrameIndex;
  @IsString() @MaxLength(120) words!: string;
}

/** A cut. */
export class CutDocument {
  @Equals(CUT_SCHEMA, {
    message: `must be ${CUT_SCHEMA}: this version of the application reads no other`,
  })
  schema!: number;
  /** From below; the first is the cut's own row. */
  @IsArray()
  @ArrayMinSize(1)
  @ArrayMaxSize(MOST_ROWS)
  @IsObject({ each: true })
  @ValidateNested({ each: true })
  @Type(() => Row)
  rows!: readonly Row[];
  @IsArray()
  @ArrayMaxSize(MOST_SOUNDS)
  @IsObject({ each: true })
  @ValidateNested({ each: true })
  @Type(() => CutSound)
  sounds!: readonly CutSound[];
  @IsArray()
  @ArrayMaxSize(MOST_MARKERS)
  @IsObject({ each: true })
  @ValidateNested({ each: true })
  @Type(() => Marker)
  markers!: readonly Marker[];
  /** Key of the sound that the page of music follows. Default: the first. */
  @IsOptional() @Matches(KEY, keyRule) song?: string;
  /** One look over everything. */
  @IsOptional() @IsObject() @ValidateNested() @Type(() => CutLook) whole?: CutLook;
}

/** A cut with nothing in it. */
export const emptyCut = (): CutDocument => ({
  schema: CUT_SCHEMA,
  rows: [{ key: 'row', name: '', places: [] }],
  sounds: [],
  markers: [],
});

/** All places of a cut, from the lowest row up. */
export const allPlaces = (cut: CutDocument): readonly Place[] => cut.rows.flatMap((r) => r.places);
/** The project frame after a place's last. */
export const endOf = ({ at, frames }: Pick<Place, 'at' | 'frames'>): FrameIndex => at + frames;
