import { Body, Controller, HttpCode, Param, Post, UploadedFile, UseInterceptors } from '@nestjs/common';
import { FileInterceptor } from '@nestjs/platform-express';
import { ApiBody, ApiConsumes, ApiOperation, ApiProperty, ApiTags } from '@nestjs/swagger';
import type { ImportedBackup, ImportPreview } from '@drive-keep/api';
import { Matches } from 'class-validator';
import type { Account } from '../access/account.entity.ts';
import { NeedsRole, Person } from '../access/session.guard.ts';
import { SetImport } from './set-import.service.ts';
import { givenFile, MOST_BYTES, type UploadedFile as SentFile } from './uploaded-file.ts';

const upload = () => FileInterceptor('file', { limits: { fileSize: MOST_BYTES, files: 1, fields: 4 } });

class KeepBody {
  @ApiProperty({ description: 'the hash that the preview gave' })
  @Matches(/^sha256:[0-9a-f]{64}$/)
  hash: string;
}

const WANTED = 'a JSON, CSV, XLSX or DCF file';

const FILE_SCHEMA = {
  schema: { type: 'object', properties: { file: { type: 'string', format: 'binary' } } },
};

@ApiTags('files')
@Controller('positions/:tag/imports')
export class ImportsController {
  constructor(private readonly imports: SetImport) {}

  @Post('preview')
  @NeedsRole('technician')
  @HttpCode(200)
  @UseInterceptors(upload())
  @ApiConsumes('multipart/form-data')
  @ApiBody(FILE_SCHEMA)
  @ApiOperation({ summary: 'What a file holds and what is wrong with it; nothing is kept' })
  preview(@Param('tag') tag: string, @UploadedFile() file: SentFile | undefined): Promise<ImportPreview> {
    return this.imports.preview(tag, givenFile(file, WANTED));
  }

  @Post()
  @NeedsRole('technician')
  @UseInterceptors(upload())
  @ApiConsumes('multipart/form-data')
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
