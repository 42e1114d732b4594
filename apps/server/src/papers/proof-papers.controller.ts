import { Controller, Get, Param, Query, Res } from '@nestjs/common';
import { ApiOperation, ApiTags } from '@nestjs/swagger';
import type { Response } from 'express';
import type { Account } from '../access/account.entity.ts';
import { Person } from '../access/session.guard.ts';
import { ProofViews } from '../proving/proof-views.service.ts';
import { paperTime } from './paper-time.ts';
import { PaperQuery, send } from './papers.controller.ts';
import { Papers } from './papers.service.ts';
import { PROOF_COLUMNS, proofFacts, proofParts, proofSignatures } from './proof-record.ts';

@ApiTags('papers')
@Controller('proofs/:id')
export class ProofPapersController {
  constructor(
    private readonly papers: Papers,
    private readonly proofs: ProofViews,
  ) {}

  @Get('proof-record')
  @ApiOperation({ summary: 'A proof run with what was seen and said, as a paper or a table' })
  async record(
    @Param('id') id: string,
    @Query() { format }: PaperQuery,
    @Person() account: Account,
    @Res() response: Response,
  ): Promise<void> {
    const run = await this.proofs.of(id);
    const paper = {
      title: 'Proof record',
      about: `${run.tag}, ${run.duty}`,
      plant: await this.papers.plantName(),
      printed: `${paperTime(new Date())} by ${account.person}`,
      columns: PROOF_COLUMNS,
      facts: proofFacts(run),
      parts: proofParts(run),
      nothing: 'The run has no step.',
      signatures: proofSignatures(run),
    };
    send(response, format, await this.papers.leave(paper, `${run.tag}_proof`, run.tag, format, account));
  }
}
