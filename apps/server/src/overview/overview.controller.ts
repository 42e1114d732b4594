import { Controller, Get, Param, Query } from '@nestjs/common';
import { ApiOperation, ApiPropertyOptional, ApiTags } from '@nestjs/swagger';
import {
  REGISTER_SORTS,
  STATE_KINDS,
  type FirstStep,
  type HistoryView,
  type PositionDetailView,
  type PositionStateKind,
  type RegisterOutline,
  type RegisterPage,
  type RegisterSort,
} from '@drive-keep/api';
import { Type } from 'class-transformer';
import { IsIn, IsInt, IsString, Max, MaxLength, Min } from 'class-validator';
import { Maybe } from '../problems/maybe.ts';
import { DataSource } from 'typeorm';
import { History } from '../sets/history.service.ts';
import { Plant } from '../plant/plant.entity.ts';
import { filterRegister } from './register-filter.ts';
import { Register } from '../register/register.service.ts';
import { FirstSteps } from './first-steps.service.ts';
import { Overview } from './overview.service.ts';

const MOST_AT_ONCE = 500;
const USUAL_AT_ONCE = 200;
const MOST_POSITIONS = 1_000_000;

class RegisterQuery {
  @ApiPropertyOptional() @Maybe() @IsString() @MaxLength(60) area?: string;
  @ApiPropertyOptional() @Maybe() @IsString() @MaxLength(60) machine?: string;
  @ApiPropertyOptional({ description: 'model without its version' })
  @Maybe()
  @IsString()
  @MaxLength(80)
  model?: string;
  @ApiPropertyOptional({ enum: ['low', 'middle', 'high'] })
  @Maybe()
  @IsIn(['low', 'middle', 'high'])
  criticality?: string;
  @ApiPropertyOptional({ description: 'words of tag, duty, place, model or serial number' })
  @Maybe()
  @IsString()
  @MaxLength(100)
  find?: string;
  @ApiPropertyOptional({ enum: STATE_KINDS }) @Maybe() @IsIn(STATE_KINDS) state?: PositionStateKind;
  @ApiPropertyOptional({
    enum: ['open', 'stop'],
    description: 'with an open finding of the checks, or one that stops',
  })
  @Maybe()
  @IsIn(['open', 'stop'])
  findings?: 'open' | 'stop';
  @ApiPropertyOptional({ enum: REGISTER_SORTS }) @Maybe() @IsIn(REGISTER_SORTS) sort?: RegisterSort;
  @ApiPropertyOptional({ enum: ['yes', 'no'] }) @Maybe() @IsIn(['yes', 'no']) backwards?: 'yes' | 'no';
  @ApiPropertyOptional({ type: Number })
  @Maybe()
  @Type(() => Number)
  @IsInt()
  @Min(0)
  @Max(MOST_POSITIONS)
  from?: number;
  @ApiPropertyOptional({ type: Number })
  @Maybe()
  @Type(() => Number)
  @IsInt()
  @Min(1)
  @Max(MOST_AT_ONCE)
  most?: number;
}

@ApiTags('register')
@Controller()
export class OverviewController {
  constructor(
    private readonly overview: Overview,
    private readonly register: Register,
    private readonly history: History,
    private readonly firstSteps: FirstSteps,
    private readonly dataSource: DataSource,
  ) {}

  @Get('register')
  @ApiOperation({ summary: 'Positions with their state: filtered, sorted, a part at a time' })
  async page(@Query() query: RegisterQuery): Promise<RegisterPage> {
    const { sort = 'plant', backwards, from = 0, most = USUAL_AT_ONCE, ...filter } = query;
    const [all, plant] = await Promise.all([
      this.overview.positions(),
      this.dataSource.getRepository(Plant).findOneBy({ id: true }),
    ]);
    const order = { sort, backwards: backwards === 'yes' };
    const { positions, counts, withFindings } = filterRegister(all, { ...filter, ...order });
    return {
      plant: plant?.name ?? '',
      all: all.filter(({ retiredAt }) => retiredAt === null).length,
      ...{ counts, withFindings },
      total: positions.length,
      onLine: positions.filter(({ unit }) => unit.line !== null).length,
      from,
      positions: positions.slice(from, from + most),
    };
  }

  @Get('register/outline')
  @ApiOperation({ summary: 'Areas with their machines, and models in use' })
  outline(): Promise<RegisterOutline> {
    return this.register.outline();
  }

  @Get('first-steps')
  @ApiOperation({ summary: 'What comes next in an installation that is new; nothing once all is done' })
  steps(): Promise<readonly FirstStep[]> {
    return this.firstSteps.view();
  }

  @Get('positions/:tag')
  @ApiOperation({ summary: 'One position' })
  detail(@Param('tag') tag: string): Promise<PositionDetailView> {
    return this.overview.detail(tag);
  }

  @Get('positions/:tag/history')
  @ApiOperation({ summary: 'Backups and baselines of a position, oldest first' })
  async strip(@Param('tag') tag: string): Promise<HistoryView> {
    const { position } = await this.register.unitAt(tag);
    return this.history.of(position.id);
  }
}
