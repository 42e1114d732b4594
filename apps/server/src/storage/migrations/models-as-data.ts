import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Terminals and owner of a dictionary; numbers up to 32 bits without a sign, which servo axes have. */
export class ModelsAsData1764000000002 implements MigrationInterface {
  name = 'ModelsAsData1764000000002';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
alter table dictionary add column terminals_file text, add column imported_by text;
alter table unit alter column serial type bigint;
alter table backup alter column serial type bigint;
alter table write_step alter column to_raw type bigint, alter column read_back type bigint;
`);
  }

  /** What was kept is never taken back. */
  down(): Promise<void> {
    throw new Error('restore a copy of the database instead');
  }
}
