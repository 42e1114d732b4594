// The first schema. Later changes are migrations of their own; this one stays as it is.

import type { MigrationInterface, QueryRunner } from 'typeorm';

const TABLES = `
create table plant (
  id boolean primary key default true check (id),
  name text not null,
  made_at timestamptz not null default now()
);
create table account (
  id uuid primary key default gen_random_uuid(),
  person text not null,
  sign_in_name text not null unique check (sign_in_name = lower(sign_in_name)),
  role text not null check (role in ('viewer', 'technician', 'engineer')),
  password_hash text not null,
  must_change_password boolean not null default false,
  created_at timestamptz not null default now()
);
create table session (
  token_hash text primary key,
  account_id uuid not null references account on delete cascade,
  created_at timestamptz not null default now(),
  expires_at timestamptz not null
);
create table logbook (
  id bigint generated always as identity primary key,
  at timestamptz not null default now(),
  person text not null,
  action text not null,
  tag text,
  text text not null,
  facts jsonb not null default '{}'
);
create index logbook_tag on logbook (tag, id desc);

create table dictionary (
  id text primary key,
  model text not null,
  version integer not null,
  maker text not null,
  name text not null,
  model_file text not null,
  parameters_file text not null,
  imported_at timestamptz not null default now(),
  unique (model, version)
);
create table area (
  id uuid primary key default gen_random_uuid(),
  name text not null unique,
  place integer not null
);
create table machine (
  id uuid primary key default gen_random_uuid(),
  area_id uuid not null references area,
  name text not null,
  place integer not null,
  unique (area_id, name)
);
create table position (
  id uuid primary key default gen_random_uuid(),
  machine_id uuid not null references machine,
  tag text not null unique,
  duty text not null,
  criticality text not null check (criticality in ('low', 'middle', 'high')),
  motor text not null,
  place integer not null
);
create table line (
  id uuid primary key default gen_random_uuid(),
  name text not null unique,
  host text not null,
  port integer not null check (port between 1 and 65535)
);
create table unit (
  id uuid primary key default gen_random_uuid(),
  position_id uuid not null references position,
  dictionary_id text not null references dictionary,
  rating text not null,
  region text not null,
  serial integer not null unique,
  firmware text not null,
  line_id uuid references line,
  line_address integer check (line_address between 1 and 247),
  installed_at timestamptz not null default now(),
  removed_at timestamptz,
  check ((line_id is null) = (line_address is null))
);
create unique index unit_in_place on unit (position_id) where removed_at is null;

create table set_content (
  hash text primary key,
  dictionary_id text not null references dictionary,
  content bytea not null
);
create table backup (
  id uuid primary key default gen_random_uuid(),
  seq bigint generated always as identity unique,
  position_id uuid not null references position,
  unit_id uuid not null references unit,
  content_hash text not null references set_content,
  taken_at timestamptz not null,
  taken_by text not null,
  how text not null check (how in ('read', 'imported', 'before-write', 'after-write')),
  reason text not null,
  serial integer not null,
  firmware text not null,
  unreadable integer not null,
  -- Monitors and counters at that moment: told beside the set, never part of it.
  aside jsonb not null
);
create index backup_position on backup (position_id, taken_at desc, seq desc);
create index backup_content on backup (content_hash);
create table baseline (
  id uuid primary key default gen_random_uuid(),
  position_id uuid not null references position,
  revision integer not null,
  content_hash text not null references set_content,
  signed_at timestamptz not null,
  signed_by text not null,
  reason text not null,
  unique (position_id, revision)
);

create table job (
  id uuid primary key default gen_random_uuid(),
  kind text not null check (kind in ('backup', 'write')),
  state text not null check (state in ('queued', 'running', 'done', 'stopped', 'interrupted')),
  reason text not null,
  requested_by text not null,
  requested_at timestamptz not null default now(),
  started_at timestamptz,
  finished_at timestamptz,
  stop_requested boolean not null default false
);
create index job_open on job (state) where state in ('queued', 'running');
create table job_item (
  job_id uuid not null references job,
  place integer not null,
  unit_id uuid not null references unit,
  state text not null default 'waiting' check (state in ('waiting', 'reading', 'ended')),
  done integer not null default 0,
  total integer not null default 0,
  outcome text,
  text text not null default '',
  backup_id uuid references backup,
  ended_at timestamptz,
  primary key (job_id, place)
);
create index job_item_unit on job_item (unit_id, ended_at desc);

create table write_plan (
  id uuid primary key default gen_random_uuid(),
  position_id uuid not null references position,
  unit_id uuid not null references unit,
  dictionary_id text not null references dictionary,
  state text not null check (state in ('planned', 'released', 'writing', 'done', 'refused', 'failed', 'interrupted')),
  target text not null,
  planned_by text not null,
  planned_at timestamptz not null default now(),
  basis_hash text not null references set_content,
  predicted_hash text not null references set_content,
  unreachable jsonb not null,
  already_there jsonb not null,
  released_by text,
  released_at timestamptz,
  released_until timestamptz,
  text text not null default '',
  holds text not null default '',
  saved boolean not null default false,
  job_id uuid references job,
  backup_before uuid references backup,
  backup_after uuid references backup
);
create table write_step (
  plan_id uuid not null references write_plan,
  place integer not null,
  code text not null,
  from_reading jsonb,
  to_raw integer not null,
  phase text not null,
  reason jsonb not null,
  stopped boolean not null,
  restart boolean not null,
  state text not null default 'planned' check (state in ('planned', 'writing', 'written', 'failed')),
  read_back integer,
  text text not null default '',
  primary key (plan_id, place)
);
`;

/** What was kept is never changed: the database itself refuses, whoever asks. */
const KEPT = `
create function refuse_change() returns trigger language plpgsql as $$
begin
  raise exception '% keeps what it holds: rows are neither changed nor deleted', tg_table_name;
end $$;
create trigger kept before update or delete or truncate on logbook for each statement execute function refuse_change();
create trigger kept before update or delete or truncate on set_content for each statement execute function refuse_change();
create trigger kept before update or delete or truncate on backup for each statement execute function refuse_change();
create trigger kept before update or delete or truncate on baseline for each statement execute function refuse_change();
create trigger kept before update or delete or truncate on dictionary for each statement execute function refuse_change();
`;

export class FirstSchema1700000000001 implements MigrationInterface {
  name = 'FirstSchema1700000000001';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(TABLES);
    await runner.query(KEPT);
  }

  /** There is nothing before the first schema to go back to. */
  down(): Promise<void> {
    throw new Error('the first schema cannot be taken back');
  }
}
