import { Controller, Get, Header, Param, Query, Res } from '@nestjs/common';
import { ApiOperation, ApiProperty, ApiTags } from '@nestjs/swagger';
import type { DictionaryChanges, ModelListing } from '@drive-keep/api';
import { compareVersions, type Dictionary } from '@drive-keep/core/dictionary';
import { IsString, MaxLength, MinLength } from 'class-validator';
import type { Response } from 'express';
import { ProblemException } from '../problems/problem.ts';
import { zipOf } from './model-zip.ts';
import { Dictionaries } from './dictionaries.service.ts';

class ChangesQuery {
  @ApiProperty({ description: 'id of another dictionary of the same model' })
  @IsString()
  @MinLength(1)
  @MaxLength(80)
  since: string;
}

@ApiTags('models')
@Controller('dictionaries')
export class DictionariesController {
  constructor(private readonly dictionaries: Dictionaries) {}

  @Get()
  @ApiOperation({ summary: 'All dictionaries that are kept' })
  list(): Promise<readonly ModelListing[]> {
    return this.dictionaries.listing();
  }

  @Get(':id')
  @Header('cache-control', 'private, max-age=31536000, immutable')
  @ApiOperation({ summary: 'One dictionary with all its parameters; it never changes under its id' })
  get(@Param('id') id: string): Promise<Dictionary> {
    return this.dictionaries.get(id);
  }

  @Get(':id/files')
  @ApiOperation({ summary: 'Its files as they came in, as a ZIP' })
  async files(@Param('id') id: string, @Res() response: Response): Promise<void> {
    const { model } = await this.dictionaries.get(id);
    response.attachment(`${model}.zip`).send(zipOf(await this.dictionaries.files(id), model));
  }

  @Get(':id/changes')
  @ApiOperation({ summary: 'What was added, taken away and changed since another version' })
  async changes(@Param('id') id: string, @Query() { since }: ChangesQuery): Promise<DictionaryChanges> {
    const [before, after] = await Promise.all([this.dictionaries.get(since), this.dictionaries.get(id)]);
    if (before.model !== after.model) {
      const detail = `${since} and ${id} are different models; only versions of one model are compared here.`;
      throw new ProblemException(422, 'different-models', detail);
    }
    return { before: since, after: id, ...compareVersions(before, after) };
  }
}
