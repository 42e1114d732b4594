import { Controller, Get, Query } from '@nestjs/common';
import { ApiOperation, ApiProperty, ApiPropertyOptional, ApiTags } from '@nestjs/swagger';
import type { AcrossView, ParameterHistoryView } from '@drive-keep/api';
import { Transform } from 'class-transformer';
import { ArrayMaxSize, ArrayNotEmpty, IsArray, IsString, MaxLength, MinLength } from 'class-validator';
import { Maybe } from '../problems/maybe.ts';
import { Across } from './across.service.ts';

const MOST_POSITIONS = 60;

class AcrossQuery {
  @ApiProperty({ description: 'tag of a position' }) @IsString() @MinLength(1) @MaxLength(60) a: string;
  @ApiProperty({ description: 'tag of another' }) @IsString() @MinLength(1) @MaxLength(60) b: string;
  @ApiPropertyOptional({ default: 'newest' }) @Maybe() @IsString() @MaxLength(60) aSet?: string;
  @ApiPropertyOptional({ default: 'newest' }) @Maybe() @IsString() @MaxLength(60) bSet?: string;
}

class ParameterQuery {
  @ApiProperty({ description: 'tags of positions of one model, separated by commas', type: String })
  @Transform(({ value }: { value: unknown }) => (typeof value === 'string' ? value.split(',') : value))
  @IsArray()
  @ArrayNotEmpty()
  @ArrayMaxSize(MOST_POSITIONS)
  @IsString({ each: true })
  @MaxLength(60, { each: true })
  positions: string[];
  @ApiProperty() @IsString() @MinLength(1) @MaxLength(40) code: string;
}

@ApiTags('comparison')
@Controller()
export class AcrossController {
  constructor(private readonly across: Across) {}

  @Get('across-models')
  @ApiOperation({ summary: 'Two drives by what their parameters mean, in engineering units' })
  compare(@Query() { a, b, aSet = 'newest', bSet = 'newest' }: AcrossQuery): Promise<AcrossView> {
    return this.across.compare({ tag: a, reference: aSet }, { tag: b, reference: bSet });
  }

  @Get('parameter-history')
  @ApiOperation({ summary: 'One parameter over time on several positions of one model' })
  parameter(@Query() { positions, code }: ParameterQuery): Promise<readonly ParameterHistoryView[]> {
    return this.across.parameter([...new Set(positions)], code);
  }
}
