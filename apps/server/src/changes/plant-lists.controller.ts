import { Body, Controller, Get, HttpCode, Post, Query, Res, UploadedFile } from '@nestjs/common';
import { ApiOperation, ApiProperty, ApiTags } from '@nestjs/swagger';
import type { PlantListPreview } from '@drive-keep/api';
import { IsIn, Matches } from 'class-validator';
import type { Response } from 'express';
import type { Account } from '../access/account.entity.ts';
import { May, Person } from '../access/session.guard.ts';
import { TakesFile } from '../file-content/file-upload.ts';
import { givenFile, type UploadedFile as SentFile } from '../file-content/uploaded-file.ts';
import { PlantLists } from './plant-lists.service.ts';

const WANTED = 'a CSV or XLSX file with one position a row';

class KeepListBody {
  @ApiProperty({ description: 'the hash that the preview gave' })
  @Matches(/^sha256:[0-9a-f]{64}$/)
  hash: string;
}

class ListQuery {
  @ApiProperty({ enum: ['csv', 'xlsx'] }) @IsIn(['csv', 'xlsx']) format: 'csv' | 'xlsx';
}

@ApiTags('register')
@Controller('plant-list')
export class PlantListsController {
  constructor(private readonly lists: PlantLists) {}

  @Get()
  @ApiOperation({ summary: 'The register as a plant list' })
  async file(@Query() { format }: ListQuery, @Res() response: Response): Promise<void> {
    const content = await this.lists.write(format);
    response
      .attachment(`plant-list.${format}`)
      .type(format)
      .send(typeof content === 'string' ? content : Buffer.from(content));
  }

  @Post('preview')
  @May('register')
  @HttpCode(200)
  @TakesFile()
  @ApiOperation({ summary: 'What a plant list would do to the register; nothing is changed' })
  preview(@UploadedFile() file: SentFile | undefined, @Person() person: Account): Promise<PlantListPreview> {
    return this.lists.preview(givenFile(file, WANTED), person);
  }

  @Post()
  @May('register')
  @TakesFile()
  @ApiOperation({ summary: 'Take in the plant list that was previewed' })
  keep(
    @UploadedFile() file: SentFile | undefined,
    @Body() { hash }: KeepListBody,
    @Person() person: Account,
  ): Promise<PlantListPreview> {
    return this.lists.keep(givenFile(file, WANTED), hash, person);
  }
}
