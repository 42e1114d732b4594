import type { MigrationInterface, QueryRunner } from 'typeorm';

/**
 * Positions are retired and units swapped without losing what was kept of them; found differences are remembered, so
 * that thousands of positions are summed up by the database; a line is searched for units.
 */
export class RegisterChanges1764000000005 implements MigrationInterface {
  name = 'RegisterChanges1764000000005';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
alter table position add column retired_at timestamptz, add column retired_why text not null default '';

-- A row is one stay of a unit at a position. The same unit may come back, here or elsewhere.
alter table unit drop constraint unit_serial_key;
alter table unit add column removed_why text not null default '';
create unique index unit_serial_in_place on unit (serial) where removed_at is null;
create unique index unit_address_in_place on unit (line_id, line_address) where removed_at is null;
create index unit_position on unit (position_id, installed_at desc);

-- Contents never change, so neither does the number of their differences.
create table drift_count (
  baseline_hash text not null references set_content,
  content_hash text not null references set_content,
  differences integer not null,
  primary key (baseline_hash, content_hash)
);

create table scan (
  id uuid primary key default gen_random_uuid(),
  line_id uuid not null references line,
  from_address integer not null,
  to_address integer not null,
  state text not null check (state in ('running', 'done', 'stopped', 'interrupted')),
  started_by text not null,
  started_at timestamptz not null default now(),
  asked integer not null default 0,
  text text not null default '',
  units jsonb not null default '[]'
);
create unique index scan_running on scan (line_id) where state = 'running';
`);
  }

  /** What was kept is never taken back. */
  down(): Promise<void> {
    throw new Error('restore a copy of the database instead');
  }
}
