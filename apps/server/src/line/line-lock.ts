// One request in flight per line, and never two writers on one unit, whatever number of server processes share the
// database: an advisory lock of PostgreSQL, which ends with the process that holds it.

import { Injectable } from '@nestjs/common';
import { DataSource, type QueryRunner } from 'typeorm';

/** Key of the lock of a line; $1 is its id. */
const KEY = 'hashtextextended($1, 0)';

/** How often one who keeps a line asks whether somebody waits for it. */
const ASK_MS = 200;

@Injectable()
export class LineLock {
  constructor(private readonly dataSource: DataSource) {}

  /** Waits for the line, does the work, and gives the line back. */
  async hold<T>(lineId: string, work: () => Promise<T>): Promise<T> {
    const runner = this.dataSource.createQueryRunner();
    try {
      await take(runner, lineId);
      return await work();
    } finally {
      await giveBack(runner, lineId).catch(() => undefined);
      await runner.release();
    }
  }

  /** Does one piece of work after another; between two of them the line goes to whoever waits for it. */
  async holdForEach<T>(
    lineId: string,
    pieces: readonly T[],
    work: (piece: T) => Promise<void>,
  ): Promise<void> {
    const runner = this.dataSource.createQueryRunner();
    try {
      await take(runner, lineId);
      let asked = performance.now();
      for (const piece of pieces) {
        if (performance.now() - asked < ASK_MS) {
          await work(piece);
          continue;
        }
        asked = performance.now();
        // Asked while the work goes on, so that asking costs the line no time.
        const [waitedFor] = await Promise.all([isWaitedFor(runner, lineId), work(piece)]);
        if (!waitedFor) continue;
        await giveBack(runner, lineId);
        await take(runner, lineId);
      }
    } finally {
      await giveBack(runner, lineId).catch(() => undefined);
      await runner.release();
    }
  }
}

async function take(runner: QueryRunner, lineId: string): Promise<void> {
  await runner.query(`select pg_advisory_lock(${KEY})`, [lineId]);
}

async function giveBack(runner: QueryRunner, lineId: string): Promise<void> {
  await runner.query(`select pg_advisory_unlock(${KEY})`, [lineId]);
}

/** pg_locks shows the key of an advisory lock in two halves. */
async function isWaitedFor(runner: QueryRunner, lineId: string): Promise<boolean> {
  const rows = (await runner.query(
    `select 1 from pg_locks, (select ${KEY} as key) wanted
      where locktype = 'advisory' and not granted and objsubid = 1
        and database = (select oid from pg_database where datname = current_database())
        and classid::bigint = (key >> 32) & 4294967295 and objid::bigint = key & 4294967295 limit 1`,
    [lineId],
  )) as unknown[];
  return rows.length > 0;
}
