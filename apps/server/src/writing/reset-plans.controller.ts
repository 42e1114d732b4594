import { Body, Controller, Get, Param, Post, Query } from '@nestjs/common';
import { ApiOperation, ApiProperty, ApiPropertyOptional, ApiTags } from '@nestjs/swagger';
import type { KeyInSheetView, ResetView, WritePlanView } from '@drive-keep/api';
import { Type } from 'class-transformer';
import { ArrayMaxSize, IsArray, IsInt, IsString, MaxLength } from 'class-validator';
import { Maybe } from '../problems/maybe.ts';
import type { Account } from '../access/account.entity.ts';
import { NeedsRole, Person } from '../access/session.guard.ts';
import { ResetPlans } from './reset-plans.service.ts';

const MOST_CODES = 2000;

class ResetQuery {
  @ApiPropertyOptional({ example: '60-hz', description: "the unit's own region, where nothing is said" })
  @Maybe()
  @IsString()
  @MaxLength(40)
  region?: string;

  @ApiPropertyOptional({ description: 'what is covered, by the raw value of its parameter' })
  @Maybe()
  @Type(() => Number)
  @IsInt()
  scope?: number;
}

class ResetBody extends ResetQuery {
  @ApiProperty({ type: [String], description: 'codes that go back afterwards' })
  @IsArray()
  @ArrayMaxSize(MOST_CODES)
  @IsString({ each: true })
  @MaxLength(40, { each: true })
  putBack: string[];
}

@ApiTags('writing')
@Controller('positions/:tag')
export class ResetPlansController {
  constructor(private readonly resets: ResetPlans) {}

  @Get('reset')
  @ApiOperation({ summary: 'What a reset to defaults would do; nothing is planned yet' })
  preview(@Param('tag') tag: string, @Query() { region, scope }: ResetQuery): Promise<ResetView> {
    return this.resets.preview(tag, region, scope);
  }

  @Post('reset-plans')
  @NeedsRole('technician')
  @ApiOperation({ summary: 'Plan a reset and what goes back afterwards; nothing is written yet' })
  plan(
    @Param('tag') tag: string,
    @Body() choice: ResetBody,
    @Person() person: Account,
  ): Promise<WritePlanView> {
    return this.resets.plan(tag, choice, person);
  }

  @Post('reset-key-in-sheets')
  @NeedsRole('technician')
  @ApiOperation({ summary: 'Make a key-in sheet for a reset at the keypad and what goes back afterwards' })
  keyIn(
    @Param('tag') tag: string,
    @Body() choice: ResetBody,
    @Person() person: Account,
  ): Promise<KeyInSheetView> {
    return this.resets.keyIn(tag, choice, person);
  }
}
