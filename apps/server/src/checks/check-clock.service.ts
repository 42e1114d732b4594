// Sees to it that positions are checked as they stand: soon after units were read, and by and by whatever else has changed.

import { Injectable, Logger, type OnApplicationShutdown } from '@nestjs/common';
import { debounceTime, type Subscription } from 'rxjs';
import { JobEvents } from '../jobs/job-events.service.ts';
import { Checks } from './checks.service.ts';

const LOOK_MS = 30_000;
/** After the last word of a job. */
const AFTER_JOB_MS = 1500;

@Injectable()
export class CheckClock implements OnApplicationShutdown {
  private readonly logger = new Logger('CheckClock');
  private timer: NodeJS.Timeout | undefined;
  private listening: Subscription | undefined;
  private work: Promise<unknown> | undefined;

  constructor(
    private readonly checks: Checks,
    private readonly jobs: JobEvents,
  ) {}

  watch(): void {
    this.timer = setInterval(() => this.look(), LOOK_MS);
    this.listening = this.jobs.changes.pipe(debounceTime(AFTER_JOB_MS)).subscribe(() => this.look());
    this.look();
  }

  async onApplicationShutdown(): Promise<void> {
    clearInterval(this.timer);
    this.listening?.unsubscribe();
    await this.work;
  }

  /** One look at a time. */
  private look(): void {
    this.work ??= this.checks
      .lookAgain()
      .catch((error: unknown) => this.logger.error(String(error)))
      .finally(() => {
        this.work = undefined;
      });
  }
}
