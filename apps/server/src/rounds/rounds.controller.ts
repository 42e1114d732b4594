import { Body, Controller, Get, Param, Post, Put } from '@nestjs/common';
import { ApiOperation, ApiProperty, ApiTags, IntersectionType } from '@nestjs/swagger';
import type { RoundView } from '@drive-keep/api';
import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
  ArrayUnique,
  IsArray,
  IsBoolean,
  IsIn,
  IsInt,
  IsObject,
  IsOptional,
  IsString,
  Matches,
  Max,
  MaxLength,
  Min,
  MinLength,
  ValidateNested,
} from 'class-validator';
import type { Account } from '../access/account.entity.ts';
import { VersionBody } from '../problems/same-version.ts';
import { NeedsRole, Person } from '../access/session.guard.ts';
import { Rounds } from './rounds.service.ts';

const TIME = /^([01]\d|2[0-3]):[0-5]\d$/;
const TIME_WORDS = { message: '$property must be a time of day such as 02:00' };
const CRITICALITIES = ['low', 'middle', 'high'] as const;

class ScopeBody {
  @ApiProperty({ type: [String] }) @IsArray() @ArrayMaxSize(200) @IsString({ each: true }) areas: string[];
  @ApiProperty({ type: [String] }) @IsArray() @ArrayMaxSize(200) @IsString({ each: true }) models: string[];
  @ApiProperty({ enum: CRITICALITIES, isArray: true })
  @IsArray()
  @IsIn(CRITICALITIES, { each: true })
  criticalities: ('low' | 'middle' | 'high')[];
}

class QuietBody {
  @ApiProperty({ example: '05:30' }) @Matches(TIME, TIME_WORDS) from: string;
  @ApiProperty({ example: '06:30' }) @Matches(TIME, TIME_WORDS) to: string;
}

class RoundBody {
  @ApiProperty() @IsString() @MinLength(1) @MaxLength(60) name: string;
  @ApiProperty({ example: '02:00' }) @Matches(TIME, TIME_WORDS) at: string;
  @ApiProperty({ type: [Number], description: 'days of the week, 0 for Sunday' })
  @IsArray()
  @ArrayUnique()
  @IsInt({ each: true })
  @Min(0, { each: true })
  @Max(6, { each: true })
  days: number[];
  @ApiProperty({ type: ScopeBody }) @IsObject() @ValidateNested() @Type(() => ScopeBody) scope: ScopeBody;
  @ApiProperty() @IsInt() @Min(0) @Max(5) retries: number;
  @ApiProperty({ type: QuietBody, nullable: true })
  @IsOptional()
  @ValidateNested()
  @Type(() => QuietBody)
  quiet: QuietBody | null;
  @ApiProperty() @IsBoolean() enabled: boolean;
}

class RoundChangeBody extends IntersectionType(RoundBody, VersionBody) {}

@ApiTags('rounds')
@Controller('rounds')
export class RoundsController {
  constructor(private readonly rounds: Rounds) {}

  @Get()
  @ApiOperation({ summary: 'All rounds with their last runs: what failed and why, what changed' })
  list(): Promise<readonly RoundView[]> {
    return this.rounds.list();
  }

  @Post()
  @NeedsRole('engineer')
  @ApiOperation({ summary: 'Make a round; it begins with its next due time' })
  make(@Body() body: RoundBody, @Person() person: Account): Promise<RoundView> {
    return this.rounds.save(null, { ...body, quiet: body.quiet ?? null }, 1, person);
  }

  @Put(':id')
  @NeedsRole('engineer')
  @ApiOperation({ summary: 'Change a round' })
  change(
    @Param('id') id: string,
    @Body() { version, ...body }: RoundChangeBody,
    @Person() person: Account,
  ): Promise<RoundView> {
    return this.rounds.save(id, { ...body, quiet: body.quiet ?? null }, version, person);
  }
}
