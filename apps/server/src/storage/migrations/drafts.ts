import type { MigrationInterface, QueryRunner } from 'typeorm';

const TABLES = `
create table starting_point_revision (
  id text not null,
  -- From 1; what the catalogue ships has none.
  revision integer not null check (revision > 0),
  content text not null,
  saved_by text not null,
  saved_at timestamptz not null default now(),
  why text not null,
  primary key (id, revision)
);
create trigger kept before update or delete or truncate on starting_point_revision
  for each statement execute function refuse_change();

create table settings_draft (
  id uuid primary key default gen_random_uuid(),
  name text not null,
  owner text not null,
  started_at timestamptz not null default now(),
  version integer not null default 1,
  state text not null default 'open' check (state in ('open', 'put-away')),
  ended_by text,
  ended_at timestamptz,
  ended_why text,
  -- The position that it is for, once there is one.
  position_id uuid references position,
  dictionary_id text not null references dictionary,
  region text not null,
  -- Nothing: the smallest that bears the motor.
  rating text,
  -- The starting point as it was when the draft began with it.
  point_id text,
  point_content text,
  -- Or another set, as it was then.
  base_title text,
  base_hash text references set_content,
  base_rating text,
  base_region text,
  base_wiring text,
  cross_content text,
  from_id uuid references settings_draft,
  check ((state = 'open') = (ended_at is null)),
  check ((point_id is null) = (point_content is null)),
  check ((base_hash is null) = (base_title is null)),
  check (point_id is null or base_hash is null)
);
create index settings_draft_position on settings_draft (position_id);
create trigger kept before delete or truncate on settings_draft for each statement execute function refuse_change();

-- Each word that was typed; the last one of a field counts.
create table draft_field (
  id bigint generated always as identity primary key,
  draft_id uuid not null references settings_draft,
  key text not null,
  text text not null,
  why text not null,
  said_by text not null,
  said_at timestamptz not null default now()
);
create index draft_field_key on draft_field (draft_id, key, id);
create trigger kept before update or delete or truncate on draft_field
  for each statement execute function refuse_change();

create table draft_revision (
  id uuid primary key default gen_random_uuid(),
  draft_id uuid not null references settings_draft,
  revision integer not null check (revision > 0),
  dictionary_id text not null references dictionary,
  rating text not null,
  region text not null,
  content_hash text not null references set_content,
  wiring text not null,
  chosen text[] not null,
  changes integer not null,
  record text not null,
  hash text not null,
  why text not null,
  kept_by text not null,
  kept_at timestamptz not null,
  unique (draft_id, revision)
);
create trigger kept before update or delete or truncate on draft_revision
  for each statement execute function refuse_change();

create table draft_use (
  id uuid primary key default gen_random_uuid(),
  revision_id uuid not null references draft_revision,
  kind text not null check (kind in ('key-in', 'write-plan', 'baseline', 'wiring')),
  position_id uuid not null references position,
  made_id uuid,
  used_by text not null,
  used_at timestamptz not null default now()
);
create index draft_use_revision on draft_use (revision_id);
create index draft_use_position on draft_use (position_id);
create trigger kept before update or delete or truncate on draft_use
  for each statement execute function refuse_change();
`;

/** First settings: starting points of the plant's own, drafts with what was typed, and what was kept and made of them. */
export class Drafts1764000000029 implements MigrationInterface {
  name = 'Drafts1764000000029';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(TABLES);
  }

  /** What was kept is never taken back. */
  down(): Promise<void> {
    throw new Error('restore a copy of the database instead');
  }
}
