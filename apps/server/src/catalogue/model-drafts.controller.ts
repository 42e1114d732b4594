import { Body, Controller, Delete, Get, HttpCode, Param, Post, Put, Res, UploadedFile } from '@nestjs/common';
import { ApiOperation, ApiProperty, ApiPropertyOptional, ApiTags, IntersectionType } from '@nestjs/swagger';
import type { ModelDraftListing, ModelDraftView, ReadAllView, MeaningProposalView } from '@drive-keep/api';
import { Type } from 'class-transformer';
import {
  IsInt,
  IsObject,
  IsOptional,
  IsString,
  Max,
  MaxLength,
  Min,
  MinLength,
  ValidateNested,
} from 'class-validator';
import type { Response } from 'express';
import type { Account } from '../access/account.entity.ts';
import { NeedsRole, Person } from '../access/session.guard.ts';
import { TakesFile } from '../file-content/file-upload.ts';
import { givenFile, type UploadedFile as SentFile } from '../file-content/uploaded-file.ts';
import { Maybe } from '../problems/maybe.ts';
import { VersionBody } from '../problems/same-version.ts';
import { DraftReading } from './draft-reading.service.ts';
import { MeaningProposals } from './meaning-proposals.service.ts';
import { ModelDrafts } from './model-drafts.service.ts';
import { zipOf } from './model-zip.ts';
import { checked, OwnModelBody } from './own-models.controller.ts';

/** Longer texts are no files of a model. */
const MOST_LETTERS = 2_000_000;

class NameBody {
  @ApiProperty() @IsString() @MinLength(1) @MaxLength(60) maker: string;
  @ApiProperty() @IsString() @MinLength(1) @MaxLength(60) name: string;
}

class FromModelBody {
  @ApiPropertyOptional({
    type: NameBody,
    description: 'left out for the next version of a model of one’s own',
  })
  @Maybe()
  @IsObject()
  @ValidateNested()
  @Type(() => NameBody)
  as?: NameBody;
}

class TextsBody {
  @ApiProperty() @IsString() @MaxLength(MOST_LETTERS) model: string;
  @ApiProperty() @IsString() @MaxLength(MOST_LETTERS) parameters: string;
  @ApiProperty({ nullable: true, type: String })
  @IsOptional()
  @IsString()
  @MaxLength(MOST_LETTERS)
  terminals: string | null;
  @ApiPropertyOptional({ nullable: true, type: String })
  @IsOptional()
  @IsString()
  @MaxLength(MOST_LETTERS)
  faults: string | null = null;
}

class FilesBody {
  @ApiProperty({ type: TextsBody }) @IsObject() @ValidateNested() @Type(() => TextsBody) files: TextsBody;
}

class ChangeBody extends IntersectionType(FilesBody, VersionBody) {}

export class AtUnitBody {
  @ApiProperty({ description: 'name of the line' }) @IsString() @MinLength(1) @MaxLength(60) line: string;
  @ApiProperty() @IsInt() @Min(0) @Max(247) address: number;
}

class ReadAllBody extends AtUnitBody {
  @ApiProperty() @IsString() @MaxLength(60) rating: string;
  @ApiProperty() @IsString() @MaxLength(60) region: string;
}

@ApiTags('models')
@Controller('model-drafts')
export class ModelDraftsController {
  constructor(
    private readonly drafts: ModelDrafts,
    private readonly reading: DraftReading,
    private readonly proposals: MeaningProposals,
  ) {}

  @Get()
  @ApiOperation({ summary: 'Models that are being completed' })
  list(): Promise<readonly ModelDraftListing[]> {
    return this.drafts.listing();
  }

  @Post()
  @NeedsRole('engineer')
  @TakesFile()
  @ApiOperation({ summary: 'Begin a model from a list, an EDS or the ZIP of a model' })
  begin(
    @UploadedFile() file: SentFile | undefined,
    @Body() body: OwnModelBody,
    @Person() person: Account,
  ): Promise<ModelDraftView> {
    return this.drafts.fromFile(givenFile(file, 'a CSV, XLSX, JSON, EDS or ZIP file'), checked(body), person);
  }

  @Post('from/:dictionary')
  @NeedsRole('engineer')
  @ApiOperation({ summary: 'Begin a model from another one, or the next version of one of the plant’s own' })
  beginFrom(
    @Param('dictionary') dictionary: string,
    @Body() { as }: FromModelBody,
    @Person() person: Account,
  ): Promise<ModelDraftView> {
    return this.drafts.fromDictionary(dictionary, as, person);
  }

  @Get(':id')
  @ApiOperation({ summary: 'One of them with its texts, what is wrong and what is missing' })
  view(@Param('id') id: string): Promise<ModelDraftView> {
    return this.drafts.view(id);
  }

  @Get(':id/files')
  @ApiOperation({ summary: 'Its files as a ZIP' })
  async files(@Param('id') id: string, @Res() response: Response): Promise<void> {
    const { files, dictionary } = await this.drafts.view(id);
    const name = /^[a-z0-9-]+(?=@)/.exec(dictionary)?.[0] ?? 'model';
    response.attachment(`${name}.zip`).send(zipOf(files, name));
  }

  @Put(':id')
  @NeedsRole('engineer')
  @ApiOperation({ summary: 'Keep its texts as they stand, right or not yet' })
  change(
    @Param('id') id: string,
    @Body() { files, version }: ChangeBody,
    @Person() person: Account,
  ): Promise<ModelDraftView> {
    return this.drafts.change(id, files, version, person);
  }

  @Delete(':id')
  @NeedsRole('engineer')
  @HttpCode(204)
  @ApiOperation({ summary: 'Throw a draft away; what was kept of it stays' })
  remove(@Param('id') id: string, @Person() person: Account): Promise<void> {
    return this.drafts.remove(id, person);
  }

  @Get(':id/meanings')
  @ApiOperation({
    summary: 'What its parameters without a meaning may mean, by their words; nothing is taken over',
  })
  meanings(@Param('id') id: string): Promise<readonly MeaningProposalView[]> {
    return this.proposals.of(id);
  }

  @Post(':id/keep')
  @NeedsRole('engineer')
  @HttpCode(200)
  @ApiOperation({ summary: 'Keep it as the next version of its model' })
  keep(
    @Param('id') id: string,
    @Body() { version }: VersionBody,
    @Person() person: Account,
  ): Promise<ModelDraftView> {
    return this.drafts.keep(id, version, person);
  }

  @Post(':id/read-all')
  @NeedsRole('technician')
  @HttpCode(200)
  @ApiOperation({ summary: 'Read every parameter of it from a unit, to test it; nothing is written or kept' })
  readAll(@Param('id') id: string, @Body() body: ReadAllBody): Promise<ReadAllView> {
    return this.reading.readAll(id, body);
  }
}
