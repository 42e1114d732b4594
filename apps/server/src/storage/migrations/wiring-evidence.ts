import type { MigrationInterface, QueryRunner } from 'typeorm';

/** A baseline stands for the wiring, too; photographs of a wiring. */
export class WiringEvidence1764000000021 implements MigrationInterface {
  name = 'WiringEvidence1764000000021';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      alter table baseline
        -- The wiring that was signed with it; nothing where the position had none.
        add column wiring_revision integer,
        add column wiring_hash text,
        add constraint baseline_wiring_whole check ((wiring_revision is null) = (wiring_hash is null));
      create table wiring_photo (
        id uuid primary key default gen_random_uuid(),
        position_id uuid not null references position,
        -- The wiring that was in force; 0 where none was kept.
        revision integer not null check (revision >= 0),
        caption text not null,
        width integer not null,
        height integer not null,
        content bytea not null,
        hash text not null,
        added_at timestamptz not null,
        added_by text not null,
        withdrawn_at timestamptz,
        withdrawn_by text,
        withdrawn_why text
      );
      create index wiring_photo_position on wiring_photo (position_id, added_at);
      create trigger kept before delete or truncate on wiring_photo
        for each statement execute function refuse_change();
      -- It can be withdrawn once; what was kept of it stays.
      create function only_withdrawing_photo() returns trigger language plpgsql as $$
      begin
        if old.withdrawn_at is null
           and (to_jsonb(new) - '{withdrawn_at,withdrawn_by,withdrawn_why}'::text[])
             = (to_jsonb(old) - '{withdrawn_at,withdrawn_by,withdrawn_why}'::text[]) then
          return new;
        end if;
        raise exception '% keeps what it holds: rows are neither changed nor deleted', tg_table_name;
      end $$;
      create trigger withdrawn before update on wiring_photo
        for each row execute function only_withdrawing_photo();
    `);
  }

  /** What was kept is never taken back. */
  down(): Promise<void> {
    throw new Error('restore a copy of the database instead');
  }
}
