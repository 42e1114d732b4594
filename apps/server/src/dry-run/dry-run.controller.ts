import { Controller, Get, Param, Query } from '@nestjs/common';
import { ApiOperation, ApiPropertyOptional, ApiTags } from '@nestjs/swagger';
import type { DryRunView, VocabularyView } from '@drive-keep/api';
import { IsString, MaxLength } from 'class-validator';
import { Meanings } from '../catalogue/meanings.service.ts';
import { Maybe } from '../problems/maybe.ts';
import { DryRuns } from './dry-run.service.ts';

class SetQuery {
  @ApiPropertyOptional({
    description:
      'default, baseline, baseline:2, newest, backup:…, draft, plan:… or plan-before:…; the newest backup else',
  })
  @Maybe()
  @IsString()
  @MaxLength(400)
  set?: string;
}

@ApiTags('dry-run')
@Controller()
export class DryRunController {
  constructor(
    private readonly dryRuns: DryRuns,
    private readonly meanings: Meanings,
  ) {}

  @Get('positions/:tag/dry-run')
  @ApiOperation({ summary: 'A set of a position with its wiring, for what the drive does with its contacts' })
  of(@Param('tag') tag: string, @Query() { set }: SetQuery): Promise<DryRunView> {
    return this.dryRuns.of(tag, set ?? 'newest');
  }

  @Get('meanings')
  @ApiOperation({ summary: 'The vocabulary that all models share' })
  vocabulary(): VocabularyView {
    const { entries, functions } = this.meanings.vocabulary;
    return { entries, functions };
  }
}
