import { Controller, Get, Param, Query } from '@nestjs/common';
import { ApiOperation, ApiPropertyOptional, ApiTags } from '@nestjs/swagger';
import type { ComparisonRowView, ComparisonView, DifferenceOrigin, ParameterStep } from '@drive-keep/api';
import { compareSets, describeChange, differenceOf, type ComparisonRow } from '@drive-keep/core/compare';
import {
  defaultOf,
  factsOf,
  findParameter,
  limitsOf,
  type Code,
  type Dictionary,
  type Facts,
} from '@drive-keep/core/dictionary';
import type { ParameterSet } from '@drive-keep/core/sets';
import { IsIn, IsOptional, IsString, MaxLength } from 'class-validator';
import { Dictionaries } from '../catalogue/dictionaries.service.ts';
import { notFound, ProblemException } from '../problems/problem.ts';
import { Register } from '../register/register.service.ts';
import { History } from '../sets/history.service.ts';
import { ReferencedSets, type ReferencedSet } from './referenced-sets.service.ts';

const FLAG = ['yes', 'no'] as const;

class ComparisonQuery {
  @ApiPropertyOptional({ default: 'baseline' }) @IsOptional() @IsString() @MaxLength(60) a?: string;
  @ApiPropertyOptional({ default: 'newest' }) @IsOptional() @IsString() @MaxLength(60) b?: string;
  @ApiPropertyOptional({ enum: FLAG, description: 'monitors and counters too' })
  @IsOptional()
  @IsIn(FLAG)
  noise?: 'yes' | 'no';
  @ApiPropertyOptional({ enum: FLAG, description: 'rows without a difference too' })
  @IsOptional()
  @IsIn(FLAG)
  all?: 'yes' | 'no';
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
    const { rows, ...counts } = compareSets(dictionary, a.set, b.set, { noise });
    const shown = query.all === 'yes' ? allRows(dictionary, a.set, b.set, noise, rows) : rows;
    const views = shown.map((row) => rowView(dictionary, facts, row));
    return { dictionary: dictionary.id, a: a.side, b: b.side, rows: views, ...counts };
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

function withAside(found: ReferencedSet, noise: boolean): ReferencedSet {
  if (!noise) return found;
  const readings = new Map([...found.set.readings, ...found.aside]);
  return { ...found, set: { dictionary: found.set.dictionary, readings } };
}

/** Every parameter in menu order; noise only where it was asked for. */
function allRows(
  dictionary: Dictionary,
  a: ParameterSet,
  b: ParameterSet,
  noise: boolean,
  differing: readonly ComparisonRow[],
): readonly ComparisonRow[] {
  const known = new Map<Code, ComparisonRow>(differing.map((row) => [row.code, row]));
  const settings = new Set([...a.readings.keys(), ...b.readings.keys()]);
  return dictionary.parameters
    .filter((parameter) => noise || settings.has(parameter.code))
    .map((parameter) => {
      const [left, right] = [a.readings.get(parameter.code), b.readings.get(parameter.code)];
      const fresh = {
        code: parameter.code,
        a: left,
        b: right,
        difference: differenceOf(parameter, left, right),
      };
      return known.get(parameter.code) ?? fresh;
    });
}

function rowView(dictionary: Dictionary, facts: Facts, row: ComparisonRow): ComparisonRowView {
  const parameter = findParameter(dictionary, row.code);
  if (!parameter) throw new Error(`${row.code} is compared but not in ${dictionary.id}`);
  const { least, greatest } = limitsOf(parameter, facts);
  return {
    code: row.code,
    a: row.a ?? null,
    b: row.b ?? null,
    least: Number.isFinite(least) ? least : null,
    greatest: Number.isFinite(greatest) ? greatest : null,
    default: defaultOf(parameter, facts) ?? null,
    difference: row.difference,
    change: describeChange(parameter, row.a, row.b),
  };
}
