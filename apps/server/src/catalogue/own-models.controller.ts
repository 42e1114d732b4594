import { Body, Controller, HttpCode, Post, UploadedFile } from '@nestjs/common';
import { ApiOperation, ApiPropertyOptional, ApiTags } from '@nestjs/swagger';
import type { OwnModelPreview } from '@drive-keep/api';
import { COLUMN_USES, type ColumnUse } from '@drive-keep/core/formats';
import { Transform } from 'class-transformer';
import { IsIn, IsObject, IsString, MaxLength } from 'class-validator';
import { Maybe } from '../problems/maybe.ts';
import type { Account } from '../access/account.entity.ts';
import { NeedsRole, Person } from '../access/session.guard.ts';
import { TakesFile } from '../file-content/file-upload.ts';
import { givenFile, type UploadedFile as SentFile } from '../file-content/uploaded-file.ts';
import { ProblemException } from '../problems/problem.ts';
import { OwnModels } from './own-models.service.ts';

const WANTED = 'a CSV, XLSX, JSON or EDS file';

/** Fields of a form are text: the assignment comes as JSON. */
function assignmentFrom({ value }: { value: unknown }): unknown {
  if (typeof value !== 'string') return value;
  try {
    return JSON.parse(value);
  } catch {
    throw new ProblemException(400, 'body', 'The columns cannot be read: send them as JSON.');
  }
}

export class OwnModelBody {
  @ApiPropertyOptional() @Maybe() @IsString() @MaxLength(60) maker?: string;
  @ApiPropertyOptional() @Maybe() @IsString() @MaxLength(60) name?: string;
  @ApiPropertyOptional() @Maybe() @IsString() @MaxLength(400) about?: string;
  @ApiPropertyOptional() @Maybe() @IsString() @MaxLength(20) firmwareFrom?: string;
  @ApiPropertyOptional() @Maybe() @IsString() @MaxLength(20) firmwareTo?: string;
  @ApiPropertyOptional({ description: 'use by column heading, as JSON', type: String })
  @Maybe()
  @Transform(assignmentFrom)
  @IsObject()
  assignment?: Record<string, ColumnUse>;
  @ApiPropertyOptional({ enum: ['point', 'comma'] })
  @Maybe()
  @IsIn(['point', 'comma'])
  decimalMark?: 'point' | 'comma';
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
  if (unknown !== undefined || twice !== undefined) {
    const detail = `The columns cannot be taken like this: ${
      unknown === undefined ? `two hold "${twice}"` : `"${String(unknown)}" is no use of a column`
    }.`;
    throw new ProblemException(422, 'assignment', detail);
  }
  return body;
}
