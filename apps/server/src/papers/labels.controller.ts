import { Controller, Get, Query, Res } from '@nestjs/common';
import { ApiOperation, ApiPropertyOptional, ApiTags } from '@nestjs/swagger';
import { Type } from 'class-transformer';
import { IsInt, IsString, Max, MaxLength, Min } from 'class-validator';
import type { Response } from 'express';
import { Maybe } from '../problems/maybe.ts';
import { Labels } from './labels.service.ts';
import { LABELS_ON_SHEET } from './label-sheet.ts';

class LabelsQuery {
  @ApiPropertyOptional() @Maybe() @IsString() @MaxLength(60) area?: string;
  @ApiPropertyOptional() @Maybe() @IsString() @MaxLength(60) machine?: string;
  @ApiPropertyOptional({ description: 'labels of the first sheet that are used up' })
  @Maybe()
  @Type(() => Number)
  @IsInt()
  @Min(0)
  @Max(LABELS_ON_SHEET - 1)
  skip?: number;
}

@ApiTags('papers')
@Controller('labels')
export class LabelsController {
  constructor(private readonly labels: Labels) {}

  @Get()
  @ApiOperation({
    summary: 'Labels for cabinets as PDF: tag, duty, and a code that opens the position on a phone',
  })
  async sheet(@Query() { area, machine, skip = 0 }: LabelsQuery, @Res() response: Response): Promise<void> {
    const bytes = await this.labels.sheet({ area, machine }, skip);
    response.attachment('labels.pdf').type('pdf').send(Buffer.from(bytes));
  }
}
