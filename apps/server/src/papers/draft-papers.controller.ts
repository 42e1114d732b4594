import { Controller, Get, Param, Query, Res } from '@nestjs/common';
import { ApiOperation, ApiTags } from '@nestjs/swagger';
import type { Response } from 'express';
import type { Account } from '../access/account.entity.ts';
import { Person } from '../access/session.guard.ts';
import { DraftRevisions } from '../drafts/draft-revisions.service.ts';
import { DRAFT_COLUMNS, draftFacts, draftParts } from './draft-record.ts';
import { paperTime } from './paper-time.ts';
import { PaperQuery, send } from './papers.controller.ts';
import { Papers } from './papers.service.ts';

@ApiTags('papers')
@Controller('draft-revisions/:id')
export class DraftPapersController {
  constructor(
    private readonly papers: Papers,
    private readonly revisions: DraftRevisions,
  ) {}

  @Get('draft-record')
  @ApiOperation({ summary: 'First settings with all that was chosen and why, as a paper or a table' })
  async record(
    @Param('id') id: string,
    @Query() { format }: PaperQuery,
    @Person() account: Account,
    @Res() response: Response,
  ): Promise<void> {
    const kept = await this.revisions.get(id);
    const { record, revision, title } = kept;
    const paper = {
      title: 'First settings',
      about: `${record.name}, revision ${revision.revision}`,
      plant: await this.papers.plantName(),
      printed: `${paperTime(new Date())} by ${account.person}`,
      columns: DRAFT_COLUMNS,
      facts: draftFacts(kept),
      parts: draftParts(record),
      nothing: 'The draft sets nothing.',
      signatures: [
        { what: 'Kept', by: revision.keptBy, at: paperTime(revision.keptAt) },
        { what: 'Looked at', by: '', at: '' },
      ],
    };
    const name = title.replace(/[^\p{L}\p{N}]+/gu, '-');
    send(response, format, await this.papers.leave(paper, name, record.tag, format, account));
  }
}
