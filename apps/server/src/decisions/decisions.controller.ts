import { Body, Controller, Delete, Get, HttpCode, Param, Post, Put } from '@nestjs/common';
import { ApiOperation, ApiProperty, ApiPropertyOptional, ApiTags } from '@nestjs/swagger';
import {
  DECISION_KINDS,
  type DecisionKind,
  type DecisionsView,
  type DraftView,
  type FinishedDecisions,
} from '@drive-keep/api';
import { IsIn, IsInt, IsString, Matches, Max, MaxLength, Min, MinLength } from 'class-validator';
import { Maybe } from '../problems/maybe.ts';
import type { Account } from '../access/account.entity.ts';
import { NeedsRole, Person } from '../access/session.guard.ts';
import { CodesBody } from '../problems/codes-body.ts';
import { BaselineDrafts } from './baseline-drafts.service.ts';
import { Decisions } from './decisions.service.ts';

const MOST_WIRING = 1_000_000;

class DecisionBody extends CodesBody {
  @ApiProperty({ enum: DECISION_KINDS }) @IsIn(DECISION_KINDS) kind: DecisionKind;
  @ApiPropertyOptional({ description: 'required for taking in and tolerating' })
  @Maybe()
  @IsString()
  @MaxLength(300)
  reason?: string;
  @ApiPropertyOptional({ example: '2027-03-31', description: 'last day of a toleration' })
  @Maybe()
  @Matches(/^\d{4}-\d{2}-\d{2}$/, { message: 'until must be a day such as 2027-03-31' })
  until?: string;
}

class ReasonBody {
  @ApiProperty() @IsString() @MinLength(3) @MaxLength(300) reason: string;
}

class SignBody {
  @ApiPropertyOptional({
    description: 'revision of the wiring that was looked at; nothing where none was kept',
  })
  @Maybe()
  @IsInt()
  @Min(1)
  @Max(MOST_WIRING)
  wiring?: number;
}

@ApiTags('decisions')
@Controller()
export class DecisionsController {
  constructor(
    private readonly decisions: Decisions,
    private readonly drafts: BaselineDrafts,
  ) {}

  @Get('positions/:tag/decisions')
  @ApiOperation({
    summary: 'One’s own open decisions, what is tolerated, and the draft that waits for a signature',
  })
  view(@Param('tag') tag: string, @Person() person: Account): Promise<DecisionsView> {
    return this.decisions.view(tag, person);
  }

  @Put('positions/:tag/decisions')
  @NeedsRole('technician')
  @ApiOperation({ summary: 'Decide about differences; nothing happens before the decisions are finished' })
  decide(
    @Param('tag') tag: string,
    @Body() { codes, kind, reason = '', until = undefined }: DecisionBody,
    @Person() person: Account,
  ): Promise<DecisionsView> {
    return this.decisions.decide(tag, { codes, kind, reason: reason.trim(), until: until ?? null }, person);
  }

  @Post('positions/:tag/decisions/withdraw')
  @NeedsRole('technician')
  @HttpCode(200)
  @ApiOperation({ summary: 'Take one’s own open decisions back' })
  withdraw(
    @Param('tag') tag: string,
    @Body() { codes }: CodesBody,
    @Person() person: Account,
  ): Promise<DecisionsView> {
    return this.decisions.withdraw(tag, codes, person);
  }

  @Post('positions/:tag/decisions/finish')
  @NeedsRole('technician')
  @HttpCode(200)
  @ApiOperation({ summary: 'Turn one’s decisions into a write plan, a baseline draft and tolerations' })
  finish(@Param('tag') tag: string, @Person() person: Account): Promise<FinishedDecisions> {
    return this.decisions.finish(tag, person);
  }

  @Delete('positions/:tag/tolerations/:code')
  @NeedsRole('technician')
  @ApiOperation({ summary: 'End a toleration; the difference comes back' })
  endToleration(
    @Param('tag') tag: string,
    @Param('code') code: string,
    @Person() person: Account,
  ): Promise<DecisionsView> {
    return this.decisions.endToleration(tag, code, person);
  }

  @Post('positions/:tag/baseline-drafts')
  @NeedsRole('technician')
  @ApiOperation({ summary: 'Propose the newest backup as the first baseline' })
  proposeFirst(
    @Param('tag') tag: string,
    @Body() { reason }: ReasonBody,
    @Person() person: Account,
  ): Promise<DraftView> {
    return this.drafts.proposeFirst(tag, reason, person);
  }

  @Post('positions/:tag/wiring/baseline-draft')
  @NeedsRole('technician')
  @ApiOperation({ summary: 'Propose the baseline as it stands, to be signed with the newest wiring' })
  proposeWiring(
    @Param('tag') tag: string,
    @Body() { reason }: ReasonBody,
    @Person() person: Account,
  ): Promise<DraftView> {
    return this.drafts.proposeWiring(tag, reason, person);
  }

  @Post('baseline-drafts/:id/sign')
  @NeedsRole('engineer')
  @HttpCode(204)
  @ApiOperation({ summary: 'Sign a proposed baseline; it is then never changed' })
  sign(
    @Param('id') id: string,
    @Body() { wiring = undefined }: SignBody,
    @Person() person: Account,
  ): Promise<void> {
    return this.drafts.sign(id, wiring ?? null, person);
  }

  @Post('baseline-drafts/:id/refuse')
  @NeedsRole('engineer')
  @HttpCode(204)
  @ApiOperation({ summary: 'Refuse a proposed baseline' })
  refuse(@Param('id') id: string, @Body() { reason }: ReasonBody, @Person() person: Account): Promise<void> {
    return this.drafts.refuse(id, reason, person);
  }
}
