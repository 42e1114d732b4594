import { Controller, Param, Query, Req, Sse, type MessageEvent } from '@nestjs/common';
import { ApiOperation, ApiPropertyOptional, ApiTags } from '@nestjs/swagger';
import { IsString, MaxLength } from 'class-validator';
import { Maybe } from '../problems/maybe.ts';
import type { Request } from 'express';
import type { Observable } from 'rxjs';
import type { Account } from '../access/account.entity.ts';
import { Person, tokenOf } from '../access/session.guard.ts';
import { Streams } from '../access/streams.ts';
import { ReferencedSets } from '../compare/referenced-sets.service.ts';
import { notFound } from '../problems/problem.ts';
import { Register } from '../register/register.service.ts';
import { LiveReading } from './live-reading.service.ts';

class LiveQuery {
  @ApiPropertyOptional({ default: 'baseline' }) @Maybe() @IsString() @MaxLength(60) a?: string;
}

@ApiTags('comparison')
@Controller('positions/:tag')
export class LiveController {
  constructor(
    private readonly register: Register,
    private readonly sets: ReferencedSets,
    private readonly live: LiveReading,
    private readonly streams: Streams,
  ) {}

  @Sse('live')
  @ApiOperation({
    summary: 'Reads the unit now and compares as it goes; nothing is kept (server-sent events)',
  })
  async readLive(
    @Param('tag') tag: string,
    @Query() { a }: LiveQuery,
    @Person() person: Account,
    @Req() request: Request,
  ): Promise<Observable<MessageEvent>> {
    const [at] = await this.register.inPlace([tag]);
    if (!at) throw notFound(`The position ${tag}`);
    const other = await this.sets.get(at, a ?? 'baseline');
    return this.streams.forPerson(person, tokenOf(request), await this.live.compare(at, other));
  }
}
