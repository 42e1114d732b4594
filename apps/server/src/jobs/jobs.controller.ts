import { Controller, Get, HttpCode, Param, Post, Query, Req, Sse, type MessageEvent } from '@nestjs/common';
import { ApiOperation, ApiPropertyOptional, ApiTags } from '@nestjs/swagger';
import type { JobView } from '@drive-keep/api';
import { IsIn } from 'class-validator';
import { Maybe } from '../problems/maybe.ts';
import {
  concatMap,
  filter,
  finalize,
  from,
  interval,
  map,
  merge,
  ReplaySubject,
  share,
  startWith,
  takeWhile,
  throttleTime,
  type Observable,
} from 'rxjs';
import type { Request } from 'express';
import type { Account } from '../access/account.entity.ts';
import { NeedsRole, Person, tokenOf } from '../access/session.guard.ts';
import { Streams } from '../access/streams.ts';
import { Logbook } from '../logbook/logbook.service.ts';
import { JobEvents } from './job-events.service.ts';
import { Jobs } from './jobs.service.ts';

/** Often enough to look alive, seldom enough for a tablet on bad wireless. */
const TELL_MS = 200;
/** Proxies close a silent stream; a comment-sized event keeps it open. */
const KEEP_ALIVE_MS = 15_000;

class JobsQuery {
  @ApiPropertyOptional({ enum: ['open', 'recent'], default: 'open' })
  @Maybe()
  @IsIn(['open', 'recent'])
  which?: 'open' | 'recent';
}

@ApiTags('jobs')
@Controller('jobs')
export class JobsController {
  private readonly followed = new Map<string, Observable<JobView>>();

  constructor(
    private readonly jobs: Jobs,
    private readonly events: JobEvents,
    private readonly streams: Streams,
    private readonly logbook: Logbook,
  ) {}

  @Get()
  @ApiOperation({ summary: 'Jobs that are at work, or the newest fifty' })
  list(@Query() { which }: JobsQuery): Promise<JobView[]> {
    return which === 'recent' ? this.jobs.recent() : this.jobs.open();
  }

  @Get(':id')
  @ApiOperation({ summary: 'One job with what happened to each unit' })
  get(@Param('id') id: string): Promise<JobView> {
    return this.jobs.view(id);
  }

  @Sse(':id/events')
  @ApiOperation({ summary: 'The job each time it changes, until it ends (server-sent events)' })
  async follow(
    @Param('id') id: string,
    @Person() person: Account,
    @Req() request: Request,
  ): Promise<Observable<MessageEvent>> {
    await this.jobs.load(id);
    const changes = this.changesOf(id).pipe(map((job) => ({ type: 'job', data: job })));
    const alive = interval(KEEP_ALIVE_MS).pipe(map(() => ({ type: 'alive', data: {} })));
    const told = merge(changes, alive).pipe(takeWhile((event) => !isOver(event.data as JobView), true));
    return this.streams.forPerson(person, tokenOf(request), told);
  }

  /** Looked up once for each change, however many follow the job. */
  private changesOf(id: string): Observable<JobView> {
    const known = this.followed.get(id);
    if (known) return known;
    const followed = this.events.changes.pipe(
      filter((changed) => changed === id),
      throttleTime(TELL_MS, undefined, { leading: true, trailing: true }),
      startWith(id),
      concatMap(() => from(this.jobs.view(id))),
      finalize(() => this.followed.delete(id)),
      share({ connector: () => new ReplaySubject<JobView>(1), resetOnRefCountZero: true }),
    );
    this.followed.set(id, followed);
    return followed;
  }

  @Post(':id/stop')
  @NeedsRole('technician')
  @HttpCode(202)
  @ApiOperation({ summary: 'Stop a job at its next step' })
  async stop(@Param('id') id: string, @Person() person: Account): Promise<JobView> {
    await this.jobs.requestStop(id);
    const job = await this.jobs.view(id);
    const text = `Asked to stop: ${job.reason}.`;
    await this.logbook.write({ person: person.person, action: 'job-stop', text, facts: { job: id } });
    return job;
  }
}

const isOver = (job: Partial<JobView>): boolean =>
  job.state === 'done' || job.state === 'stopped' || job.state === 'interrupted';
