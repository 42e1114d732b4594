import { Controller, Get, HttpCode, Post } from '@nestjs/common';
import { ApiOperation, ApiTags } from '@nestjs/swagger';
import type { IntegrityReport } from '@drive-keep/api';
import type { Account } from '../access/account.entity.ts';
import { NeedsRole, Person } from '../access/session.guard.ts';
import { Integrity } from './integrity.service.ts';

@ApiTags('integrity')
@Controller('integrity')
export class IntegrityController {
  constructor(private readonly integrity: Integrity) {}

  @Get()
  @ApiOperation({ summary: 'The last report of the check of everything that was kept' })
  async last(): Promise<{ readonly report: IntegrityReport | null }> {
    return { report: await this.integrity.report() };
  }

  @Post()
  @NeedsRole('engineer')
  @HttpCode(200)
  @ApiOperation({ summary: 'Hash everything that was kept again, and name what is damaged' })
  check(@Person() { person }: Account): Promise<IntegrityReport> {
    return this.integrity.check(person);
  }
}
