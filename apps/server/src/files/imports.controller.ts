import { Body, Controller, HttpCode, Param, Post, UploadedFile } from '@nestjs/common';
import { ApiOperation, ApiProperty, ApiTags } from '@nestjs/swagger';
import type { ImportedBackup, ImportPreview } from '@drive-keep/api';
import { Matches } from 'class-validator';
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
  preview(@Param('tag') tag: string, @UploadedFile() file: SentFile | undefined): Promise<ImportPreview> {
    return this.imports.preview(tag, givenFile(file, WANTED));
  }

  @Post()
  @NeedsRole('technician')
  @TakesFile()
  @ApiOperation({ summary: 'Keep the file that was previewed' })
  keep(
    @Param('tag') tag: string,
    @UploadedFile() file: SentFile | undefined,
    @Body() { hash }: KeepBody,
    @Person() person: Account,
  ): Promise<ImportedBackup> {
    return this.imports.keep(tag, givenFile(file, WANTED), hash, person);
  }
}
