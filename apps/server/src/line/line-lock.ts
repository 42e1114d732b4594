// One request in flight per line, and never two writers on one unit, whatever number of server processes share the
// database: an advisory lock of PostgreSQL, which ends with the process that holds it.

import { Injectable } from '@nestjs/common';
import { DataSource } from 'typeorm';

@Injectable()
export class LineLock {
  constructor(private readonly dataSource: DataSource) {}

  /** Waits for the line, does the work, and gives the line back. */
  async hold<T>(lineId: string, work: () => Promise<T>): Promise<T> {
    const runner = this.dataSource.createQueryRunner();
    try {
      await runner.query(`select pg_advisory_lock(hashtextextended($1, 0))`, [lineId]);
      return await work();
    } finally {
      await runner
        .query(`select pg_advisory_unlock(hashtextextended($1, 0))`, [lineId])
        .catch(() => undefined);
      await runner.release();
    }
  }
}
