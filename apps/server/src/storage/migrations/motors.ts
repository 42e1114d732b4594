import type { MigrationInterface, QueryRunner } from 'typeorm';

/** The motor library, which motor a position has, and arrivals that somebody has looked at and left as they are. */
export class Motors1764000000006 implements MigrationInterface {
  name = 'Motors1764000000006';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
create table motor (
  id uuid primary key default gen_random_uuid(),
  name text not null,
  plate jsonb not null,
  line text not null,
  started_from text not null default '',
  changed_by text not null,
  changed_at timestamptz not null default now()
);
create unique index motor_name on motor (lower(name));
alter table position add column motor_id uuid references motor;
create index position_motor on position (motor_id);
create table motor_left (
  position_id uuid not null references position,
  fingerprint text not null,
  person text not null,
  at timestamptz not null default now(),
  primary key (position_id, fingerprint)
);
`);
  }

  /** What was kept is never taken back. */
  down(): Promise<void> {
    throw new Error('restore a copy of the database instead');
  }
}
