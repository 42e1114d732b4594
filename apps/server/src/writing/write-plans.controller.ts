import { Body, Controller, Get, HttpCode, Param, Post } from '@nestjs/common';
import { ApiOperation, ApiProperty, ApiTags } from '@nestjs/swagger';
import type { WritePlanView } from '@drive-keep/api';
import { Equals, IsString, MaxLength } from 'class-validator';
import type { Account } from '../access/account.entity.ts';
import { NeedsRole, Person } from '../access/session.guard.ts';
import { CodesBody } from '../problems/codes-body.ts';
import { WritePlans } from './write-plans.service.ts';

class PlanBody extends CodesBody {
  @ApiProperty({ example: 'baseline', description: 'set whose values are wanted' })
  @IsString()
  @MaxLength(60)
  target: string;
}

class ReleaseBody {
  @ApiProperty({ enum: [true], description: 'the machine is stopped and safe to write to' })
  @Equals(true, { message: 'stoppedAndSafe must be stated' })
  stoppedAndSafe: true;
}

@ApiTags('writing')
@Controller()
export class WritePlansController {
  constructor(private readonly plans: WritePlans) {}

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

  @Get('write-plans/:id')
  @ApiOperation({ summary: 'A write plan with the state of each step' })
  get(@Param('id') id: string): Promise<WritePlanView> {
    return this.plans.view(id);
  }

  @Post('write-plans/:id/release')
  @NeedsRole('technician')
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
  @NeedsRole('technician')
  @HttpCode(202)
  @ApiOperation({ summary: 'Write to the unit, as planned and released' })
  carryOut(@Param('id') id: string, @Person() person: Account): Promise<WritePlanView> {
    return this.plans.carryOut(id, person);
  }
}
