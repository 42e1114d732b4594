import type { MigrationInterface, QueryRunner } from 'typeorm';

const TABLES = ['proof_run', 'proof_evidence', 'proof_saying', 'proof_end'];

const SCHEMA = `
create table proof_run (
  id uuid primary key default gen_random_uuid(),
  position_id uuid not null references position,
  unit_id uuid not null references unit,
  serial bigint not null,
  dictionary_id text not null references dictionary,
  -- What the unit should hold, and the wiring by which its contacts reach it; 0 where none was kept.
  set_hash text not null references set_content,
  set_title text not null,
  set_at timestamptz,
  wiring_revision integer not null check (wiring_revision >= 0),
  scope text not null check (scope in ('whole', 'changed')),
  -- The run from whose set and wiring this one goes on.
  since uuid references proof_run,
  why text not null,
  -- Its steps, as they were worked out when it began.
  plan jsonb not null,
  left_out integer not null check (left_out >= 0),
  started_by text not null,
  started_at timestamptz not null
);
create index proof_run_position on proof_run (position_id, started_at desc);
create table proof_evidence (
  id uuid primary key default gen_random_uuid(),
  run_id uuid not null references proof_run,
  step text not null,
  state text not null check (state in ('passed', 'failed', 'unjudged')),
  stage integer not null,
  text text not null,
  likely jsonb not null,
  figures jsonb not null,
  -- What was read, each reading by what differs from the one before.
  readings jsonb not null,
  began_at timestamptz not null,
  ended_at timestamptz not null,
  taken_by text not null
);
create index proof_evidence_run on proof_evidence (run_id, ended_at);
create table proof_saying (
  id bigint generated always as identity primary key,
  run_id uuid not null references proof_run,
  step text not null,
  -- Nothing: taken back.
  verdict text check (verdict in ('passed', 'failed', 'not-done')),
  seen text not null,
  evidence_id uuid references proof_evidence,
  said_by text not null,
  said_at timestamptz not null,
  -- By the clock of the device.
  told_at timestamptz not null
);
create index proof_saying_run on proof_saying (run_id, id);
create table proof_end (
  run_id uuid primary key references proof_run,
  state text not null check (state in ('closed', 'given-up')),
  why text not null,
  passed integer not null,
  failed integer not null,
  not_done integer not null,
  -- The whole run as it stood when it was closed.
  record text not null,
  hash text not null unique,
  ended_by text not null,
  ended_at timestamptz not null
);
-- Of the record of the proof run that showed on the machine what this revision holds; nothing where none had.
alter table baseline add column proof_hash text;
`;

/** Traces are evidence, too, from the moment in which they are kept. */
const TRACES = `
create trigger linked after insert on trace
  for each row when (new.state = 'kept') execute function wait_for_link('id');
create trigger linked_when_kept after update on trace
  for each row when (old.state = 'recording' and new.state = 'kept') execute function wait_for_link('id');
insert into evidence_waiting (source, key) select 'trace', id::text from trace where state = 'kept' order by began_at;
`;

/** Proof runs: what had to be seen, what was read, what people said, and how it ended. Each is a row that never changes. */
export class Proofs1764000000028 implements MigrationInterface {
  name = 'Proofs1764000000028';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(SCHEMA);
    await runner.query(TRACES);
    for (const table of TABLES) {
      const key = table === 'proof_end' ? 'run_id' : 'id';
      await runner.query(
        `create trigger kept before update or delete or truncate on ${table} for each statement execute function refuse_change()`,
      );
      await runner.query(
        `create trigger linked after insert on ${table} for each row execute function wait_for_link('${key}')`,
      );
    }
  }

  /** What was kept is never taken back. */
  down(): Promise<void> {
    throw new Error('restore a copy of the database instead');
  }
}
