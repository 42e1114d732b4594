// Carries jobs out in this process, and watches over all jobs whose process has died.

import { Injectable, Logger, type OnApplicationShutdown } from '@nestjs/common';
import type { JobKind } from '@drive-keep/api';
import { DataSource } from 'typeorm';
import { WorkQueue } from '../queue/work-queue.service.ts';
import { LockConnections } from '../storage/lock-connections.ts';
import { jobLock, Jobs } from './jobs.service.ts';

/** Does one job. `stopped` turns true when somebody wants it to end or the job was given up. */
export type Worker = (jobId: string, stopped: () => boolean) => Promise<void>;

const KINDS: readonly JobKind[] = ['backup', 'write', 'axes'];
/** A person stands at the machine for these. A server that started after they were asked for does not begin them. */
const ONLY_WHILE_ASKED: readonly JobKind[] = ['write', 'axes'];

const SWEEP_MS = 2000;
const TIDY_MS = 86_400_000;
/** How soon a wish to stop is seen. */
const STOP_POLL_MS = 500;

@Injectable()
export class JobRuns implements OnApplicationShutdown {
  private readonly logger = new Logger('JobRuns');
  private sweeper: NodeJS.Timeout | undefined;
  private tidier: NodeJS.Timeout | undefined;
  private startedAt = new Date();
  private sweeping: Promise<void> = Promise.resolve();
  private readonly afterSweep: (() => Promise<void>)[] = [];

  constructor(
    private readonly jobs: Jobs,
    private readonly queue: WorkQueue,
    private readonly locks: LockConnections,
    private readonly dataSource: DataSource,
  ) {}

  async start(url: string): Promise<void> {
    // By the database's clock, as the jobs' own times are.
    const [clock] = await this.dataSource.query<{ now: Date }[]>('select now() as now');
    this.startedAt = clock?.now ?? this.startedAt;
    await this.queue.start(url, KINDS);
    await this.sweep();
    this.sweeper = setInterval(() => {
      this.sweeping = this.sweep();
    }, SWEEP_MS);
    this.tidier = setInterval(() => {
      this.jobs.tidy().catch((error: unknown) => this.logger.error(String(error)));
    }, TIDY_MS);
  }

  async serve(kind: JobKind, worker: Worker): Promise<void> {
    await this.queue.serve(kind, (id) => this.run(id, kind, worker));
  }

  /** Called after each look for dead jobs, for those who have to follow it up. */
  whenSwept(listener: () => Promise<void>): void {
    this.afterSweep.push(listener);
  }

  async onApplicationShutdown(): Promise<void> {
    clearInterval(this.sweeper);
    clearInterval(this.tidier);
    await this.sweeping;
  }

  /** The lock is taken before the job is marked as running: whoever sees it running and finds it free is right. */
  private async run(jobId: string, kind: JobKind, worker: Worker): Promise<void> {
    try {
      const lock = await this.locks.tryTake(jobLock(jobId));
      if (!lock) return;
      try {
        const notBefore = ONLY_WHILE_ASKED.includes(kind) ? this.startedAt : null;
        if (await this.jobs.begin(jobId, notBefore)) return await this.work(jobId, worker);
      } finally {
        await lock.release();
      }
      // Not ours to begin, and nobody else's any more.
      await this.jobs.giveUp({ id: jobId, kind, state: 'queued' });
    } catch (error) {
      // The lock is given back; the sweep then ends the job as interrupted.
      this.logger.error(error instanceof Error ? (error.stack ?? error.message) : String(error));
    }
  }

  private async work(jobId: string, worker: Worker): Promise<void> {
    let stopped = false;
    const look = setInterval(() => {
      this.jobs.isStopRequested(jobId).then(
        (wanted) => (stopped ||= wanted),
        (error: unknown) => this.logger.error(String(error)),
      );
    }, STOP_POLL_MS);
    try {
      await worker(jobId, () => stopped);
      await this.jobs.finish(jobId, stopped ? 'stopped' : 'done');
    } finally {
      clearInterval(look);
    }
  }

  private async sweep(): Promise<void> {
    try {
      await this.jobs.sweep();
      for (const listener of this.afterSweep) await listener();
    } catch (error) {
      this.logger.error(String(error));
    }
  }
}
