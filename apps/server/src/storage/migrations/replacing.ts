import type { MigrationInterface, QueryRunner } from 'typeorm';

const TABLES = `
create table cross_reference_revision (
  -- Models, whatever their version.
  old text not null,
  fresh text not null,
  -- From 1; what the catalogue ships has none.
  revision integer not null check (revision > 0),
  content text not null,
  saved_by text not null,
  saved_at timestamptz not null default now(),
  why text not null,
  primary key (old, fresh, revision)
);
create trigger kept before update or delete or truncate on cross_reference_revision
  for each statement execute function refuse_change();

create table setting_table (
  id uuid primary key default gen_random_uuid(),
  name text not null,
  revision integer not null check (revision > 0),
  dictionary_id text not null references dictionary,
  -- CSV, as it was understood.
  content text not null,
  saved_by text not null,
  saved_at timestamptz not null default now(),
  why text not null,
  unique (name, revision)
);
create trigger kept before update or delete or truncate on setting_table
  for each statement execute function refuse_change();

create table replacement (
  id uuid primary key default gen_random_uuid(),
  position_id uuid not null references position,
  state text not null default 'open' check (state in ('open', 'closed', 'given-up')),
  old_unit_id uuid not null references unit,
  -- What the old unit held, by choice of whoever began: the set is not read from the dead unit.
  old_dictionary_id text not null references dictionary,
  source_hash text not null references set_content,
  source_reference text not null,
  source_title text not null,
  source_at timestamptz,
  dictionary_id text not null references dictionary,
  region text not null,
  -- Nothing: the smallest that fits.
  rating text,
  -- The cross-reference that was in force when it began: answers name its choices by their place.
  cross_revision integer not null,
  cross_content text,
  why text not null,
  started_by text not null,
  started_at timestamptz not null default now(),
  version integer not null default 1,
  -- From the swap on.
  new_unit_id uuid references unit,
  swapped_by text,
  swapped_at timestamptz,
  old_wiring_revision integer,
  write_plan_id uuid references write_plan,
  key_in_sheet_id uuid references key_in_sheet,
  -- What the sheet promised when writing was planned.
  promised_hash text references set_content,
  draft_id uuid references baseline_draft,
  ended_by text,
  ended_at timestamptz,
  ended_why text,
  -- The whole sheet as it stood when it was closed.
  record text,
  record_hash text,
  check ((state = 'closed') = (record is not null)),
  check ((state = 'open') = (ended_at is null))
);
create unique index replacement_open on replacement (position_id) where state = 'open';
create index replacement_position on replacement (position_id, started_at);

`;

const KEPT = `
create function replacement_ends_once() returns trigger language plpgsql as $$
begin
  if old.state <> 'open' then
    raise exception 'a replacement that has ended stays as it is';
  end if;
  return new;
end $$;
create trigger ended before update on replacement for each row execute function replacement_ends_once();
create trigger kept before delete or truncate on replacement for each statement execute function refuse_change();

-- Each word that was said; the last one of a line counts.
create table replacement_saying (
  id bigint generated always as identity primary key,
  replacement_id uuid not null references replacement,
  part text not null check (part in ('setting', 'terminal', 'point', 'task')),
  line text not null,
  value jsonb,
  said_by text not null,
  said_at timestamptz not null default now(),
  -- By the clock of the device on which it was said.
  told_at timestamptz not null
);
create index replacement_saying_line on replacement_saying (replacement_id, part, line, id);
create trigger kept before update or delete or truncate on replacement_saying
  for each statement execute function refuse_change();

alter table baseline_draft add column replacement_id uuid references replacement;
`;

/** Positions that change their model: what was said on the sheet, how far it is, and the plant's own cross-references. */
export class Replacing1764000000022 implements MigrationInterface {
  name = 'Replacing1764000000022';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(TABLES);
    await runner.query(KEPT);
  }

  /** What was kept is never taken back. */
  down(): Promise<void> {
    throw new Error('restore a copy of the database instead');
  }
}
