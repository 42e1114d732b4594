import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Scheduled backups. A run is one due time of a round, whichever server process takes it. */
export class Rounds1764000000004 implements MigrationInterface {
  name = 'Rounds1764000000004';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
create table round (
  id uuid primary key default gen_random_uuid(),
  name text not null unique,
  at text not null check (at ~ '^([01][0-9]|2[0-3]):[0-5][0-9]$'),
  days integer[] not null,
  scope jsonb not null,
  retries integer not null check (retries between 0 and 5),
  quiet jsonb,
  enabled boolean not null default true
);
create table round_run (
  id uuid primary key default gen_random_uuid(),
  round_id uuid not null references round,
  due_at timestamptz not null,
  tries integer not null default 0,
  job_id uuid references job,
  retry_at timestamptz,
  done_at timestamptz,
  -- The same due time is never taken twice, however many servers look at the clock.
  unique (round_id, due_at)
);
create index round_run_open on round_run (round_id) where done_at is null;
`);
  }

  /** What was kept is never taken back. */
  down(): Promise<void> {
    throw new Error('restore a copy of the database instead');
  }
}
