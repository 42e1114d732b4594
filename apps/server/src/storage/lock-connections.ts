// Advisory locks that are held for long: each on a connection of its own, apart from the pool that answers people. A lock
// ends with its connection, whatever happens to the process, and whoever holds it can ask whether it still does.

import { Injectable, type OnApplicationShutdown } from '@nestjs/common';
import pg from 'pg';
import { DataSource } from 'typeorm';

/** Connections that are kept for the next lock. */
const MOST_IDLE = 4;

export interface HeldLock {
  /** The connection broke: somebody else may hold the lock by now. */
  readonly lost: boolean;
  /** Whether somebody on another connection waits for it. */
  isWaitedFor(): Promise<boolean>;
  release(): Promise<void>;
}

@Injectable()
export class LockConnections implements OnApplicationShutdown {
  private readonly idle: pg.Client[] = [];
  private readonly open = new Set<pg.Client>();

  constructor(private readonly dataSource: DataSource) {}

  /** Waits for as long as somebody else holds it. */
  async take(name: string): Promise<HeldLock> {
    const client = await this.connect();
    return this.held(client, name, async () => {
      await client.query('select pg_advisory_lock(hashtextextended($1, 0))', [name]);
      return true;
    }) as Promise<HeldLock>;
  }

  /** Nothing where somebody else holds it. */
  async tryTake(name: string): Promise<HeldLock | undefined> {
    const client = await this.connect();
    return this.held(client, name, async () => {
      const { rows } = await client.query<{ taken: boolean }>(
        'select pg_try_advisory_lock(hashtextextended($1, 0)) as taken',
        [name],
      );
      return rows[0]?.taken === true;
    });
  }

  async onApplicationShutdown(): Promise<void> {
    await Promise.all([...this.open].map((client) => client.end().catch(() => undefined)));
  }

  private async held(
    client: pg.Client,
    name: string,
    take: () => Promise<boolean>,
  ): Promise<HeldLock | undefined> {
    const { open } = this;
    try {
      if (!(await take())) {
        this.putAside(client);
        return undefined;
      }
    } catch (error) {
      this.drop(client);
      throw error;
    }
    return {
      get lost() {
        return !open.has(client);
      },
      isWaitedFor: () => isWaitedFor(client, name),
      release: async () => {
        try {
          await client.query('select pg_advisory_unlock(hashtextextended($1, 0))', [name]);
          this.putAside(client);
        } catch {
          this.drop(client);
        }
      },
    };
  }

  private async connect(): Promise<pg.Client> {
    const idle = this.idle.pop();
    if (idle) return idle;
    const { url } = this.dataSource.options as { url?: string };
    const client = new pg.Client({ connectionString: url, keepAlive: true });
    client.on('error', () => this.drop(client));
    client.on('end', () => this.drop(client));
    await client.connect();
    this.open.add(client);
    return client;
  }

  private putAside(client: pg.Client): void {
    if (!this.open.has(client)) return;
    if (this.idle.length < MOST_IDLE) this.idle.push(client);
    else this.drop(client);
  }

  private drop(client: pg.Client): void {
    const at = this.idle.indexOf(client);
    if (at >= 0) this.idle.splice(at, 1);
    if (this.open.delete(client)) client.end().catch(() => undefined);
  }
}

/** pg_locks shows the key of an advisory lock in two halves. */
async function isWaitedFor(client: pg.Client, name: string): Promise<boolean> {
  const { rows } = await client.query(
    `select 1 from pg_locks, (select hashtextextended($1, 0) as key) wanted
      where locktype = 'advisory' and not granted and objsubid = 1
        and database = (select oid from pg_database where datname = current_database())
        and classid::bigint = (key >> 32) & 4294967295 and objid::bigint = key & 4294967295 limit 1`,
    [name],
  );
  return rows.length > 0;
}
