// Tells subscribers in this process when a job has changed, wherever the work is done: one database connection
// listens for all of them.

import { Injectable, Logger, type OnApplicationShutdown } from '@nestjs/common';
import pg from 'pg';
import { Subject, type Observable } from 'rxjs';
import { JOB_CHANNEL } from './jobs.service.ts';

const RECONNECT_MS = 1000;

@Injectable()
export class JobEvents implements OnApplicationShutdown {
  private readonly logger = new Logger('JobEvents');
  private readonly subject = new Subject<string>();
  private client: pg.Client | undefined;
  private closing = false;

  /** Ids of jobs as they change. */
  get changes(): Observable<string> {
    return this.subject.asObservable();
  }

  async start(url: string): Promise<void> {
    const client = new pg.Client({ connectionString: url });
    this.client = client;
    client.on('notification', ({ payload }) => payload !== undefined && this.subject.next(payload));
    client.on('error', (error) => this.reconnect(url, error));
    await client.connect();
    await client.query(`listen ${JOB_CHANNEL}`);
  }

  async onApplicationShutdown(): Promise<void> {
    this.closing = true;
    await this.client?.end();
  }

  private reconnect(url: string, error: Error): void {
    if (this.closing) return;
    this.logger.error(error.message);
    setTimeout(() => {
      this.start(url).catch((again: Error) => this.reconnect(url, again));
    }, RECONNECT_MS);
  }
}
