import { Controller, Get, Param, Query, Res } from '@nestjs/common';
import { ApiOperation, ApiTags } from '@nestjs/swagger';
import type { Response } from 'express';
import type { Account } from '../access/account.entity.ts';
import { Person } from '../access/session.guard.ts';
import { PaperQuery, send } from './papers.controller.ts';
import { ReplacementPapers } from './replacement-papers.service.ts';

@ApiTags('papers')
@Controller('replacements/:id')
export class ReplacementPapersController {
  constructor(private readonly papers: ReplacementPapers) {}

  @Get('replacement-record')
  @ApiOperation({ summary: 'Every line of the sheet with who said what, as a paper or a table' })
  async record(
    @Param('id') id: string,
    @Query() { format }: PaperQuery,
    @Person() person: Account,
    @Res() response: Response,
  ): Promise<void> {
    send(response, format, await this.papers.record(id, format, person));
  }

  @Get('wire-sheet')
  @ApiOperation({ summary: 'What hands do at the cabinet, with a box for each line' })
  async wires(
    @Param('id') id: string,
    @Query() { format }: PaperQuery,
    @Person() person: Account,
    @Res() response: Response,
  ): Promise<void> {
    send(response, format, await this.papers.wires(id, format, person));
  }
}
