import {
  Body,
  Controller,
  Get,
  HttpCode,
  Param,
  Post,
  Put,
  Query,
  Req,
  Sse,
  type MessageEvent,
} from '@nestjs/common';
import { ApiOperation, ApiProperty, ApiTags } from '@nestjs/swagger';
import {
  PROOF_VERDICTS,
  type NewProofSaying,
  type ProofReading,
  type ProofRunView,
  type ProofScope,
  type ProofsView,
  type ProofVerdict,
} from '@drive-keep/api';
import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
  ArrayNotEmpty,
  IsArray,
  IsIn,
  IsISO8601,
  IsString,
  IsUUID,
  MaxLength,
  MinLength,
  ValidateIf,
  ValidateNested,
} from 'class-validator';
import type { Request } from 'express';
import { map, type Observable } from 'rxjs';
import type { Account } from '../access/account.entity.ts';
import { NeedsRole, Person, tokenOf } from '../access/session.guard.ts';
import { Streams } from '../access/streams.ts';
import { ProofRuns } from './proof-runs.service.ts';
import { ProofViews } from './proof-views.service.ts';
import { ProofWatch } from './proof-watch.service.ts';

const MOST_AT_ONCE = 500;
/** A step is named by its deeds. */
const LONGEST_STEP = 2000;

class BeginBody {
  @ApiProperty({ example: 'newest', description: 'what the unit should hold' })
  @IsString()
  @MaxLength(60)
  set: string;

  @ApiProperty({ enum: ['whole', 'changed'], description: 'all of it, or what matters since the last one' })
  @IsIn(['whole', 'changed'])
  scope: ProofScope;

  @ApiProperty({ description: 'why, for the record' }) @IsString() @MinLength(3) @MaxLength(300) why: string;
}

class SayingBody implements NewProofSaying {
  @ApiProperty() @IsString() @MinLength(1) @MaxLength(LONGEST_STEP) step: string;

  @ApiProperty({ enum: PROOF_VERDICTS, nullable: true, description: 'nothing: taken back' })
  @ValidateIf(({ verdict }: SayingBody) => verdict !== null)
  @IsIn(PROOF_VERDICTS)
  verdict: ProofVerdict | null;

  @ApiProperty({ description: 'what was seen, or why it was not done' })
  @IsString()
  @MaxLength(500)
  seen: string;

  @ApiProperty({ nullable: true, type: String, description: 'id of the evidence on which the word rests' })
  @ValidateIf(({ evidence }: SayingBody) => evidence !== null)
  @IsUUID()
  evidence: string | null;

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

class StepQuery {
  @ApiProperty() @IsString() @MinLength(1) @MaxLength(LONGEST_STEP) step: string;
}

@ApiTags('proving')
@Controller()
export class ProofsController {
  constructor(
    private readonly runs: ProofRuns,
    private readonly views: ProofViews,
    private readonly watching: ProofWatch,
    private readonly streams: Streams,
  ) {}

  @Post('positions/:tag/proofs')
  @NeedsRole('technician')
  @ApiOperation({ summary: 'Begin a proof run; nothing is written to a unit, and nothing is started' })
  begin(
    @Param('tag') tag: string,
    @Body() body: BeginBody,
    @Person() person: Account,
  ): Promise<ProofRunView> {
    return this.runs.begin(tag, body, person);
  }

  @Get('positions/:tag/proofs')
  @ApiOperation({ summary: 'Proof runs of a position, the newest first, and whether one is asked for' })
  ofPosition(@Param('tag') tag: string): Promise<ProofsView> {
    return this.runs.ofPosition(tag);
  }

  @Get('proofs/:id')
  @ApiOperation({ summary: 'A proof run: its steps, what was read, and what was said' })
  view(@Param('id') id: string): Promise<ProofRunView> {
    return this.runs.view(id);
  }

  @Get('proofs/:id/evidence/:evidence')
  @ApiOperation({ summary: 'What was read for one piece of evidence' })
  readings(@Param('id') id: string, @Param('evidence') evidence: string): Promise<readonly ProofReading[]> {
    return this.views.readings(id, evidence);
  }

  @Sse('proofs/:id/watching')
  @NeedsRole('technician')
  @ApiOperation({
    summary: 'Goes along while somebody works through a step, and keeps what was seen (server-sent events)',
  })
  async watch(
    @Param('id') id: string,
    @Query() { step }: StepQuery,
    @Person() account: Account,
    @Req() request: Request,
  ): Promise<Observable<MessageEvent>> {
    const events = (await this.watching.watch(id, step, account)).pipe(
      map((data) => ({ type: 'proof', data })),
    );
    return this.streams.forPerson(account, tokenOf(request), events);
  }

  @Put('proofs/:id/sayings')
  @NeedsRole('technician')
  @ApiOperation({ summary: 'Say of steps that they passed, failed, or why they were not done' })
  say(
    @Param('id') id: string,
    @Body() { sayings }: SayingsBody,
    @Person() person: Account,
  ): Promise<ProofRunView> {
    return this.runs.say(id, sayings, person);
  }

  @Post('proofs/:id/close')
  @NeedsRole('technician')
  @HttpCode(200)
  @ApiOperation({ summary: 'End a proof run of which everything was said: it is kept for ever' })
  close(@Param('id') id: string, @Person() person: Account): Promise<ProofRunView> {
    return this.runs.close(id, person);
  }

  @Post('proofs/:id/give-up')
  @NeedsRole('technician')
  @HttpCode(200)
  @ApiOperation({ summary: 'End a proof run before everything was said; what was said stays' })
  giveUp(
    @Param('id') id: string,
    @Body() { why }: WhyBody,
    @Person() person: Account,
  ): Promise<ProofRunView> {
    return this.runs.giveUp(id, why, person);
  }
}
