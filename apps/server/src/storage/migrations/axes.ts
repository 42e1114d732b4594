import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Machines of several axes: their controller, and the loads of all axes in one go. */
export class Axes1764000000011 implements MigrationInterface {
  name = 'Axes1764000000011';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
create table machine_controller (
  machine_id uuid primary key references machine,
  line_id uuid not null references line,
  address integer not null
);
create table axis_load (
  id uuid primary key default gen_random_uuid(),
  machine_id uuid not null references machine,
  state text not null check (state in ('planned', 'released', 'loading', 'done', 'refused', 'failed', 'interrupted')),
  on_failure text not null check (on_failure in ('stay', 'back')),
  plan_ids uuid[] not null,
  made_by text not null,
  made_at timestamptz not null default now(),
  released_by text,
  released_until timestamptz,
  text text not null default '',
  job_id uuid references job
);
alter table job drop constraint job_kind_check;
alter table job add constraint job_kind_check check (kind in ('backup', 'write', 'axes'));
`);
  }

  /** What was kept is never taken back. */
  down(): Promise<void> {
    throw new Error('restore a copy of the database instead');
  }
}
