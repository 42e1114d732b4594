import { Controller, Get, Param, Query, Res } from '@nestjs/common';
import { ApiOperation, ApiProperty, ApiPropertyOptional, ApiTags } from '@nestjs/swagger';
import { IsIn, IsString, IsUUID, MaxLength } from 'class-validator';
import { Maybe } from '../problems/maybe.ts';
import type { Response } from 'express';
import type { Account } from '../access/account.entity.ts';
import { Person } from '../access/session.guard.ts';
import { PAPER_FORMATS, type PaperFormat } from './paper-file.ts';
import { Papers, type WrittenPaper } from './papers.service.ts';

export class PaperQuery {
  @ApiProperty({ enum: PAPER_FORMATS }) @IsIn(PAPER_FORMATS) format: PaperFormat;
}

class SettingsPaperQuery extends PaperQuery {
  @ApiPropertyOptional({ default: 'newest' }) @Maybe() @IsString() @MaxLength(60) set?: string;
}

class KeyInPaperQuery extends PaperQuery {
  @ApiProperty({ description: 'id of the sheet' }) @IsUUID() sheet: string;
}

class ComparisonPaperQuery extends PaperQuery {
  @ApiPropertyOptional({ default: 'baseline' }) @Maybe() @IsString() @MaxLength(60) a?: string;
  @ApiPropertyOptional({ default: 'newest' }) @Maybe() @IsString() @MaxLength(60) b?: string;
}

@ApiTags('papers')
@Controller('positions/:tag')
export class PapersController {
  constructor(private readonly papers: Papers) {}

  @Get('settings-record')
  @ApiOperation({ summary: 'What a set holds, as a paper or a table' })
  async settings(
    @Param('tag') tag: string,
    @Query() { set = 'newest', format }: SettingsPaperQuery,
    @Person() person: Account,
    @Res() response: Response,
  ): Promise<void> {
    send(response, format, await this.papers.settings(tag, set, format, person));
  }

  @Get('comparison-record')
  @ApiOperation({ summary: 'What a comparison found and what was decided, as a paper or a table' })
  async comparison(
    @Param('tag') tag: string,
    @Query() { a = 'baseline', b = 'newest', format }: ComparisonPaperQuery,
    @Person() person: Account,
    @Res() response: Response,
  ): Promise<void> {
    send(response, format, await this.papers.comparison(tag, { a, b }, format, person));
  }

  @Get('key-in-record')
  @ApiOperation({ summary: 'A key-in sheet, as a paper or a table' })
  async keyIn(
    @Param('tag') tag: string,
    @Query() { sheet, format }: KeyInPaperQuery,
    @Person() person: Account,
    @Res() response: Response,
  ): Promise<void> {
    send(response, format, await this.papers.keyIn(tag, sheet, format, person));
  }
}

export function send(response: Response, format: PaperFormat, { name, content }: WrittenPaper): void {
  response
    .attachment(name)
    .type(format)
    .send(typeof content === 'string' ? content : Buffer.from(content));
}
