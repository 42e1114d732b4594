import { Controller, Get, Header, Param } from '@nestjs/common';
import { ApiOperation, ApiTags } from '@nestjs/swagger';
import type { Dictionary } from '@drive-keep/core/dictionary';
import { Dictionaries } from './dictionaries.service.ts';

@ApiTags('models')
@Controller('dictionaries')
export class DictionariesController {
  constructor(private readonly dictionaries: Dictionaries) {}

  @Get()
  @ApiOperation({ summary: 'All dictionaries that are kept' })
  async list(): Promise<object[]> {
    const all = await this.dictionaries.all();
    return all.map(({ id, model, version, maker, name }) => ({ id, model, version, maker, name }));
  }

  @Get(':id')
  @Header('cache-control', 'private, max-age=31536000, immutable')
  @ApiOperation({ summary: 'One dictionary with all its parameters; it never changes under its id' })
  get(@Param('id') id: string): Promise<Dictionary> {
    return this.dictionaries.get(id);
  }
}
