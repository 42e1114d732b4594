import type { MigrationInterface, QueryRunner } from 'typeorm';

/** The plate that a content tells is at hand: a look-up that is made anew where it is missing or made by an older way. */
export class ToldPlates1764000000016 implements MigrationInterface {
  name = 'ToldPlates1764000000016';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(
      'create table if not exists told_plate (content_hash text primary key, way integer not null, told jsonb not null)',
    );
  }

  /** What was kept is never taken back. */
  down(): Promise<void> {
    throw new Error('restore a copy of the database instead');
  }
}
