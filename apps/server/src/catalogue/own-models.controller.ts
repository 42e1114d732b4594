import { Body, Controller, HttpCode, Post, UploadedFile } from '@nestjs/common';
import { ApiOperation, ApiPropertyOptional, ApiTags } from '@nestjs/swagger';
import type { OwnModelPreview } from '@drive-keep/api';
import { ACCESSES, type Access } from '@drive-keep/core/dictionary';
import { COLUMN_USES, type ColumnUse } from '@drive-keep/core/formats';
import { Transform } from 'class-transformer';
import { ArrayMaxSize, IsArray, IsIn, IsInt, IsObject, IsString, MaxLength } from 'class-validator';
import { Maybe } from '../problems/maybe.ts';
import type { Account } from '../access/account.entity.ts';
import { NeedsRole, Person } from '../access/session.guard.ts';
import { TakesFile } from '../file-content/file-upload.ts';
import { givenFile, type UploadedFile as SentFile } from '../file-content/uploaded-file.ts';
import { ProblemException } from '../problems/problem.ts';
import { OwnModels } from './own-models.service.ts';

const WANTED = 'a CSV, XLSX, JSON or EDS file';

/** Fields of a form are text: what is no text comes as JSON. */
function fromJson({ value, key }: { value: unknown; key: string }): unknown {
  if (typeof value !== 'string') return value;
  try {
    return JSON.parse(value);
  } catch {
    throw new ProblemException(400, 'body', `The field ${key} cannot be read: send it as JSON.`);
  }
}

const MOST_MENDED = 20_000;

export class OwnModelBody {
  @ApiPropertyOptional() @Maybe() @IsString() @MaxLength(60) maker?: string;
  @ApiPropertyOptional() @Maybe() @IsString() @MaxLength(60) name?: string;
  @ApiPropertyOptional() @Maybe() @IsString() @MaxLength(400) about?: string;
  @ApiPropertyOptional() @Maybe() @IsString() @MaxLength(20) firmwareFrom?: string;
  @ApiPropertyOptional() @Maybe() @IsString() @MaxLength(20) firmwareTo?: string;
  @ApiPropertyOptional({ description: 'name of the sheet' })
  @Maybe()
  @IsString()
  @MaxLength(100)
  sheet?: string;
  @ApiPropertyOptional({ description: 'line of the row that names the columns', type: Number })
  @Maybe()
  @Transform(fromJson)
  @IsInt()
  headLine?: number;
  @ApiPropertyOptional({ description: 'use by column heading, as JSON', type: String })
  @Maybe()
  @Transform(fromJson)
  @IsObject()
  assignment?: Record<string, ColumnUse>;
  @ApiPropertyOptional({ enum: ['point', 'comma'] })
  @Maybe()
  @IsIn(['point', 'comma'])
  decimalMark?: 'point' | 'comma';
  @ApiPropertyOptional({ description: 'lines that are no parameters, as JSON', type: String })
  @Maybe()
  @Transform(fromJson)
  @IsArray()
  @IsInt({ each: true })
  leftOut?: number[];
  @ApiPropertyOptional({ description: 'cells in other words: [line, heading, text], as JSON', type: String })
  @Maybe()
  @Transform(fromJson)
  @IsArray()
  @ArrayMaxSize(MOST_MENDED)
  mended?: [number, string, string][];
  @ApiPropertyOptional({
    description: 'what words of the access mean: [text, access], as JSON',
    type: String,
  })
  @Maybe()
  @Transform(fromJson)
  @IsArray()
  @ArrayMaxSize(100)
  access?: [string, Access][];
}

@ApiTags('models')
@Controller('models')
export class OwnModelsController {
  constructor(private readonly models: OwnModels) {}

  @Post('preview')
  @NeedsRole('technician')
  @HttpCode(200)
  @TakesFile()
  @ApiOperation({ summary: 'How a parameter list or an EDS is understood; nothing is kept' })
  preview(@UploadedFile() file: SentFile | undefined, @Body() body: OwnModelBody): Promise<OwnModelPreview> {
    return this.models.preview(givenFile(file, WANTED), checked(body));
  }

  @Post()
  @NeedsRole('engineer')
  @TakesFile()
  @ApiOperation({ summary: 'Keep the model that was previewed' })
  keep(
    @UploadedFile() file: SentFile | undefined,
    @Body() body: OwnModelBody,
    @Person() person: Account,
  ): Promise<{ id: string }> {
    return this.models.keep(givenFile(file, WANTED), checked(body), person);
  }
}

export function checked(body: OwnModelBody): OwnModelBody {
  const uses = Object.values(body.assignment ?? {});
  const unknown = uses.find((use) => !COLUMN_USES.includes(use));
  const twice = uses.find((use, at) => uses.indexOf(use) !== at);
  const refuse = (detail: string): never => {
    throw new ProblemException(422, 'assignment', `${detail}.`);
  };
  if (unknown !== undefined)
    refuse(`The columns cannot be taken like this: "${String(unknown)}" is no use of a column`);
  if (twice !== undefined) refuse(`The columns cannot be taken like this: two hold "${twice}"`);
  const isCell = (cell: unknown) =>
    Array.isArray(cell) &&
    cell.length === 3 &&
    Number.isInteger(cell[0]) &&
    isText(cell[1]) &&
    isText(cell[2]);
  if (body.mended?.some((cell) => !isCell(cell))) refuse('Each mended cell is [line, heading, text]');
  const isWord = (word: unknown) =>
    Array.isArray(word) && word.length === 2 && isText(word[0]) && ACCESSES.some((each) => each === word[1]);
  if (body.access?.some((word) => !isWord(word)))
    refuse(`Each word of the access is [text, one of ${ACCESSES.join(', ')}]`);
  return body;
}

const isText = (text: unknown): boolean => typeof text === 'string' && text.length <= 4000;
