import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Ticks of an attempt that was taken back say nothing of the next one, also where a phone brings them later. */
export class ReplacementAttempts1764000000023 implements MigrationInterface {
  name = 'ReplacementAttempts1764000000023';

  async up(runner: QueryRunner): Promise<void> {
    // Nothing: the first attempt.
    await runner.query('alter table replacement add column attempt_from timestamptz');
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('alter table replacement drop column attempt_from');
  }
}
