import { Controller, Get, Query } from '@nestjs/common';
import { ApiOperation, ApiProperty, ApiPropertyOptional, ApiTags } from '@nestjs/swagger';
import type { FaultHitView, LookUpView, SameMeaningView } from '@drive-keep/api';
import { IsString, MaxLength, MinLength } from 'class-validator';
import { Maybe } from '../problems/maybe.ts';
import { LookUps } from './look-ups.service.ts';

class LookUpQuery {
  @ApiProperty({ description: 'code, name, other name, option text, meaning or words' })
  @IsString()
  @MaxLength(120)
  find: string;
  @ApiPropertyOptional({ description: 'tag of a position, for its present values' })
  @Maybe()
  @IsString()
  @MaxLength(60)
  position?: string;
}

class SameMeaningQuery {
  @ApiProperty() @IsString() @MinLength(1) @MaxLength(80) dictionary: string;
  @ApiProperty() @IsString() @MinLength(1) @MaxLength(60) code: string;
}

@ApiTags('models')
@Controller('look-up')
export class LookUpsController {
  constructor(private readonly lookUps: LookUps) {}

  @Get()
  @ApiOperation({ summary: 'Parameters of all models that fit, the best first' })
  find(@Query() { find, position }: LookUpQuery): Promise<readonly LookUpView[]> {
    return this.lookUps.find(find, position);
  }

  @Get('faults')
  @ApiOperation({ summary: 'Faults of all models by number as shown, name or words, the best first' })
  faults(@Query() { find, position }: LookUpQuery): Promise<readonly FaultHitView[]> {
    return this.lookUps.faults(find, position);
  }

  @Get('same-meaning')
  @ApiOperation({ summary: 'What a parameter is called on the other models' })
  sameMeaning(@Query() { dictionary, code }: SameMeaningQuery): Promise<readonly SameMeaningView[]> {
    return this.lookUps.sameMeaning(dictionary, code);
  }
}
