// Hands work to server processes: pg-boss in the same database. An entry has the id of the work that it stands for and is
// made in the transaction that makes the work, so that neither is ever there without the other.

import { Injectable, Logger, type OnApplicationShutdown } from '@nestjs/common';
import { Pool } from 'pg';
import PgBoss from 'pg-boss';
import { DataSource, type EntityManager } from 'typeorm';

/** Works of one kind in hand in one process: lines do the rest of the ordering. */
const AT_ONCE = 3;
/** A worker that is asking the database for work on a busy machine ends before the process does. */
const SHUTDOWN_MS = 10_000;
const CONNECTIONS = 5;

@Injectable()
export class WorkQueue implements OnApplicationShutdown {
  private readonly logger = new Logger('WorkQueue');
  private boss: PgBoss | undefined;
  private pool: Pool | undefined;
  private readonly asked = new Set<Promise<unknown>>();

  constructor(private readonly dataSource: DataSource) {}

  async start(url: string, kinds: readonly string[]): Promise<void> {
    // There are more workers than connections. A pool that ends forgets who still waits for one of them, and such a worker
    // would never end: therefore the pool is ours, and is ended when every question has its answer.
    const pool = new Pool({ connectionString: url, max: CONNECTIONS });
    pool.on('error', (error) => this.logger.error(error.message));
    const executeSql = (text: string, values: unknown[]) => this.ask(pool, text, values);
    const boss = new PgBoss({ db: { executeSql }, schema: 'queue' });
    boss.on('error', (error) => this.logger.error(error.message));
    await boss.start();
    for (const kind of kinds) await boss.createQueue(kind);
    this.boss = boss;
    this.pool = pool;
  }

  async serve(kind: string, work: (id: string) => Promise<void>): Promise<void> {
    const boss = this.started();
    for (let at = 0; at < AT_ONCE; at += 1) {
      await boss.work(kind, { pollingIntervalSeconds: 0.5 }, async (entries) => {
        for (const { id } of entries) await work(id);
      });
    }
  }

  /** Work that breaks off is not tried again by itself: people decide about units. */
  async send(kind: string, id: string, manager: EntityManager): Promise<void> {
    const executeSql = async (text: string, values: unknown[]) => ({
      rows: await manager.query<object[]>(text, values),
    });
    await this.started().send(kind, {}, { id, retryLimit: 0, expireInHours: 12, db: { executeSql } });
  }

  /** Of these works, those that no queue holds any more, or that a process took so long ago that it must have died. */
  async lostOf(ids: readonly string[], takenForSeconds: number): Promise<readonly string[]> {
    if (ids.length === 0) return [];
    const rows: { id: string }[] = await this.dataSource.query(
      `select w.id from unnest($1::uuid[]) w(id) left join queue.job q on q.id = w.id
        where q.id is null or q.state not in ('created', 'retry', 'active')
           or (q.state = 'active' and q.started_on < now() - make_interval(secs => $2))`,
      [ids, takenForSeconds],
    );
    return rows.map(({ id }) => id);
  }

  async onApplicationShutdown(): Promise<void> {
    const { boss, pool } = this;
    this.boss = undefined;
    this.pool = undefined;
    await boss?.stop({ graceful: true, timeout: SHUTDOWN_MS });
    while (this.asked.size > 0) await Promise.allSettled(this.asked);
    await pool?.end();
  }

  private async ask(pool: Pool, text: string, values: unknown[]): Promise<{ rows: object[] }> {
    const answer = pool.query<object>(text, values);
    this.asked.add(answer);
    try {
      return await answer;
    } finally {
      this.asked.delete(answer);
    }
  }

  private started(): PgBoss {
    if (!this.boss) throw new Error('the queue has not been started');
    return this.boss;
  }
}
