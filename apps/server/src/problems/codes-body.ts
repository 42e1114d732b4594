import { ApiProperty } from '@nestjs/swagger';
import { ArrayMaxSize, ArrayNotEmpty, IsArray, IsString, MaxLength } from 'class-validator';

/** More parameters than any model has. */
const MOST_CODES = 2000;

/** A request about some parameters of one position. */
export class CodesBody {
  @ApiProperty({ type: [String], description: 'codes of parameters' })
  @IsArray()
  @ArrayNotEmpty()
  @ArrayMaxSize(MOST_CODES)
  @IsString({ each: true })
  @MaxLength(40, { each: true })
  codes: string[];
}
