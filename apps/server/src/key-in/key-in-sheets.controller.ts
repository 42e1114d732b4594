import { Body, Controller, Get, HttpCode, Param, Post, Put } from '@nestjs/common';
import { ApiOperation, ApiProperty, ApiTags, PartialType } from '@nestjs/swagger';
import { KEY_IN_MARKS, type KeyInMark, type KeyInSheetView } from '@drive-keep/api';
import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
  IsArray,
  IsIn,
  IsInt,
  IsISO8601,
  IsString,
  MaxLength,
  Min,
  ValidateIf,
  ValidateNested,
} from 'class-validator';
import type { Account } from '../access/account.entity.ts';
import { NeedsRole, Person } from '../access/session.guard.ts';
import { CodesBody } from '../problems/codes-body.ts';
import { KeyInSheets } from './key-in-sheets.service.ts';

const MOST_MARKS = 2000;

class MakeBody extends PartialType(CodesBody) {
  @ApiProperty({ example: 'baseline', description: 'set whose values are wanted' })
  @IsString()
  @MaxLength(400)
  target: string;
}

class MarkBody implements KeyInMark {
  @ApiProperty({ description: 'place of the line on the sheet' }) @IsInt() @Min(0) place: number;

  @ApiProperty({ enum: [...KEY_IN_MARKS, null], nullable: true })
  @ValidateIf(({ state }: MarkBody) => state !== null)
  @IsIn(KEY_IN_MARKS)
  state: KeyInMark['state'];

  @ApiProperty({ nullable: true, type: Number, description: 'raw value that was found instead' })
  @ValidateIf(({ found }: MarkBody) => found !== null)
  @IsInt()
  found: number | null;

  @ApiProperty() @IsString() @MaxLength(500) note: string;
  @ApiProperty({ description: 'when it was marked' }) @IsISO8601() at: string;
}

class MarksBody {
  @ApiProperty({ type: [MarkBody] })
  @IsArray()
  @ArrayMaxSize(MOST_MARKS)
  @ValidateNested({ each: true })
  @Type(() => MarkBody)
  marks: MarkBody[];
}

@ApiTags('key-in')
@Controller()
export class KeyInSheetsController {
  constructor(private readonly sheets: KeyInSheets) {}

  @Post('positions/:tag/key-in-sheets')
  @NeedsRole('technician')
  @ApiOperation({ summary: 'Make a sheet of what has to be keyed in, in the order of the keypad' })
  make(
    @Param('tag') tag: string,
    @Body() { target, codes }: MakeBody,
    @Person() person: Account,
  ): Promise<KeyInSheetView> {
    return this.sheets.plan(tag, target, codes, person);
  }

  @Get('positions/:tag/key-in-sheets')
  @ApiOperation({ summary: 'The last key-in sheets of a position, newest first' })
  of(@Param('tag') tag: string): Promise<readonly KeyInSheetView[]> {
    return this.sheets.of(tag);
  }

  @Get('key-in-sheets/:id')
  @ApiOperation({ summary: 'A key-in sheet with what was marked on it' })
  get(@Param('id') id: string): Promise<KeyInSheetView> {
    return this.sheets.view(id);
  }

  @Put('key-in-sheets/:id/marks')
  @NeedsRole('technician')
  @ApiOperation({ summary: 'Bring marks; of two for one line the newer one counts' })
  mark(
    @Param('id') id: string,
    @Body() { marks }: MarksBody,
    @Person() person: Account,
  ): Promise<KeyInSheetView> {
    return this.sheets.mark(id, marks, person);
  }

  @Post('key-in-sheets/:id/finish')
  @NeedsRole('technician')
  @HttpCode(200)
  @ApiOperation({ summary: 'Close a sheet' })
  finish(@Param('id') id: string, @Person() person: Account): Promise<KeyInSheetView> {
    return this.sheets.finish(id, person);
  }
}
