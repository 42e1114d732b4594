import { Body, Controller, Get, HttpCode, Param, Patch, Post, Put, Query } from '@nestjs/common';
import { ApiOperation, ApiProperty, ApiPropertyOptional, ApiTags } from '@nestjs/swagger';
import type {
  ChecksView,
  NewSaying,
  ReplacementMark,
  ReplacementRecord,
  ReplacementView,
} from '@drive-keep/api';
import { SAYING_PARTS, type SaidValue, type SayingPart } from '@drive-keep/core/replace';
import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
  ArrayNotEmpty,
  IsArray,
  IsBoolean,
  IsIn,
  IsISO8601,
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
import type { Account } from '../access/account.entity.ts';
import { NeedsRole, Person } from '../access/session.guard.ts';
import { Maybe } from '../problems/maybe.ts';
import { VersionBody } from '../problems/same-version.ts';
import { isSaidValue } from './said-value.ts';
import { ReplacementChecks } from './replacement-checks.service.ts';
import { Replacements } from './replacements.service.ts';

const MOST_AT_ONCE = 500;
/** A difference is named by its whole sentence. */
const LONGEST_LINE = 2000;

class BeginBody {
  @ApiProperty({ description: 'id of the dictionary of the successor' })
  @IsString()
  @MaxLength(80)
  dictionary: string;

  @ApiProperty() @IsString() @MaxLength(60) region: string;

  @ApiProperty({ nullable: true, type: String, description: 'nothing: the smallest that fits' })
  @ValidateIf(({ rating }: BeginBody) => rating !== null)
  @IsString()
  @MaxLength(60)
  rating: string | null;

  @ApiProperty({ example: 'newest', description: 'the set that the old unit held' })
  @IsString()
  @MaxLength(60)
  source: string;

  @ApiProperty({ description: 'why, for the record' }) @IsString() @MinLength(3) @MaxLength(300) why: string;
}

class ChangeBody extends VersionBody {
  @ApiPropertyOptional() @Maybe() @IsString() @MaxLength(80) dictionary?: string;
  @ApiPropertyOptional() @Maybe() @IsString() @MaxLength(60) region?: string;

  @ApiPropertyOptional({ nullable: true, type: String })
  @ValidateIf(({ rating }: ChangeBody) => rating !== undefined && rating !== null)
  @IsString()
  @MaxLength(60)
  rating?: string | null;

  @ApiPropertyOptional() @Maybe() @IsString() @MaxLength(60) source?: string;
  @ApiPropertyOptional({ description: 'take the newest cross-reference; what was said is taken back' })
  @Maybe()
  @IsBoolean()
  newestCross?: boolean;
}

@ValidatorConstraint({ name: 'saidValue' })
class SaidValueShape implements ValidatorConstraintInterface {
  validate = (value: unknown): boolean => isSaidValue(value);
  defaultMessage = (): string =>
    'value must be one of: a choice with its place, own values with a reason, a reason, a terminal, or done with a note';
}

class SayingBody implements NewSaying {
  @ApiProperty({ enum: SAYING_PARTS }) @IsIn(SAYING_PARTS) part: SayingPart;
  @ApiProperty() @IsString() @MinLength(1) @MaxLength(LONGEST_LINE) line: string;

  @ApiProperty({ nullable: true, type: Object, description: 'nothing: taken back' })
  @ValidateIf(({ value }: SayingBody) => value !== null)
  @Validate(SaidValueShape)
  value: SaidValue | null;

  @ApiProperty({ nullable: true, type: String, description: 'the word of the line that was looked at' })
  @ValidateIf(({ seen }: SayingBody) => seen !== null)
  @Matches(/^\d{1,18}$/)
  seen: string | null;

  @ApiProperty({ description: 'by the clock of the device' }) @IsISO8601() toldAt: string;
}

class SayingsBody {
  @ApiProperty({ type: [SayingBody] })
  @IsArray()
  @ArrayNotEmpty()
  @ArrayMaxSize(MOST_AT_ONCE)
  @ValidateNested({ each: true })
  @Type(() => SayingBody)
  sayings: SayingBody[];
}

class WhyBody {
  @ApiProperty({ description: 'why, for the record' }) @IsString() @MinLength(3) @MaxLength(300) why: string;
}

class TagQuery {
  @ApiPropertyOptional({ description: 'of one position alone' })
  @Maybe()
  @IsString()
  @MaxLength(60)
  tag?: string;
}

@ApiTags('replacing')
@Controller()
export class ReplacementsController {
  constructor(
    private readonly replacements: Replacements,
    private readonly checks: ReplacementChecks,
  ) {}

  @Post('positions/:tag/replacements')
  @NeedsRole('technician')
  @ApiOperation({ summary: 'Begin to replace the model of a position; nothing is written to a unit' })
  begin(
    @Param('tag') tag: string,
    @Body() body: BeginBody,
    @Person() person: Account,
  ): Promise<ReplacementView> {
    return this.replacements.begin(tag, body, person);
  }

  @Get('replacements')
  @ApiOperation({ summary: 'Replacements, the newest first' })
  marks(@Query() { tag }: TagQuery): Promise<readonly ReplacementMark[]> {
    return this.replacements.marks(tag);
  }

  @Get('replacements/:id')
  @ApiOperation({ summary: 'What a replacement is computed from, what was said of it, and how far it is' })
  view(@Param('id') id: string): Promise<ReplacementView> {
    return this.replacements.view(id);
  }

  @Get('replacements/:id/checks')
  @ApiOperation({ summary: 'What the checks would find in the successor as the sheet promises it' })
  checksOf(@Param('id') id: string): Promise<ChecksView> {
    return this.checks.of(id);
  }

  @Get('replacements/:id/record')
  @ApiOperation({ summary: 'The whole sheet as it stood when it was closed' })
  record(@Param('id') id: string): Promise<ReplacementRecord> {
    return this.replacements.record(id);
  }

  @Put('replacements/:id/sayings')
  @NeedsRole('technician')
  @ApiOperation({ summary: 'Answer, accept, move or tick lines of the sheet' })
  say(
    @Param('id') id: string,
    @Body() { sayings }: SayingsBody,
    @Person() person: Account,
  ): Promise<ReplacementView> {
    return this.replacements.say(id, sayings, person);
  }

  @Patch('replacements/:id')
  @NeedsRole('technician')
  @ApiOperation({ summary: 'Choose another successor, rating, region or set of the old unit' })
  change(
    @Param('id') id: string,
    @Body() { version, ...wanted }: ChangeBody,
    @Person() person: Account,
  ): Promise<ReplacementView> {
    return this.replacements.change(id, wanted, version, person);
  }

  @Post('replacements/:id/give-up')
  @NeedsRole('technician')
  @HttpCode(200)
  @ApiOperation({ summary: 'End a replacement before the new unit came in' })
  giveUp(
    @Param('id') id: string,
    @Body() { why }: WhyBody,
    @Person() person: Account,
  ): Promise<ReplacementView> {
    return this.replacements.giveUp(id, why, person);
  }
}
