import type { MigrationInterface, QueryRunner } from 'typeorm';

/**
 * A unit that holds what its newest backup holds gets no second one: a night's units that were found so are one row.
 * Contents are deflated from now on; the older ones stay as they were written.
 */
export class FoundAgain1764000000008 implements MigrationInterface {
  name = 'FoundAgain1764000000008';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
-- Deflated (RFC 1951) canonical text where true, the text itself where false.
alter table set_content add column packed boolean not null default false;

-- Backups that were found again together, by their seq. Nights in which the same ones were found share a list.
create table found_list (
  id integer generated always as identity primary key,
  seqs integer[] not null
);
create index found_list_seqs on found_list using gin (seqs) with (fastupdate = off);
create table found_again (
  id integer generated always as identity primary key,
  list_id integer not null references found_list,
  at timestamptz not null,
  taken_by text not null,
  reason text not null
);
create index found_again_list on found_again (list_id);
create trigger kept before update or delete or truncate on found_list for each statement execute function refuse_change();
create trigger kept before update or delete or truncate on found_again for each statement execute function refuse_change();

-- A unit that was found as it was is recorded with the rest of its job, when that ends.
alter table job_item add column found_again text check (found_again in ('to-record', 'recorded'));
create index job_item_to_record on job_item (job_id) where found_again = 'to-record';

-- The newest look at each position: follows from the tables above, and is kept at hand for the register.
create table last_look (
  position_id uuid primary key references position,
  backup_id uuid not null references backup,
  at timestamptz not null,
  taken_by text not null,
  reason text not null,
  -- Monitors and counters at that moment.
  aside jsonb not null
);
create function look_with_backup() returns trigger language plpgsql as $$
begin
  insert into last_look values (new.position_id, new.id, new.taken_at, new.taken_by, new.reason, new.aside)
  on conflict (position_id) do update
    set backup_id = excluded.backup_id, at = excluded.at, taken_by = excluded.taken_by,
        reason = excluded.reason, aside = excluded.aside
    where last_look.at <= excluded.at;
  return null;
end $$;
create trigger look after insert on backup for each row execute function look_with_backup();
insert into last_look
  select distinct on (position_id) position_id, id, taken_at, taken_by, reason, aside
    from backup order by position_id, taken_at desc, seq desc;
`);
  }

  /** What was kept is never taken back. */
  down(): Promise<void> {
    throw new Error('restore a copy of the database instead');
  }
}
