import { Body, Controller, Get, HttpCode, Param, Post, Put, Query, Res, UploadedFile } from '@nestjs/common';
import { ApiOperation, ApiProperty, ApiPropertyOptional, ApiTags } from '@nestjs/swagger';
import type { WiringView } from '@drive-keep/api';
import { WIRING_COLUMNS, type WiringColumn } from '@drive-keep/core/wiring';
import { Transform, Type } from 'class-transformer';
import {
  ArrayMaxSize,
  IsArray,
  IsIn,
  IsInt,
  IsString,
  Max,
  MaxLength,
  Min,
  MinLength,
} from 'class-validator';
import type { Response } from 'express';
import type { Account } from '../access/account.entity.ts';
import { NeedsRole, Person } from '../access/session.guard.ts';
import { TakesFile } from '../file-content/file-upload.ts';
import { writeSheets } from '../file-content/spreadsheet.ts';
import { givenFile, type UploadedFile as SentFile } from '../file-content/uploaded-file.ts';
import { Maybe } from '../problems/maybe.ts';
import { IsRows } from './is-rows.ts';
import { Wirings } from './wirings.service.ts';

const MOST_ROWS = 500;
const MOST_REVISION = 1_000_000;

class WiringBody {
  @ApiProperty({
    description: `rows of the table, each with ${WIRING_COLUMNS.join(', ')}`,
    type: 'array',
    items: { type: 'array', items: { type: 'string' } },
  })
  @IsArray()
  @ArrayMaxSize(MOST_ROWS)
  @IsRows()
  rows: string[][];
  @ApiProperty({ description: 'why it is another than before' })
  @Transform(({ value }: { value: unknown }) => (typeof value === 'string' ? value.trim() : value))
  @IsString()
  @MinLength(1)
  @MaxLength(300)
  why: string;
  @ApiProperty({ description: 'the revision that was looked at; 0 where there was none' })
  @IsInt()
  @Min(0)
  @Max(MOST_REVISION)
  seen: number;
}

class RevisionQuery {
  @ApiPropertyOptional()
  @Maybe()
  @Type(() => Number)
  @IsInt()
  @Min(1)
  @Max(MOST_REVISION)
  revision?: number;
}

const FORMATS = ['csv', 'xlsx'] as const;
class FormatQuery {
  @ApiPropertyOptional({ enum: FORMATS }) @Maybe() @IsIn(FORMATS) as?: 'csv' | 'xlsx';
}

const WIDTHS: Readonly<Record<WiringColumn, number>> = {
  row: 14,
  name: 12,
  colour: 10,
  from: 14,
  to: 14,
  facts: 60,
  what: 30,
};

@ApiTags('wiring')
@Controller('positions/:tag')
export class WiringsController {
  constructor(private readonly wirings: Wirings) {}

  @Get('wiring')
  @ApiOperation({ summary: 'The field wiring of a position, with what the chart says of it' })
  view(@Param('tag') tag: string, @Query() { revision }: RevisionQuery): Promise<WiringView> {
    return this.wirings.view(tag, revision);
  }

  @Put('wiring')
  @NeedsRole('technician')
  @ApiOperation({ summary: 'Keep a further revision of the wiring' })
  save(
    @Param('tag') tag: string,
    @Body() { rows, why, seen }: WiringBody,
    @Person() person: Account,
  ): Promise<WiringView> {
    return this.wirings.save(tag, rows, why, seen, person);
  }

  @Post('wiring/read')
  @NeedsRole('technician')
  @HttpCode(200)
  @TakesFile()
  @ApiOperation({ summary: 'How a CSV or XLSX of a wiring is understood; nothing is kept' })
  read(
    @Param('tag') tag: string,
    @UploadedFile() file: SentFile | undefined,
  ): Promise<Pick<WiringView, 'rows' | 'findings'>> {
    return this.wirings.read(tag, givenFile(file, 'a wiring as CSV or XLSX'));
  }

  @Get('wiring/file')
  @ApiOperation({ summary: 'The newest wiring as CSV or XLSX, one row a device, wire, link or switch' })
  async file(
    @Param('tag') tag: string,
    @Query() query: FormatQuery,
    @Res() response: Response,
  ): Promise<void> {
    const format = query.as ?? 'csv';
    response.attachment(`${tag}_wiring.${format}`);
    if (format === 'csv') {
      response.type('text/csv; charset=utf-8').send(await this.wirings.csv(tag));
      return;
    }
    const { rows } = await this.wirings.view(tag);
    const columns = WIRING_COLUMNS.map((heading) => ({ heading, width: WIDTHS[heading] }));
    response.send(Buffer.from(await writeSheets([{ name: 'Wiring', columns, rows }])));
  }
}
