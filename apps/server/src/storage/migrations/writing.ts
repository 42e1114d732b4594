import type { MigrationInterface, QueryRunner } from 'typeorm';

/** A write plan may be a reset, and may follow another one that did not come to its end. */
export class Writing1764000000009 implements MigrationInterface {
  name = 'Writing1764000000009';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
alter table write_plan
  add column kind text not null default 'write' check (kind in ('write', 'reset', 'resume', 'undo')),
  add column follows uuid references write_plan,
  add column idle jsonb not null default '[]',
  add column restart_check boolean not null default false,
  -- What a unit holds right after a reset, before anything goes back.
  add column reset_hash text references set_content;
create index write_plan_position on write_plan (position_id, planned_at);
alter table write_step
  alter column to_raw type bigint,
  alter column read_back type bigint,
  -- A step that starts a procedure: the unit is busy so long, in ms, and does not keep the value.
  add column busy_ms integer not null default 0;
`);
  }

  /** What was kept is never taken back. */
  down(): Promise<void> {
    throw new Error('restore a copy of the database instead');
  }
}
