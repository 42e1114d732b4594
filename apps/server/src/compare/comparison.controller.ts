import { Controller, Get, Param, Query } from '@nestjs/common';
import { ApiOperation, ApiPropertyOptional, ApiTags } from '@nestjs/swagger';
import type { ComparisonView, DifferenceOrigin, ParameterStep, ThreeWayView } from '@drive-keep/api';
import { compareSets, compareThree } from '@drive-keep/core/compare';
import { factsOf, findParameter } from '@drive-keep/core/dictionary';
import { IsIn, IsString, MaxLength } from 'class-validator';
import { Maybe } from '../problems/maybe.ts';
import { Dictionaries } from '../catalogue/dictionaries.service.ts';
import { notFound, ProblemException } from '../problems/problem.ts';
import { Register } from '../register/register.service.ts';
import { History } from '../sets/history.service.ts';
import { allRows, rowView, withAside } from './comparison-rows.ts';
import { ReferencedSets, untoldOf } from './referenced-sets.service.ts';

const FLAG = ['yes', 'no'] as const;

class ComparisonQuery {
  @ApiPropertyOptional({ default: 'baseline' }) @Maybe() @IsString() @MaxLength(400) a?: string;
  @ApiPropertyOptional({ default: 'newest' }) @Maybe() @IsString() @MaxLength(400) b?: string;
  @ApiPropertyOptional({ enum: FLAG, description: 'monitors and counters too' })
  @Maybe()
  @IsIn(FLAG)
  noise?: 'yes' | 'no';
  @ApiPropertyOptional({ enum: FLAG, description: 'rows without a difference too' })
  @Maybe()
  @IsIn(FLAG)
  all?: 'yes' | 'no';
}

class ThreeWayQuery {
  @ApiPropertyOptional({ description: 'the set before; the baseline is the third' })
  @IsString()
  @MaxLength(60)
  before: string;
  @ApiPropertyOptional({ default: 'newest' }) @Maybe() @IsString() @MaxLength(60) now?: string;
}

@ApiTags('comparison')
@Controller('positions/:tag')
export class ComparisonController {
  constructor(
    private readonly register: Register,
    private readonly sets: ReferencedSets,
    private readonly dictionaries: Dictionaries,
    private readonly history: History,
  ) {}

  @Get('comparison')
  @ApiOperation({ summary: 'Two sets of a position, parameter by parameter' })
  async compare(@Param('tag') tag: string, @Query() query: ComparisonQuery): Promise<ComparisonView> {
    const at = await this.register.unitAt(tag);
    const noise = query.noise === 'yes';
    const a = withAside(await this.sets.get(at, query.a ?? 'baseline'), noise);
    const b = withAside(await this.sets.get(at, query.b ?? 'newest'), noise);
    if (a.set.dictionary !== b.set.dictionary) {
      const detail = `A is a set of ${a.set.dictionary}, B one of ${b.set.dictionary}; they have no parameters in common.`;
      throw new ProblemException(422, 'different-models', detail);
    }
    const dictionary = await this.dictionaries.get(a.set.dictionary);
    const facts = factsOf(dictionary, at.unit) ?? {};
    const { rows, ...counts } = compareSets(dictionary, a.set, b.set, { noise, untold: untoldOf(a, b) });
    const shown = query.all === 'yes' ? allRows(dictionary, a.set, b.set, noise, rows) : rows;
    const views = shown.map((row) => rowView(dictionary, facts, row));
    return { dictionary: dictionary.id, a: a.side, b: b.side, rows: views, ...counts };
  }

  @Get('three-ways')
  @ApiOperation({ summary: 'What the baseline wants, what was held before, what is held now' })
  async threeWays(@Param('tag') tag: string, @Query() query: ThreeWayQuery): Promise<ThreeWayView> {
    const at = await this.register.unitAt(tag);
    const [baseline, before, now] = await Promise.all(
      ['baseline', query.before, query.now ?? 'newest'].map((reference) => this.sets.get(at, reference)),
    );
    if (!baseline || !before || !now) throw notFound('A set of this comparison');
    const { dictionary: id } = baseline.set;
    if ([before, now].some(({ set }) => set.dictionary !== id)) {
      const detail = `The three sets are of different models; compare those of ${id} with each other.`;
      throw new ProblemException(422, 'different-models', detail);
    }
    const dictionary = await this.dictionaries.get(id);
    const origins = await this.history.origins(at.position.id);
    const known = new Map(origins.map((origin) => [origin.code, origin]));
    const rows = compareThree(dictionary, baseline.set, before.set, now.set);
    return {
      dictionary: id,
      baseline: baseline.side,
      before: before.side,
      now: now.side,
      rows: rows.map((row) => ({
        code: row.code,
        baseline: row.baseline ?? null,
        before: row.before ?? null,
        now: row.now ?? null,
        way: row.way,
        // When it came about is known of what the unit holds now.
        origin: (now.side.reference === 'newest' && known.get(row.code)) || null,
      })),
    };
  }

  @Get('difference-origins')
  @ApiOperation({
    summary: 'Since when each difference from the baseline is there, and whether it was at the signing',
  })
  async origins(@Param('tag') tag: string): Promise<readonly DifferenceOrigin[]> {
    const { position } = await this.register.unitAt(tag);
    return this.history.origins(position.id);
  }

  @Get('parameters/:code/history')
  @ApiOperation({ summary: 'When one parameter changed, from the backups of the position' })
  async ofParameter(
    @Param('tag') tag: string,
    @Param('code') code: string,
  ): Promise<readonly ParameterStep[]> {
    const { position, unit } = await this.register.unitAt(tag);
    const parameter = findParameter(await this.dictionaries.get(unit.dictionaryId), code);
    if (!parameter) throw notFound(`The parameter ${code}`);
    return this.history.ofParameter(position.id, parameter.code);
  }
}
