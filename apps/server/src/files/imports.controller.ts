import { Body, Controller, HttpCode, Param, Post, Query, UploadedFile } from '@nestjs/common';
import { ApiOperation, ApiProperty, ApiPropertyOptional, ApiTags } from '@nestjs/swagger';
import type { ImportedFile, ImportPreview } from '@drive-keep/api';
import { IsIn, Matches } from 'class-validator';
import { Maybe } from '../problems/maybe.ts';
import { TEXT_ENCODINGS, type TextEncoding } from '../file-content/uploaded-file.ts';
import type { Account } from '../access/account.entity.ts';
import { NeedsRole, Person } from '../access/session.guard.ts';
import { SetImport } from './set-import.service.ts';
import { TakesFile } from '../file-content/file-upload.ts';
import { givenFile, type UploadedFile as SentFile } from '../file-content/uploaded-file.ts';

class KeepBody {
  @ApiProperty({ description: 'the hash that the preview gave' })
  @Matches(/^sha256:[0-9a-f]{64}$/)
  hash: string;
}

export class CarryQuery {
  @ApiPropertyOptional({
    enum: ['yes'],
    description: 'a file of another version of the model is carried over',
  })
  @Maybe()
  @IsIn(['yes'])
  carry?: 'yes';

  /** Used where the file is taken in; named here so that it is no unknown one. */
  @ApiPropertyOptional({ enum: TEXT_ENCODINGS }) @Maybe() @IsIn(TEXT_ENCODINGS) encoding?: TextEncoding;
}

const WANTED = 'a JSON, CSV, XLSX or DCF file';

@ApiTags('files')
@Controller('positions/:tag/imports')
export class ImportsController {
  constructor(private readonly imports: SetImport) {}

  @Post('preview')
  @NeedsRole('technician')
  @HttpCode(200)
  @TakesFile()
  @ApiOperation({ summary: 'What a file holds and what is wrong with it; nothing is kept' })
  preview(
    @Param('tag') tag: string,
    @UploadedFile() file: SentFile | undefined,
    @Query() { carry }: CarryQuery,
  ): Promise<ImportPreview> {
    return this.imports.preview(tag, givenFile(file, WANTED), carry === 'yes');
  }

  @Post()
  @NeedsRole('technician')
  @TakesFile()
  @ApiOperation({ summary: 'Keep the file that was previewed' })
  keep(
    @Param('tag') tag: string,
    @UploadedFile() file: SentFile | undefined,
    @Body() { hash }: KeepBody,
    @Query() { carry }: CarryQuery,
    @Person() person: Account,
  ): Promise<ImportedFile> {
    return this.imports.keep(tag, givenFile(file, WANTED), { hash, carry: carry === 'yes' }, person);
  }
}
