// The queue that hands jobs to server processes, and the watch over jobs whose process has died.

import { Injectable, Logger, type OnApplicationShutdown } from '@nestjs/common';
import type { JobKind } from '@drive-keep/api';
import PgBoss from 'pg-boss';
import { DataSource } from 'typeorm';
import { JOB_LOCK, Jobs } from './jobs.service.ts';

/** Does one job. `stopped` turns true when somebody wants it to end or the job was given up. */
export type Worker = (jobId: string, stopped: () => boolean) => Promise<void>;

/** Jobs of one kind at work in one process: lines do the rest of the ordering. */
const AT_ONCE = 3;
const SWEEP_MS = 2000;
const TIDY_MS = 86_400_000;
/** A worker that is asking the database for work on a busy machine ends before the process does. */
const SHUTDOWN_MS = 10_000;
/** How soon a wish to stop is seen. */
const STOP_POLL_MS = 500;

@Injectable()
export class JobQueue implements OnApplicationShutdown {
  private readonly logger = new Logger('JobQueue');
  private boss: PgBoss | undefined;
  private sweeper: NodeJS.Timeout | undefined;
  private tidier: NodeJS.Timeout | undefined;
  private readonly afterSweep: (() => Promise<void>)[] = [];

  constructor(
    private readonly jobs: Jobs,
    private readonly dataSource: DataSource,
  ) {}

  async start(url: string): Promise<void> {
    this.boss = new PgBoss({ connectionString: url, max: 6, schema: 'queue' });
    this.boss.on('error', (error) => this.logger.error(error.message));
    await this.boss.start();
    await this.sweep();
    this.sweeper = setInterval(() => void this.sweep(), SWEEP_MS);
    this.tidier = setInterval(() => {
      this.jobs.tidy().catch((error: unknown) => this.logger.error(String(error)));
    }, TIDY_MS);
  }

  async serve(kind: JobKind, worker: Worker): Promise<void> {
    const boss = this.started();
    await boss.createQueue(kind);
    for (let at = 0; at < AT_ONCE; at += 1) {
      await boss.work<{ jobId: string }>(kind, { pollingIntervalSeconds: 0.5 }, async (messages) => {
        for (const { data } of messages) await this.run(data.jobId, worker);
      });
    }
  }

  /** Called after each look for dead jobs, for those who have to follow it up. */
  whenSwept(listener: () => Promise<void>): void {
    this.afterSweep.push(listener);
  }

  /** A job that breaks off is not tried again by itself: people decide about units. */
  async send(kind: JobKind, jobId: string): Promise<void> {
    await this.started().send(kind, { jobId }, { retryLimit: 0, expireInHours: 12 });
  }

  async onApplicationShutdown(): Promise<void> {
    clearInterval(this.sweeper);
    clearInterval(this.tidier);
    const { boss } = this;
    this.boss = undefined;
    await boss?.stop({ graceful: true, timeout: SHUTDOWN_MS });
  }

  /** The lock is taken before the job is marked as running: whoever sees it running and finds it free is right. */
  private async run(jobId: string, worker: Worker): Promise<void> {
    const holder = this.dataSource.createQueryRunner();
    try {
      await holder.query(`select pg_advisory_lock(${JOB_LOCK})`, [jobId]);
      if (await this.jobs.begin(jobId)) await this.work(jobId, worker);
    } catch (error) {
      this.logger.error(error instanceof Error ? (error.stack ?? error.message) : String(error));
      // The lock goes below; the sweep then marks the job as interrupted.
    } finally {
      await holder.query(`select pg_advisory_unlock(${JOB_LOCK})`, [jobId]).catch(() => undefined);
      await holder.release();
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

  private started(): PgBoss {
    if (!this.boss) throw new Error('the queue has not been started');
    return this.boss;
  }
}
