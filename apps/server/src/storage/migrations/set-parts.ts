import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Files that tell some values of a unit: they are compared and written, and are no backup. */
export class SetParts1764000000024 implements MigrationInterface {
  name = 'SetParts1764000000024';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      create table set_part (
        id uuid primary key default gen_random_uuid(),
        position_id uuid not null references position,
        content_hash text not null references set_content,
        file_name text not null,
        brought_by text not null,
        brought_at timestamptz not null default now()
      );
      create trigger kept before update or delete or truncate on set_part
        for each statement execute function refuse_change();
    `);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('drop table set_part');
  }
}
