import { Body, Controller, Get, HttpCode, Param, Post, Query, Res, UploadedFile } from '@nestjs/common';
import { ApiOperation, ApiProperty, ApiPropertyOptional, ApiTags } from '@nestjs/swagger';
import type { TraceListing, TraceView } from '@drive-keep/api';
import { writeTable } from '@drive-keep/core/values';
import { MOST_SECONDS, MOST_SIGNALS, packTrace, traceColumns, traceRows } from '@drive-keep/core/signals';
import {
  ArrayMaxSize,
  ArrayMinSize,
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
import { TraceFiles } from './trace-files.service.ts';
import { TraceRecorder } from './trace-recorder.service.ts';
import { Traces } from './traces.service.ts';

class TraceBody {
  @ApiProperty({ description: 'what it is recorded for' })
  @IsString()
  @MinLength(1)
  @MaxLength(120)
  title: string;
  @ApiProperty({
    isArray: true,
    type: String,
    description: 'frequency, setpoint, current and others, as the model shows them',
  })
  @IsArray()
  @ArrayMinSize(1)
  @ArrayMaxSize(MOST_SIGNALS)
  @IsString({ each: true })
  @MaxLength(40, { each: true })
  signals: string[];
  @ApiProperty({ description: 'ends by itself after so long' })
  @IsInt()
  @Min(2)
  @Max(MOST_SECONDS)
  seconds: number;
}

class SamplesQuery {
  @ApiPropertyOptional({ description: 'only what came after so many ms' })
  @Maybe()
  @IsString()
  @MaxLength(10)
  after?: string;
}

class FileQuery {
  @ApiProperty({ enum: ['csv', 'xlsx'] }) @IsIn(['csv', 'xlsx']) format: 'csv' | 'xlsx';
}

@ApiTags('traces')
@Controller()
export class TracesController {
  constructor(
    private readonly traces: Traces,
    private readonly recorder: TraceRecorder,
    private readonly files: TraceFiles,
  ) {}

  @Get('positions/:tag/traces')
  @ApiOperation({ summary: 'Traces of a position, the newest first' })
  list(@Param('tag') tag: string): Promise<readonly TraceListing[]> {
    return this.traces.listing(tag);
  }

  @Post('positions/:tag/traces')
  @NeedsRole('technician')
  @ApiOperation({ summary: 'Records signals of the unit; nothing is written to it' })
  async start(
    @Param('tag') tag: string,
    @Body() body: TraceBody,
    @Person() account: Account,
  ): Promise<TraceView> {
    return this.traces.view(await this.recorder.start(tag, body, account));
  }

  @Post('positions/:tag/traces/file')
  @NeedsRole('technician')
  @TakesFile()
  @ApiOperation({ summary: 'Keeps a trace that was recorded elsewhere, as a table' })
  async bring(
    @Param('tag') tag: string,
    @UploadedFile() file: SentFile | undefined,
    @Person() account: Account,
  ): Promise<TraceView> {
    return this.traces.view(await this.files.bring(tag, givenFile(file, 'a trace as CSV or XLSX'), account));
  }

  @Get('traces/:id')
  @ApiOperation({ summary: 'A trace without its samples' })
  view(@Param('id') id: string): Promise<TraceView> {
    return this.traces.view(id);
  }

  @Get('traces/:id/samples')
  @ApiOperation({ summary: 'Its samples, packed as core/signals packs them' })
  async samples(
    @Param('id') id: string,
    @Query() { after }: SamplesQuery,
    @Res() response: Response,
  ): Promise<void> {
    const trace = await this.traces.samples(id);
    const limit = Number(after ?? -1);
    const from = trace.times.findIndex((at) => at > limit);
    const cut = from === -1 ? trace.times.length : from;
    const part = {
      ...trace,
      times: trace.times.slice(cut),
      values: trace.values.map((own) => own.slice(cut)),
    };
    response.type('application/octet-stream').send(Buffer.from(packTrace(part)));
  }

  @Post('traces/:id/stop')
  @NeedsRole('technician')
  @HttpCode(200)
  @ApiOperation({ summary: 'Ends the recording; what has come in is kept' })
  async stop(@Param('id') id: string): Promise<TraceView> {
    await this.recorder.stop(id);
    return this.traces.view(id);
  }

  @Get('traces/:id/file')
  @ApiOperation({ summary: 'Its samples as a table' })
  async file(
    @Param('id') id: string,
    @Query() { format }: FileQuery,
    @Res() response: Response,
  ): Promise<void> {
    const [view, trace] = await Promise.all([this.traces.view(id), this.traces.samples(id)]);
    const name = `${view.tag} trace ${view.beganAt.slice(0, 19).replace(/[-:]/g, '').replace('T', ' ')}`;
    const [columns, rows] = [traceColumns(trace), traceRows(trace)];
    response.attachment(`${name}.${format}`);
    if (format === 'csv') response.type('text/csv').send(writeTable(columns, rows));
    else {
      const wide = columns.map((heading) => ({ heading, width: 16, numeric: true }));
      response.send(Buffer.from(await writeSheets([{ name: 'Trace', columns: wide, rows }])));
    }
  }
}
