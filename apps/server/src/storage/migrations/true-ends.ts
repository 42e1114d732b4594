import type { MigrationInterface, QueryRunner } from 'typeorm';

/**
 * Plans tell when they ended, changes of one thing by two people are told apart, and drafts know who proposed which line. What was queued by older servers and never begun is ended by the first look for dead work.
 */
export class TrueEnds1764000000013 implements MigrationInterface {
  name = 'TrueEnds1764000000013';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
alter table write_plan add column ended_at timestamptz;
create index write_plan_job on write_plan (job_id);
alter table position add column version integer not null default 1;
alter table unit add column version integer not null default 1;
alter table motor add column version integer not null default 1;
alter table round add column version integer not null default 1;
create table known_device (
  token_hash text primary key,
  account_id uuid not null references account on delete cascade,
  seen_at timestamptz not null
);
-- Who has proposed which line: nobody signs his own.
alter table baseline_draft add column proposers jsonb not null default '{}';
update baseline_draft d set proposers = (
  select coalesce(jsonb_object_agg(code, jsonb_build_array(d.made_by)), '{}') from jsonb_array_elements_text(d.codes) code);
`);
  }

  /** What was kept is never taken back. */
  down(): Promise<void> {
    throw new Error('restore a copy of the database instead');
  }
}
