/** What the endpoints take, as validated classes. */
import 'reflect-metadata';
import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
  ArrayMinSize,
  IsArray,
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
  ValidateIf,
  ValidateNested,
} from 'class-validator';
import { type Colour, ENCODINGS, type EncodingId, type Fit } from '../../core';
import { FORMATS, type FormatId } from '../../server/render/write';

export class NewProject {
  @IsString() @IsNotEmpty({ message: 'a project needs a name' }) @MaxLength(80) name!: string;
  @IsInt() @Min(16) @Max(8192) width!: number;
  @IsInt() @Min(16) @Max(8192) height!: number;
  @IsInt() @Min(1) @Max(240000) rateNum!: number;
  @IsInt() @Min(1) @Max(1001) rateDen!: number;
}
export class NewImport {
  @IsString() @IsNotEmpty() @MaxLength(200) name!: string;
  @IsArray()
  @ArrayMinSize(1, { message: 'no files were chosen' })
  @ArrayMaxSize(20000)
  @IsString({ each: true })
  @MaxLength(200, { each: true })
  files!: string[];
}
export class ClipChange {
  @IsOptional() @IsString() @IsNotEmpty() @MaxLength(120) name?: string;
  @IsOptional() @IsIn(ENCODINGS) encoding?: EncodingId;
  @IsOptional() @IsIn(['fit', 'fill']) fit?: Fit;
  @IsOptional() @IsIn(['open', 'in work', 'agreed']) status?: 'open' | 'in work' | 'agreed';
  @IsOptional() @IsString() @MaxLength(500) note?: string;
}
class BalanceNumbers {
  @IsArray() @ArrayMinSize(3) @ArrayMaxSize(3) @IsNumber({}, { each: true }) @Min(0, { each: true }) @Max(8, { each: true }) slope!: Colour;
  @IsArray() @ArrayMinSize(3) @ArrayMaxSize(3) @IsNumber({}, { each: true }) @Min(-2, { each: true }) @Max(2, { each: true }) offset!: Colour;
  @IsArray() @ArrayMinSize(3) @ArrayMaxSize(3) @IsNumber({}, { each: true }) @Min(0.05, { each: true }) @Max(8, { each: true }) power!: Colour;
  @IsNumber() @Min(0) @Max(4) saturation!: number;
}
class ClipBalance {
  @IsUUID() clip!: string;
  @ValidateIf((b: ClipBalance) => b.balance !== null) @IsObject() @ValidateNested() @Type(() => BalanceNumbers) balance!: BalanceNumbers | null;
  /** What it replaces: another than this means someone else balanced the clip meanwhile. */
  @ValidateIf((b: ClipBalance) => b.was !== null) @IsObject() @ValidateNested() @Type(() => BalanceNumbers) was!: BalanceNumbers | null;
}
export class Balances {
  @IsArray()
  @ArrayMinSize(1, { message: 'choose at least one clip' })
  @ArrayMaxSize(5000)
  @IsObject({ each: true })
  @ValidateNested({ each: true })
  @Type(() => ClipBalance)
  clips!: ClipBalance[];
}
export class Assignment {
  @IsArray() @ArrayMinSize(1, { message: 'choose at least one clip' }) @ArrayMaxSize(5000) @IsUUID('all', { each: true }) clips!: string[];
  @ValidateIf((a: Assignment) => a.version !== null) @IsUUID() version!: string | null;
}
export class NewReference {
  @IsString() @IsNotEmpty({ message: 'a reference needs a name' }) @MaxLength(80) name!: string;
  @IsUUID() clip!: string;
  @IsInt() @Min(0) frame!: number;
  @ValidateIf((r: NewReference) => r.version !== null) @IsUUID() version!: string | null;
  @IsObject() document!: object;
  /** A PNG in base64. */
  @IsString() @MaxLength(16_000_000) picture!: string;
}
export class NewLook {
  @IsObject() document!: object;
}
export class NewVersion {
  @IsObject() document!: object;
  @IsInt() @Min(0) basedOn!: number;
}
export class NewDelivery {
  @IsArray() @ArrayMinSize(1, { message: 'choose at least one clip' }) @ArrayMaxSize(5000) @IsUUID('all', { each: true }) clips!: string[];
  @IsIn(FORMATS) format!: FormatId;
  @IsInt() @Min(2) @Max(8192) width!: number;
  @IsInt() @Min(2) @Max(8192) height!: number;
}
