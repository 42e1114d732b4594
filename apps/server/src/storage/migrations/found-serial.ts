import type { MigrationInterface, QueryRunner } from 'typeorm';

/** A try that met another unit keeps its serial number, so that recording the swap can begin with it. */
export class FoundSerial1764000000015 implements MigrationInterface {
  name = 'FoundSerial1764000000015';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query('alter table job_item add column if not exists found_serial bigint');
  }

  /** What was kept is never taken back. */
  down(): Promise<void> {
    throw new Error('restore a copy of the database instead');
  }
}
