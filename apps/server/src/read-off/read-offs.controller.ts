import { Body, Controller, Delete, Get, HttpCode, Param, Post, Put } from '@nestjs/common';
import { ApiOperation, ApiProperty, ApiTags } from '@nestjs/swagger';
import type { BroughtEntry, ImportedBackup, ReadOffSync, ReadOffView } from '@drive-keep/api';
import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
  IsArray,
  IsInt,
  IsISO8601,
  IsString,
  MaxLength,
  MinLength,
  ValidateIf,
  ValidateNested,
} from 'class-validator';
import type { Account } from '../access/account.entity.ts';
import { NeedsRole, Person } from '../access/session.guard.ts';
import { ReadOffs } from './read-offs.service.ts';

const MOST_ENTRIES = 2000;

class EntryBody implements BroughtEntry {
  @ApiProperty() @IsString() @MaxLength(40) code: string;
  @ApiProperty({ description: 'as the drive stores it' }) @IsInt() raw: number;
  @ApiProperty({ description: 'when it was read' }) @IsISO8601() at: string;
  @ApiProperty({ nullable: true, type: Number, description: 'what the phone knew of it before' })
  @ValidateIf((entry: EntryBody) => entry.before !== null)
  @IsInt()
  before: number | null;
}

class BringBody {
  @ApiProperty({ description: 'serial number on the plate of the unit' }) @IsInt() serial: number;
  @ApiProperty({ type: [EntryBody] })
  @IsArray()
  @ArrayMaxSize(MOST_ENTRIES)
  @ValidateNested({ each: true })
  @Type(() => EntryBody)
  entries: EntryBody[];
}

class KeepBody {
  @ApiProperty() @IsString() @MinLength(1) @MaxLength(200) reason: string;
}

@ApiTags('read-off')
@Controller('positions/:tag/read-off')
export class ReadOffsController {
  constructor(private readonly readOffs: ReadOffs) {}

  @Get()
  @ApiOperation({ summary: 'What has been read off at the keypad so far' })
  async open(@Param('tag') tag: string): Promise<{ readonly readOff: ReadOffView | null }> {
    return { readOff: await this.readOffs.open(tag) };
  }

  @Put()
  @NeedsRole('technician')
  @ApiOperation({
    summary: 'Bring values that were read off; other values of other people are told, not overwritten',
  })
  bring(
    @Param('tag') tag: string,
    @Body() { serial, entries }: BringBody,
    @Person() person: Account,
  ): Promise<ReadOffSync> {
    return this.readOffs.bring(tag, serial, entries, person);
  }

  @Post('keep')
  @NeedsRole('technician')
  @ApiOperation({ summary: 'Keep what was read off as a backup of the unit' })
  keep(
    @Param('tag') tag: string,
    @Body() { reason }: KeepBody,
    @Person() person: Account,
  ): Promise<ImportedBackup> {
    return this.readOffs.keep(tag, reason, person);
  }

  @Delete()
  @NeedsRole('technician')
  @HttpCode(204)
  @ApiOperation({ summary: 'Drop what was read off; nothing of it is kept' })
  drop(@Param('tag') tag: string, @Person() person: Account): Promise<void> {
    return this.readOffs.drop(tag, person);
  }
}
