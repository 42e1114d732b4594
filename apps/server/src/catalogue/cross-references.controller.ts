import { Body, Controller, Get, Param, Put, Query } from '@nestjs/common';
import { ApiOperation, ApiProperty, ApiPropertyOptional, ApiTags } from '@nestjs/swagger';
import type { CrossReferencePair, CrossReferenceView } from '@drive-keep/api';
import { Type } from 'class-transformer';
import { IsInt, IsString, Max, MaxLength, Min, MinLength } from 'class-validator';
import type { Account } from '../access/account.entity.ts';
import { NeedsRole, Person } from '../access/session.guard.ts';
import { Maybe } from '../problems/maybe.ts';
import { CrossReferences } from './cross-references.service.ts';

const MOST_REVISIONS = 1_000_000;
/** Some hundred lines with their reasons. */
const LONGEST_FILE = 400_000;

class RevisionQuery {
  @ApiPropertyOptional({ description: 'a revision of the plant; 0 is what the catalogue ships' })
  @Maybe()
  @Type(() => Number)
  @IsInt()
  @Min(0)
  @Max(MOST_REVISIONS)
  revision?: number;
}

class CrossReferenceBody {
  @ApiProperty({ description: 'the whole file (docs/formats/cross-reference.schema.json)' })
  @IsString()
  @MaxLength(LONGEST_FILE)
  text: string;

  @ApiProperty({ description: 'why, for the record' }) @IsString() @MinLength(3) @MaxLength(300) why: string;

  @ApiProperty({ description: 'the revision of the plant that was looked at, 0 for none' })
  @IsInt()
  @Min(0)
  @Max(MOST_REVISIONS)
  seen: number;
}

@ApiTags('catalogue')
@Controller('cross-references')
export class CrossReferencesController {
  constructor(private readonly references: CrossReferences) {}

  @Get()
  @ApiOperation({ summary: 'Pairs of models for which somebody has written what no bridge can know' })
  pairs(): Promise<readonly CrossReferencePair[]> {
    return this.references.pairs();
  }

  @Get(':old/:fresh')
  @ApiOperation({ summary: 'What no bridge can know of a model that another one replaces' })
  of(
    @Param('old') old: string,
    @Param('fresh') fresh: string,
    @Query() { revision }: RevisionQuery,
  ): Promise<CrossReferenceView> {
    return this.references.of(old, fresh, revision);
  }

  @Put(':old/:fresh')
  @NeedsRole('engineer')
  @ApiOperation({ summary: 'Keep a further revision of the plant; one with faults is refused' })
  save(
    @Param('old') old: string,
    @Param('fresh') fresh: string,
    @Body() body: CrossReferenceBody,
    @Person() person: Account,
  ): Promise<CrossReferenceView> {
    return this.references.save({ old, fresh, ...body }, person);
  }
}
