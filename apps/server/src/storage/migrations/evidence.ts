import { createHash } from 'node:crypto';
import type { MigrationInterface, QueryRunner } from 'typeorm';

/** What counts as evidence, and the column that names a row. */
const SOURCES: Readonly<Record<string, string>> = {
  dictionary: 'id',
  set_content: 'hash',
  backup: 'seq',
  found_list: 'id',
  found_again: 'id',
  baseline: 'id',
  logbook: 'id',
};

const TABLES = `
-- Contents that could not be read back; a look-up for the register, made anew by every check.
create table damaged_content (
  hash text primary key,
  noticed_at timestamptz not null default now()
);

alter table dictionary add column files_hash text;
alter table dictionary disable trigger kept;
update dictionary set files_hash = 'sha256:' || encode(sha256(convert_to(
  model_file || chr(31) || parameters_file || chr(31) || coalesce(terminals_file, ''), 'UTF8')), 'hex');
alter table dictionary enable trigger kept;
alter table dictionary alter column files_hash set not null;

alter table baseline
  add column dictionary_hash text,
  -- Signature of the revision before.
  add column before text,
  add column signature text;

-- Rows of evidence wait here, from the transaction that made them, for the next link of the chain.
create table evidence_waiting (
  id bigint generated always as identity primary key,
  source text not null,
  key text not null
);
-- The chain: each link hashes rows of one table and the link before. The first eight bytes of each row's own digest stand
-- beside it, so that what was altered can be named.
create table evidence_link (
  place bigint primary key,
  form smallint not null,
  at timestamptz not null,
  source text not null,
  keys text[] not null,
  marks bytea not null,
  link bytea not null
);
create trigger kept before update or delete or truncate on evidence_link for each statement execute function refuse_change();
-- The last link, apart from the chain: a chain that lost its end is noticed.
create table evidence_head (
  id boolean primary key default true check (id),
  place bigint not null,
  link bytea not null
);
insert into evidence_head (place, link) values (0, sha256(''));

create table integrity_check (
  id bigint generated always as identity primary key,
  -- The day for which it was due; nothing for one that somebody has asked for.
  due date unique,
  person text not null,
  begun_at timestamptz not null default now(),
  report jsonb
);
`;

/** A damaged row may be mended with what its hash proves to be the same, and is changed by nothing else. */
const MENDING = `
create function only_mending_content() returns trigger language plpgsql as $$
begin
  if new.hash = old.hash and not new.packed
     and new.hash = 'sha256:' || encode(sha256(new.content), 'hex')
     and convert_from(new.content, 'UTF8')::jsonb ->> 'dictionary' = new.dictionary_id then
    return new;
  end if;
  raise exception '% keeps what it holds: rows are neither changed nor deleted', tg_table_name;
end $$;
create function only_mending_dictionary() returns trigger language plpgsql as $$
begin
  if (to_jsonb(new) - '{model_file,parameters_file,terminals_file}'::text[])
     = (to_jsonb(old) - '{model_file,parameters_file,terminals_file}'::text[])
     and new.files_hash = 'sha256:' || encode(sha256(convert_to(
       new.model_file || chr(31) || new.parameters_file || chr(31) || coalesce(new.terminals_file, ''), 'UTF8')), 'hex') then
    return new;
  end if;
  raise exception '% keeps what it holds: rows are neither changed nor deleted', tg_table_name;
end $$;
drop trigger kept on set_content;
create trigger kept before delete or truncate on set_content for each statement execute function refuse_change();
create trigger mended before update on set_content for each row execute function only_mending_content();
drop trigger kept on dictionary;
create trigger kept before delete or truncate on dictionary for each statement execute function refuse_change();
create trigger mended before update on dictionary for each row execute function only_mending_dictionary();
`;

/** A file that was imported is a set of its own time, not a look at the unit. */
const LOOKS = `
create or replace function look_with_backup() returns trigger language plpgsql as $$
begin
  if new.how = 'imported' then return null; end if;
  insert into last_look values (new.position_id, new.id, new.taken_at, new.taken_by, new.reason, new.aside)
  on conflict (position_id) do update
    set backup_id = excluded.backup_id, at = excluded.at, taken_by = excluded.taken_by,
        reason = excluded.reason, aside = excluded.aside
    where last_look.at <= excluded.at;
  return null;
end $$;
delete from last_look l using backup b where b.id = l.backup_id and b.how = 'imported';
insert into last_look
  select distinct on (b.position_id) b.position_id, b.id, b.taken_at, b.taken_by, b.reason, b.aside
    from backup b where b.how <> 'imported' and not exists (select 1 from last_look l where l.position_id = b.position_id)
   order by b.position_id, b.taken_at desc, b.seq desc;
`;

const WAITING = `
create function wait_for_link() returns trigger language plpgsql as $$
begin
  insert into evidence_waiting (source, key) values (tg_table_name, to_jsonb(new) ->> tg_argv[0]);
  return null;
end $$;
`;

interface Baseline {
  readonly id: string;
  readonly position_id: string;
  readonly revision: number;
  readonly content_hash: string;
  readonly signed_at: Date;
  readonly signed_by: string;
  readonly reason: string;
  readonly files_hash: string;
}

/**
 * From now on what was kept proves itself: rows of evidence are hashed in a chain, signatures stand for what was signed, and
 * equal content mends a damaged row. What an older installation holds is taken into the chain as it is found.
 */
export class Evidence1764000000014 implements MigrationInterface {
  name = 'Evidence1764000000014';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(TABLES);
    await this.signOlder(runner);
    await runner.query(MENDING);
    await runner.query(LOOKS);
    await runner.query(WAITING);
    for (const [source, key] of Object.entries(SOURCES)) {
      await runner.query(
        `insert into evidence_waiting (source, key) select '${source}', ${key}::text from ${source} order by ${key}`,
      );
      await runner.query(
        `create trigger linked after insert on ${source} for each row execute function wait_for_link('${key}')`,
      );
    }
  }

  /** Baselines that were signed before signatures were hashed; as `signatureOf` did at the time of this migration. */
  private async signOlder(runner: QueryRunner): Promise<void> {
    const rows = (await runner.query(
      `select b.*, d.files_hash from baseline b join set_content c on c.hash = b.content_hash
         join dictionary d on d.id = c.dictionary_id order by b.position_id, b.revision`,
    )) as Baseline[];
    await runner.query('alter table baseline disable trigger kept');
    const last = new Map<string, string>();
    for (const row of rows) {
      const before = last.get(row.position_id) ?? null;
      const facts = [row.position_id, row.revision, row.content_hash, row.files_hash];
      const text = JSON.stringify([
        ...facts,
        ...[row.signed_at.toISOString(), row.signed_by, row.reason, before],
      ]);
      const signature = `sha256:${createHash('sha256').update(text).digest('hex')}`;
      last.set(row.position_id, signature);
      await runner.query(
        'update baseline set dictionary_hash = $2, before = $3, signature = $4 where id = $1',
        [row.id, row.files_hash, before, signature],
      );
    }
    await runner.query(`
alter table baseline enable trigger kept;
alter table baseline alter column dictionary_hash set not null, alter column signature set not null;
`);
  }

  /** What was kept is never taken back. */
  down(): Promise<void> {
    throw new Error('restore a copy of the database instead');
  }
}
