import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Write plans that are keyed in by hand, with what was marked on them. */
export class KeyIn1764000000010 implements MigrationInterface {
  name = 'KeyIn1764000000010';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
create table key_in_sheet (
  id uuid primary key default gen_random_uuid(),
  position_id uuid not null references position,
  unit_id uuid not null references unit,
  dictionary_id text not null references dictionary,
  target text not null,
  made_by text not null,
  made_at timestamptz not null default now(),
  first jsonb not null,
  afterwards jsonb not null,
  lines jsonb not null,
  unreachable jsonb not null,
  presses integer not null,
  plain_presses integer not null,
  marks jsonb not null default '{}',
  finished_by text,
  finished_at timestamptz
);
create index key_in_sheet_position on key_in_sheet (position_id, made_at);
`);
  }

  /** What was kept is never taken back. */
  down(): Promise<void> {
    throw new Error('restore a copy of the database instead');
  }
}
