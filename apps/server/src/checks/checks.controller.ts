import { Body, Controller, Delete, Get, HttpCode, Param, Post, Query, UploadedFile } from '@nestjs/common';
import { ApiOperation, ApiProperty, ApiPropertyOptional, ApiTags } from '@nestjs/swagger';
import type { ChecksView, PlantFindingsView } from '@drive-keep/api';
import { IsISO8601, IsString, Matches, MaxLength } from 'class-validator';
import type { Account } from '../access/account.entity.ts';
import { NeedsRole, Person } from '../access/session.guard.ts';
import { TakesFile } from '../file-content/file-upload.ts';
import { givenFile, type UploadedFile as SentFile } from '../file-content/uploaded-file.ts';
import { CarryQuery } from '../files/imports.controller.ts';
import { Maybe } from '../problems/maybe.ts';
import { Checks } from './checks.service.ts';

class SetQuery {
  @ApiPropertyOptional({
    description:
      'newest, baseline, backup:…, draft, plan:…, values:02P=360 …; what the unit was last seen to hold else',
  })
  @Maybe()
  @IsString()
  @MaxLength(400)
  set?: string;
}

class SinceQuery {
  @ApiPropertyOptional({ example: '2026-11-27T02:00:00Z' })
  @Maybe()
  @IsISO8601({ strict: true, strictSeparator: true })
  @MaxLength(40)
  since?: string;
}

class AcceptBody {
  @ApiProperty({ example: 'speed-outside preset.2' }) @IsString() @MaxLength(120) identity: string;
  @ApiProperty({ description: 'of the finding that was looked at' })
  @IsString()
  @MaxLength(64)
  signature: string;
  @ApiProperty() @IsString() @MaxLength(300) reason: string;
  @ApiProperty({ example: '2027-03-31', description: 'last day on which it is accepted' })
  @Matches(/^\d{4}-\d{2}-\d{2}$/, { message: 'until must be a day such as 2027-03-31' })
  until: string;
}

@ApiTags('checks')
@Controller()
export class ChecksController {
  constructor(private readonly checks: Checks) {}

  @Get('findings')
  @ApiOperation({ summary: 'How much the checks found in the plant, and what of it is new since a time' })
  plant(@Query() { since }: SinceQuery): Promise<PlantFindingsView> {
    return this.checks.ofPlant(since === undefined ? null : new Date(since));
  }

  @Get('positions/:tag/checks')
  @ApiOperation({ summary: 'What the checks find in a set of a position, and what it changes' })
  of(@Param('tag') tag: string, @Query() { set }: SetQuery): Promise<ChecksView> {
    return this.checks.of(tag, set ?? 'newest');
  }

  @Post('positions/:tag/checks/of-file')
  @NeedsRole('technician')
  @HttpCode(200)
  @TakesFile()
  @ApiOperation({ summary: 'What the checks would find with the values of a file; nothing is kept' })
  ofFile(
    @Param('tag') tag: string,
    @UploadedFile() file: SentFile | undefined,
    @Query() { carry }: CarryQuery,
  ): Promise<ChecksView> {
    return this.checks.ofFile(tag, givenFile(file, 'a JSON, CSV, XLSX or DCF file'), carry === 'yes');
  }

  @Post('positions/:tag/accepted-findings')
  @HttpCode(200)
  @NeedsRole('engineer')
  @ApiOperation({ summary: 'Accept a finding with its values until a day' })
  accept(@Param('tag') tag: string, @Body() body: AcceptBody, @Person() by: Account): Promise<ChecksView> {
    return this.checks.accept(tag, body, by);
  }

  @Delete('positions/:tag/accepted-findings/:id')
  @NeedsRole('engineer')
  @ApiOperation({ summary: 'Accept a finding no longer' })
  reopen(@Param('tag') tag: string, @Param('id') id: string, @Person() by: Account): Promise<ChecksView> {
    return this.checks.reopen(tag, id, by);
  }
}
