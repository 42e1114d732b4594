import { Controller, Get, Query } from '@nestjs/common';
import { ApiOperation, ApiPropertyOptional, ApiTags } from '@nestjs/swagger';
import type { LogbookPage } from '@drive-keep/api';
import { Type } from 'class-transformer';
import { IsInt, IsNumberString, IsString, Max, MaxLength, Min } from 'class-validator';
import { Maybe } from '../problems/maybe.ts';
import { DataSource } from 'typeorm';
import { LogbookRow } from './logbook.entity.ts';

class LogbookQuery {
  @ApiPropertyOptional() @Maybe() @IsString() @MaxLength(60) tag?: string;
  @ApiPropertyOptional() @Maybe() @IsString() @MaxLength(100) find?: string;
  @ApiPropertyOptional() @Maybe() @IsNumberString({ no_symbols: true }) @MaxLength(18) before?: string;
  @ApiPropertyOptional({ default: 100 })
  @Maybe()
  @Type(() => Number)
  @IsInt()
  @Min(1)
  @Max(500)
  most?: number;
}

@ApiTags('logbook')
@Controller('logbook')
export class LogbookController {
  constructor(private readonly dataSource: DataSource) {}

  @Get()
  @ApiOperation({ summary: 'Entries of the logbook, newest first' })
  async page(@Query() { tag, find, before, most = 100 }: LogbookQuery): Promise<LogbookPage> {
    const query = this.dataSource
      .getRepository(LogbookRow)
      .createQueryBuilder('row')
      .orderBy('row.id', 'DESC');
    if (tag !== undefined) query.andWhere('row.tag = :tag', { tag });
    if (before !== undefined) query.andWhere('row.id < :before', { before });
    if (find !== undefined) {
      const like = `%${find.replace(/[\\%_]/g, '\\$&')}%`;
      query.andWhere(`(row.text ilike :like or row.person ilike :like or row.tag ilike :like)`, { like });
    }
    const rows = await query.take(most + 1).getMany();
    const entries = rows.slice(0, most).map((row) => ({
      id: row.id,
      at: row.at.toISOString(),
      person: row.person,
      action: row.action,
      tag: row.tag,
      text: row.text,
    }));
    return { entries, next: rows.length > most ? (entries.at(-1)?.id ?? null) : null };
  }
}
