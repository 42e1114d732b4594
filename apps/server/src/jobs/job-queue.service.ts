// The queue that hands jobs to server processes, and the watch over jobs whose process has died.

import { Injectable, Logger, type OnApplicationShutdown } from '@nestjs/common';
import type { JobKind } from '@drive-keep/api';
import PgBoss from 'pg-boss';
import { Jobs, HEARTBEAT_MS } from './jobs.service.ts';

/** Does one job. `stopped` turns true when somebody wants it to end or the job was given up. */
export type Worker = (jobId: string, stopped: () => boolean) => Promise<void>;

/** Jobs of one kind at work in one process: lines do the rest of the ordering. */
const AT_ONCE = 3;
const SWEEP_MS = 2000;

@Injectable()
export class JobQueue implements OnApplicationShutdown {
  private readonly logger = new Logger('JobQueue');
  private boss: PgBoss | undefined;
  private sweeper: NodeJS.Timeout | undefined;
  private readonly onInterrupted: ((ids: readonly string[]) => Promise<void>)[] = [];

  constructor(private readonly jobs: Jobs) {}

  async start(url: string): Promise<void> {
    this.boss = new PgBoss({ connectionString: url, max: 6, schema: 'queue' });
    this.boss.on('error', (error) => this.logger.error(error.message));
    await this.boss.start();
    await this.sweep();
    this.sweeper = setInterval(() => void this.sweep(), SWEEP_MS);
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

  /** Told which jobs were found dead. */
  whenInterrupted(listener: (ids: readonly string[]) => Promise<void>): void {
    this.onInterrupted.push(listener);
  }

  /** A job that breaks off is not tried again by itself: people decide about units. */
  async send(kind: JobKind, jobId: string): Promise<void> {
    await this.started().send(kind, { jobId }, { retryLimit: 0, expireInHours: 12 });
  }

  async onApplicationShutdown(): Promise<void> {
    clearInterval(this.sweeper);
    await this.boss?.stop({ graceful: true, timeout: 2000 });
  }

  private async run(jobId: string, worker: Worker): Promise<void> {
    if (!(await this.jobs.begin(jobId))) return;
    let stopped = false;
    const heart = setInterval(() => {
      this.jobs.beat(jobId).then(
        ({ stop }) => (stopped ||= stop),
        (error: unknown) => this.logger.error(String(error)),
      );
    }, HEARTBEAT_MS);
    try {
      await worker(jobId, () => stopped);
      await this.jobs.finish(jobId, stopped ? 'stopped' : 'done');
    } catch (error) {
      this.logger.error(error instanceof Error ? (error.stack ?? error.message) : String(error));
      // The heart stops here: the watch marks the job as interrupted.
    } finally {
      clearInterval(heart);
    }
  }

  private async sweep(): Promise<void> {
    try {
      const ids = await this.jobs.sweep();
      if (ids.length > 0) for (const listener of this.onInterrupted) await listener(ids);
    } catch (error) {
      this.logger.error(String(error));
    }
  }

  private started(): PgBoss {
    if (!this.boss) throw new Error('the queue has not been started');
    return this.boss;
  }
}
