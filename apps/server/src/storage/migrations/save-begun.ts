import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Between the begin and the end of a permanent save nobody knows whether it was done. */
export class SaveBegun1764000000012 implements MigrationInterface {
  name = 'SaveBegun1764000000012';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
alter table write_plan add column save_begun boolean not null default false;
update write_plan set save_begun = true where saved;
`);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('alter table write_plan drop column save_begun');
  }
}
