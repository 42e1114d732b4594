import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Decisions about differences, and baseline revisions that wait for their signature. */
export class Decisions1764000000003 implements MigrationInterface {
  name = 'Decisions1764000000003';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
create table decision (
  id uuid primary key default gen_random_uuid(),
  position_id uuid not null references position,
  code text not null,
  kind text not null check (kind in ('put-back', 'take-in', 'tolerate', 'later')),
  reason text not null,
  until date,
  -- What was decided about. A decision says nothing about other values than these.
  wanted jsonb,
  found jsonb,
  person text not null,
  made_at timestamptz not null default now(),
  state text not null default 'open' check (state in ('open', 'in-force', 'ended')),
  check (kind <> 'tolerate' or until is not null)
);
create unique index decision_open on decision (position_id, person, code) where state = 'open';
create unique index decision_in_force on decision (position_id, code) where state = 'in-force';

create table baseline_draft (
  id uuid primary key default gen_random_uuid(),
  position_id uuid not null references position,
  content_hash text not null references set_content,
  basis_revision integer not null,
  codes jsonb not null,
  reason text not null,
  made_by text not null,
  made_at timestamptz not null default now(),
  state text not null default 'waiting' check (state in ('waiting', 'signed', 'refused')),
  closed_by text,
  closed_at timestamptz
);
create unique index draft_waiting on baseline_draft (position_id) where state = 'waiting';

alter table plant add column second_signature boolean not null default false;
`);
  }

  /** What was kept is never taken back. */
  down(): Promise<void> {
    throw new Error('restore a copy of the database instead');
  }
}
