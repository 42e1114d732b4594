import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Values read off at a keypad, as phones bring them back, until they are kept as a backup. */
export class ReadOffs1764000000007 implements MigrationInterface {
  name = 'ReadOffs1764000000007';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
create table read_off (
  id uuid primary key default gen_random_uuid(),
  position_id uuid not null references position,
  unit_id uuid not null references unit,
  dictionary_id text not null references dictionary,
  started_by text not null,
  started_at timestamptz not null default now(),
  state text not null default 'open' check (state in ('open', 'kept', 'dropped')),
  entries jsonb not null default '{}',
  backup_id uuid references backup
);
create unique index read_off_open on read_off (position_id) where state = 'open';

alter table backup drop constraint backup_how_check;
alter table backup add constraint backup_how_check
  check (how in ('read', 'read-off', 'imported', 'before-write', 'after-write'));
`);
  }

  /** What was kept is never taken back. */
  down(): Promise<void> {
    throw new Error('restore a copy of the database instead');
  }
}
