import { Controller, Get, HttpCode, Param, Post, Query, Sse, type MessageEvent } from '@nestjs/common';
import { ApiOperation, ApiPropertyOptional, ApiTags } from '@nestjs/swagger';
import type { JobView, StartedJob } from '@drive-keep/api';
import { IsIn, IsOptional } from 'class-validator';
import {
  auditTime,
  concatMap,
  filter,
  from,
  interval,
  map,
  merge,
  startWith,
  takeWhile,
  type Observable,
} from 'rxjs';
import type { Account } from '../access/account.entity.ts';
import { NeedsRole, Person } from '../access/session.guard.ts';
import { BackupJobs } from '../backup/backup-jobs.service.ts';
import { Logbook } from '../logbook/logbook.service.ts';
import { JobEvents } from './job-events.service.ts';
import { Jobs } from './jobs.service.ts';

/** Often enough to look alive, seldom enough for a tablet on bad wireless. */
const TELL_MS = 100;
/** Proxies close a silent stream; a comment-sized event keeps it open. */
const KEEP_ALIVE_MS = 15_000;

class JobsQuery {
  @ApiPropertyOptional({ enum: ['open', 'recent'], default: 'open' })
  @IsOptional()
  @IsIn(['open', 'recent'])
  which?: 'open' | 'recent';
}

@ApiTags('jobs')
@Controller('jobs')
export class JobsController {
  constructor(
    private readonly jobs: Jobs,
    private readonly events: JobEvents,
    private readonly backups: BackupJobs,
    private readonly logbook: Logbook,
  ) {}

  @Get()
  @ApiOperation({ summary: 'Jobs that are at work, or the newest fifty' })
  list(@Query() { which }: JobsQuery): Promise<JobView[]> {
    return which === 'recent' ? this.jobs.recent(50) : this.jobs.open();
  }

  @Get(':id')
  @ApiOperation({ summary: 'One job with what happened to each unit' })
  get(@Param('id') id: string): Promise<JobView> {
    return this.jobs.view(id);
  }

  @Sse(':id/events')
  @ApiOperation({ summary: 'The job each time it changes, until it ends (server-sent events)' })
  async follow(@Param('id') id: string): Promise<Observable<MessageEvent>> {
    await this.jobs.load(id);
    const changes = this.events.changes.pipe(
      filter((changed) => changed === id),
      auditTime(TELL_MS),
      startWith(id),
      concatMap(() => from(this.jobs.view(id))),
      map((job) => ({ type: 'job', data: job })),
    );
    const alive = interval(KEEP_ALIVE_MS).pipe(map(() => ({ type: 'alive', data: {} })));
    return merge(changes, alive).pipe(takeWhile((event) => !isOver(event.data as JobView), true));
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

  @Post(':id/run-again')
  @NeedsRole('technician')
  @HttpCode(202)
  @ApiOperation({ summary: 'Back up those units again that this job has not kept' })
  runAgain(@Param('id') id: string, @Person() person: Account): Promise<StartedJob> {
    return this.backups.runAgain(id, person);
  }
}

const isOver = (job: Partial<JobView>): boolean =>
  job.state === 'done' || job.state === 'stopped' || job.state === 'interrupted';
