import {
  Body,
  Controller,
  Get,
  HttpCode,
  Param,
  Patch,
  Post,
  Put,
  Query,
  Res,
  UploadedFile,
} from '@nestjs/common';
import { ApiOperation, ApiProperty, ApiPropertyOptional, ApiTags } from '@nestjs/swagger';
import {
  DRAFT_USES,
  type AcrossView,
  type DraftMark,
  type DraftRecord,
  type DraftUse,
  type NewDraftField,
  type SettingsDraftView,
} from '@drive-keep/api';
import { SET_FILE_KINDS, type SetFileKind } from '@drive-keep/core/formats';
import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
  ArrayNotEmpty,
  IsArray,
  IsIn,
  IsString,
  Matches,
  MaxLength,
  MinLength,
  Validate,
  ValidateIf,
  ValidateNested,
  ValidatorConstraint,
  type ValidatorConstraintInterface,
} from 'class-validator';
import type { Response } from 'express';
import type { Account } from '../access/account.entity.ts';
import { NeedsRole, Person } from '../access/session.guard.ts';
import { DraftRevisions } from '../drafts/draft-revisions.service.ts';
import { TakesFile } from '../file-content/file-upload.ts';
import { givenFile, type UploadedFile as SentFile } from '../file-content/uploaded-file.ts';
import { Maybe } from '../problems/maybe.ts';
import { VersionBody } from '../problems/same-version.ts';
import { DraftComparison } from './draft-comparison.service.ts';
import { DraftFiles, type BroughtDraft } from './draft-files.service.ts';
import { DraftUses } from './draft-uses.service.ts';
import { Drafts, type Beginning } from './drafts.service.ts';
import { isFieldKey, LONGEST_TEXT, MOST_FIELDS } from './field-key.ts';

const BEGINNINGS = ['point', 'position', 'delivered'] as const;

class BeginsBody {
  @ApiProperty({ enum: BEGINNINGS }) @IsIn(BEGINNINGS) kind: (typeof BEGINNINGS)[number];
  @ApiPropertyOptional({ description: 'of a starting point' })
  @Maybe()
  @IsString()
  @MaxLength(80)
  id?: string;
  @ApiPropertyOptional({ description: 'of the position whose set it begins with' })
  @Maybe()
  @IsString()
  @MaxLength(60)
  tag?: string;
  @ApiPropertyOptional({ example: 'baseline' }) @Maybe() @IsString() @MaxLength(60) reference?: string;
}

const beginningOf = ({ kind, id = '', tag = '', reference = 'newest' }: BeginsBody): Beginning =>
  kind === 'point' ? { kind, id } : kind === 'position' ? { kind, tag, reference } : { kind };

class OutfitBody {
  @ApiProperty() @IsString() @MinLength(1) @MaxLength(80) name: string;
  @ApiProperty({ description: 'id of a dictionary' }) @IsString() @MaxLength(80) dictionary: string;
  @ApiProperty() @IsString() @MaxLength(60) region: string;

  @ApiProperty({ nullable: true, type: String, description: 'nothing: the smallest that bears the motor' })
  @ValidateIf(({ rating }: OutfitBody) => rating !== null)
  @IsString()
  @MaxLength(60)
  rating: string | null;
}

class BeginBody extends OutfitBody {
  @ApiProperty({ nullable: true, type: String, description: 'the position that it is for' })
  @ValidateIf(({ tag }: BeginBody) => tag !== null)
  @IsString()
  @MaxLength(60)
  tag: string | null;

  @ApiProperty({ type: BeginsBody }) @ValidateNested() @Type(() => BeginsBody) begins: BeginsBody;
}

class ChangeBody extends VersionBody {
  @ApiPropertyOptional() @Maybe() @IsString() @MinLength(1) @MaxLength(80) name?: string;
  @ApiPropertyOptional() @Maybe() @IsString() @MaxLength(80) dictionary?: string;
  @ApiPropertyOptional() @Maybe() @IsString() @MaxLength(60) region?: string;

  @ApiPropertyOptional({ nullable: true, type: String })
  @ValidateIf(({ rating }: ChangeBody) => rating !== undefined && rating !== null)
  @IsString()
  @MaxLength(60)
  rating?: string | null;

  @ApiPropertyOptional({ nullable: true, type: String })
  @ValidateIf(({ tag }: ChangeBody) => tag !== undefined && tag !== null)
  @IsString()
  @MaxLength(60)
  tag?: string | null;

  @ApiPropertyOptional({ type: BeginsBody })
  @Maybe()
  @ValidateNested()
  @Type(() => BeginsBody)
  begins?: BeginsBody;
}

@ValidatorConstraint({ name: 'fieldKey' })
class FieldKeyShape implements ValidatorConstraintInterface {
  validate = (value: unknown): boolean => typeof value === 'string' && isFieldKey(value);
  defaultMessage = (): string => 'key must name a field of the sheet, such as plate.current';
}

class FieldBody implements NewDraftField {
  @ApiProperty({ example: 'plate.current' }) @Validate(FieldKeyShape) key: string;
  @ApiProperty({ description: 'as it was typed; empty takes it back' })
  @IsString()
  @MaxLength(LONGEST_TEXT)
  text: string;
  @ApiProperty() @IsString() @MaxLength(LONGEST_TEXT) why: string;

  @ApiProperty({ nullable: true, type: String, description: 'the word of the field that was looked at' })
  @ValidateIf(({ seen }: FieldBody) => seen !== null)
  @Matches(/^\d{1,18}$/)
  seen: string | null;
}

class FieldsBody {
  @ApiProperty({ type: [FieldBody] })
  @IsArray()
  @ArrayNotEmpty()
  @ArrayMaxSize(MOST_FIELDS)
  @ValidateNested({ each: true })
  @Type(() => FieldBody)
  fields: FieldBody[];
}

class WhyBody {
  @ApiProperty({ description: 'why, for the record' }) @IsString() @MinLength(3) @MaxLength(300) why: string;
}

class UseBody extends WhyBody {
  @ApiProperty({ enum: DRAFT_USES }) @IsIn(DRAFT_USES) kind: DraftUse;
  @ApiProperty({ description: 'the position' }) @IsString() @MinLength(1) @MaxLength(60) tag: string;

  @ApiPropertyOptional({ description: 'why it is right although something was found' })
  @Maybe()
  @IsString()
  @MinLength(3)
  @MaxLength(300)
  accepted?: string;
}

class TagQuery {
  @ApiPropertyOptional() @Maybe() @IsString() @MaxLength(60) tag?: string;
}

class WithQuery {
  @ApiProperty({ description: 'delivered, draft:ID, revision:ID, or TAG:REFERENCE' })
  @IsString()
  @MaxLength(160)
  with: string;
}

class SetFileQuery {
  @ApiProperty({ enum: SET_FILE_KINDS }) @IsIn(SET_FILE_KINDS) format: SetFileKind;
}

class FileQuery {
  @ApiProperty({ description: 'empty: as the file says' }) @IsString() @MaxLength(80) name: string;
  @ApiPropertyOptional() @Maybe() @IsString() @MaxLength(60) tag?: string;
  @ApiProperty() @IsString() @MaxLength(80) dictionary: string;
  @ApiProperty() @IsString() @MaxLength(60) region: string;
  @ApiPropertyOptional() @Maybe() @IsString() @MaxLength(60) rating?: string;
}

@ApiTags('drafts')
@Controller()
export class DraftsController {
  constructor(
    private readonly drafts: Drafts,
    private readonly revisions: DraftRevisions,
    private readonly uses: DraftUses,
    private readonly comparison: DraftComparison,
    private readonly files: DraftFiles,
  ) {}

  @Get('drafts')
  @ApiOperation({ summary: 'First settings that people work on, newest first' })
  all(@Query() { tag }: TagQuery): Promise<readonly DraftMark[]> {
    return this.drafts.marks(tag);
  }

  @Post('drafts')
  @NeedsRole('technician')
  @ApiOperation({
    summary: 'Begin first settings from a starting point, from the set of a position, or as delivered',
  })
  begin(@Body() { begins, ...wanted }: BeginBody, @Person() person: Account): Promise<SettingsDraftView> {
    return this.drafts.begin({ ...wanted, begins: beginningOf(begins) }, person);
  }

  @Post('drafts/files')
  @NeedsRole('technician')
  @TakesFile()
  @ApiOperation({ summary: 'Begin first settings with a draft file, or with the set of a file' })
  bring(
    @UploadedFile() file: SentFile | undefined,
    @Query() { tag = null as unknown as string, rating = null as unknown as string, ...target }: FileQuery,
    @Person() person: Account,
  ): Promise<BroughtDraft> {
    return this.files.bring(
      givenFile(file, 'a draft file, or a set as JSON, CSV, XLSX or DCF'),
      { ...target, tag, rating },
      person,
    );
  }

  @Get('drafts/:id')
  @ApiOperation({ summary: 'A draft with all that was typed into it' })
  get(@Param('id') id: string): Promise<SettingsDraftView> {
    return this.drafts.view(id);
  }

  @Put('drafts/:id/fields')
  @NeedsRole('technician')
  @ApiOperation({ summary: 'Type into fields, or take back what was typed' })
  type(
    @Param('id') id: string,
    @Body() { fields }: FieldsBody,
    @Person() person: Account,
  ): Promise<SettingsDraftView> {
    return this.drafts.type(id, fields, person);
  }

  @Patch('drafts/:id')
  @NeedsRole('technician')
  @ApiOperation({ summary: 'Choose another name, position, model, rating, region or beginning' })
  change(
    @Param('id') id: string,
    @Body() { version, begins, ...wanted }: ChangeBody,
    @Person() person: Account,
  ): Promise<SettingsDraftView> {
    return this.drafts.change(
      id,
      { ...wanted, ...(begins ? { begins: beginningOf(begins) } : {}) },
      version,
      person,
    );
  }

  @Post('drafts/:id/copies')
  @NeedsRole('technician')
  @ApiOperation({ summary: 'Carry a draft over to another model or size' })
  carry(
    @Param('id') id: string,
    @Body() wanted: OutfitBody,
    @Person() person: Account,
  ): Promise<SettingsDraftView> {
    return this.drafts.carry(id, wanted, person);
  }

  @Post('drafts/:id/revisions')
  @NeedsRole('technician')
  @ApiOperation({ summary: 'Keep a draft as it stands' })
  async keep(
    @Param('id') id: string,
    @Body() { why }: WhyBody,
    @Person() person: Account,
  ): Promise<SettingsDraftView> {
    await this.drafts.keep(id, why, person);
    return this.drafts.view(id);
  }

  @Post('drafts/:id/uses')
  @NeedsRole('technician')
  @ApiOperation({ summary: 'Make a key-in sheet, a write plan, a baseline or a wiring of a draft' })
  use(
    @Param('id') id: string,
    @Body() { accepted, ...wanted }: UseBody,
    @Person() person: Account,
  ): Promise<SettingsDraftView> {
    return this.uses.make(id, { ...wanted, accepted: accepted ?? null }, person);
  }

  @Post('drafts/:id/put-away')
  @NeedsRole('technician')
  @HttpCode(200)
  @ApiOperation({ summary: 'Put a draft away; it stays readable' })
  putAway(
    @Param('id') id: string,
    @Body() { why }: WhyBody,
    @Person() person: Account,
  ): Promise<SettingsDraftView> {
    return this.drafts.putAway(id, why, person);
  }

  @Post('drafts/:id/take-out')
  @NeedsRole('technician')
  @HttpCode(200)
  @ApiOperation({ summary: 'Take a draft out again' })
  takeOut(@Param('id') id: string, @Person() person: Account): Promise<SettingsDraftView> {
    return this.drafts.takeOut(id, person);
  }

  @Get('drafts/:id/comparison')
  @ApiOperation({ summary: 'A draft beside anything else, by what the parameters mean' })
  compare(@Param('id') id: string, @Query() query: WithQuery): Promise<AcrossView> {
    return this.comparison.of(id, query.with);
  }

  @Get('drafts/:id/file')
  @ApiOperation({ summary: 'A draft as a file, to go on with elsewhere' })
  async file(@Param('id') id: string, @Res() response: Response): Promise<void> {
    const { name, type, content } = await this.files.whole(id);
    response.attachment(name).type(type).send(content);
  }

  @Get('draft-revisions/:id')
  @ApiOperation({ summary: 'A kept revision: everything that was chosen, and why' })
  async revision(@Param('id') id: string): Promise<DraftRecord> {
    return (await this.revisions.get(id)).record;
  }

  @Get('draft-revisions/:id/file')
  @ApiOperation({ summary: 'The set of a kept revision as a file' })
  async setFile(
    @Param('id') id: string,
    @Query() { format }: SetFileQuery,
    @Person() person: Account,
    @Res() response: Response,
  ): Promise<void> {
    const { name, type, content } = await this.files.revision(id, format, person);
    response
      .attachment(name)
      .type(type)
      .send(typeof content === 'string' ? content : Buffer.from(content));
  }
}
