import { Body, Controller, Get, HttpCode, Param, Post } from '@nestjs/common';
import { ApiOperation, ApiProperty, ApiPropertyOptional, ApiTags, PartialType } from '@nestjs/swagger';
import type { WritePlanView } from '@drive-keep/api';
import { Equals, IsBoolean, IsIn, IsString, MaxLength } from 'class-validator';
import { Maybe } from '../problems/maybe.ts';
import type { Account } from '../access/account.entity.ts';
import { May, NeedsRole, Person } from '../access/session.guard.ts';
import { CodesBody } from '../problems/codes-body.ts';
import { WriteFollowUps } from './write-follow-ups.service.ts';
import { WritePlans } from './write-plans.service.ts';

const MOST_PLANS = 20;

class PlanBody extends PartialType(CodesBody) {
  @ApiProperty({ example: 'baseline', description: 'set whose values are wanted' })
  @IsString()
  @MaxLength(400)
  target: string;
}

class ReleaseBody {
  @ApiProperty({ enum: [true], description: 'the machine is stopped and safe to write to' })
  @Equals(true, { message: 'stoppedAndSafe must be stated' })
  stoppedAndSafe: true;
}

class CarryOutBody {
  @ApiPropertyOptional({ description: 'restart the unit after the save, to prove that the values stuck' })
  @Maybe()
  @IsBoolean()
  restartCheck?: boolean;

  @ApiPropertyOptional({ description: 'it is known what the plan does to the line' })
  @Maybe()
  @IsBoolean()
  cutOffKnown?: boolean;
}

class FollowBody {
  @ApiProperty({ enum: ['resume', 'undo'] })
  @IsIn(['resume', 'undo'])
  kind: 'resume' | 'undo';
}

@ApiTags('writing')
@Controller()
export class WritePlansController {
  constructor(
    private readonly plans: WritePlans,
    private readonly followUps: WriteFollowUps,
  ) {}

  @Post('positions/:tag/write-plans')
  @NeedsRole('technician')
  @ApiOperation({ summary: 'Plan writes; nothing is written yet' })
  plan(
    @Param('tag') tag: string,
    @Body() { target, codes }: PlanBody,
    @Person() person: Account,
  ): Promise<WritePlanView> {
    return this.plans.plan(tag, target, codes, person);
  }

  @Get('positions/:tag/write-plans')
  @ApiOperation({ summary: 'The last write plans of a position, newest first' })
  of(@Param('tag') tag: string): Promise<readonly WritePlanView[]> {
    return this.plans.of(tag, MOST_PLANS);
  }

  @Get('write-plans/:id')
  @ApiOperation({ summary: 'A write plan with the state of each step' })
  get(@Param('id') id: string): Promise<WritePlanView> {
    return this.plans.view(id);
  }

  @Post('write-plans/:id/release')
  @May('write')
  @HttpCode(200)
  @ApiOperation({ summary: 'State that the machine is stopped and safe to write to' })
  release(
    @Param('id') id: string,
    @Body() _: ReleaseBody,
    @Person() person: Account,
  ): Promise<WritePlanView> {
    return this.plans.release(id, person);
  }

  @Post('write-plans/:id/carry-out')
  @May('write')
  @HttpCode(202)
  @ApiOperation({ summary: 'Write to the unit, as planned and released' })
  carryOut(
    @Param('id') id: string,
    @Body() how: CarryOutBody,
    @Person() person: Account,
  ): Promise<WritePlanView> {
    return this.plans.carryOut(id, person, how);
  }

  @Post('write-plans/:id/follow-ups')
  @May('write')
  @ApiOperation({
    summary: 'Read the unit and plan the rest of this plan, or the way back; nothing is written yet',
  })
  follow(
    @Param('id') id: string,
    @Body() { kind }: FollowBody,
    @Person() person: Account,
  ): Promise<WritePlanView> {
    return this.followUps.follow(id, kind, person);
  }
}
